package app.schublade.core.query;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Condition.Need;
import app.schublade.core.filing.RuleInput;
import app.schublade.core.filing.State;
import app.schublade.core.place.FlagRef;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.TrayRef;
import java.time.LocalDate;
import java.util.Collection;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Which messages: of a list, a count, a run of rules. A value that means the same as a sentence, as a predicate over what rules
 * see, and as SQL (made in the store). What rules can ask of a message too is the same {@link Condition} as theirs.
 */
public sealed interface Query
        permits Query.All,
                Query.Any,
                Query.Without,
                Query.InFolder,
                Query.InTray,
                Query.Tickled,
                Query.Unread,
                Query.Dealt,
                Query.FlaggedAs,
                Query.OnDay,
                Query.OnList,
                Query.Meets,
                Words {
    /** All messages of a user. */
    static Query everything() {
        return new All(List.of());
    }

    /** Whether a message is meant. */
    boolean holds(RuleInput message);

    /** In words: {@code "in Loans and unread"}. */
    String sentence();

    <T> T accept(QueryVisitor<T> visitor);

    /** What of a message must be at hand for {@link #holds}. */
    default Set<Need> needs() {
        return Set.of();
    }

    /** Does something for each kind of query; a new kind does not compile until everybody who must know it does. */
    interface QueryVisitor<T> {
        T all(All query);

        T any(Any query);

        T without(Without query);

        T inFolder(InFolder query);

        T inTray(InTray query);

        T tickled(Tickled query);

        T unread(Unread query);

        T dealt(Dealt query);

        T flaggedAs(FlaggedAs query);

        T onDay(OnDay query);

        T onList(OnList query);

        T words(Words query);

        T meets(Meets query);
    }

    /** What both mean. Parts that are {@link All} themselves do not nest. */
    default Query and(Query other) {
        List<Query> parts = Stream.of(this, other)
                .flatMap(one -> one instanceof All all ? all.parts().stream() : Stream.of(one))
                .toList();
        return parts.size() == 1 ? parts.get(0) : new All(parts);
    }

    private static Set<Need> needs(Collection<Query> parts) {
        Set<Need> needs = EnumSet.noneOf(Need.class);
        parts.forEach(part -> needs.addAll(part.needs()));
        return needs;
    }

    private static String sentence(Collection<Query> parts, String word) {
        return parts.stream()
                .map(part -> part instanceof Any || (part instanceof All all && !all.parts.isEmpty())
                        ? "(" + part.sentence() + ")"
                        : part.sentence())
                .collect(Collectors.joining(word));
    }

    /** Those that every part means; without parts, everything. */
    record All(List<Query> parts) implements Query {
        public All {
            parts = List.copyOf(parts);
        }

        @Override
        public boolean holds(RuleInput message) {
            return parts.stream().allMatch(part -> part.holds(message));
        }

        @Override
        public Set<Need> needs() {
            return Query.needs(parts);
        }

        @Override
        public String sentence() {
            return parts.isEmpty() ? "anywhere" : Query.sentence(parts, " and ");
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.all(this);
        }
    }

    /** Those that at least one part means; without parts, none. */
    record Any(List<Query> parts) implements Query {
        public Any {
            parts = List.copyOf(parts);
        }

        @Override
        public boolean holds(RuleInput message) {
            return parts.stream().anyMatch(part -> part.holds(message));
        }

        @Override
        public Set<Need> needs() {
            return Query.needs(parts);
        }

        @Override
        public String sentence() {
            return parts.isEmpty() ? "nowhere" : Query.sentence(parts, " or ");
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.any(this);
        }
    }

    /** Those that a query does not mean. */
    record Without(Query query) implements Query {
        @Override
        public boolean holds(RuleInput message) {
            return !query.holds(message);
        }

        @Override
        public Set<Need> needs() {
            return query.needs();
        }

        @Override
        public String sentence() {
            return "not " + Query.sentence(List.of(query), "");
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.without(this);
        }
    }

    /** Those that lie in a folder. */
    record InFolder(FolderRef folder) implements Query {
        @Override
        public boolean holds(RuleInput message) {
            return message.state().folder() == folder.id();
        }

        @Override
        public String sentence() {
            return "in " + folder.path().shown();
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.inFolder(this);
        }
    }

    /** Those that lie in a tray while they are in the Inbox. */
    record InTray(TrayRef tray) implements Query {
        @Override
        public boolean holds(RuleInput message) {
            Long is = message.state().tray();
            return is != null && is == tray.id();
        }

        @Override
        public String sentence() {
            return "in the tray " + tray.name();
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.inTray(this);
        }
    }

    /** Those that wait for a day in the tickler, or came back from there into the Inbox. */
    record Tickled() implements Query {
        @Override
        public boolean holds(RuleInput message) {
            return message.state().until() != null;
        }

        @Override
        public String sentence() {
            return "with a day in the tickler";
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.tickled(this);
        }
    }

    /** Those that are unread. */
    record Unread() implements Query {
        @Override
        public boolean holds(RuleInput message) {
            return message.state().unread();
        }

        @Override
        public String sentence() {
            return "unread";
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.unread(this);
        }
    }

    /** What the user has done with a message, here or in another mail program. */
    enum Dealing {
        ANSWERED("answered"),
        FORWARDED("forwarded");

        private final String words;

        Dealing(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** Those that the user has answered or passed on. */
    record Dealt(Dealing how) implements Query {
        @Override
        public boolean holds(RuleInput message) {
            return switch (how) {
                case ANSWERED -> message.handled().answered();
                case FORWARDED -> message.handled().forwarded();
            };
        }

        @Override
        public String sentence() {
            return how.words();
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.dealt(this);
        }
    }

    /** Those that are flagged as one of the user's own flags. */
    record FlaggedAs(FlagRef flag) implements Query {
        @Override
        public boolean holds(RuleInput message) {
            Long is = message.state().flag();
            return is != null && is == flag.id();
        }

        @Override
        public String sentence() {
            return "flagged as " + flag.name();
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.flaggedAs(this);
        }
    }

    /** A day that a message has from what is done about it. */
    enum MessageDay {
        /** Until when something must be done about it. */
        DUE,
        /** When its flag was ticked off. */
        DONE;

        /** As one types it. */
        public String words() {
            return name().toLowerCase(Locale.ROOT);
        }

        @Nullable
        LocalDate of(State state) {
            return switch (this) {
                case DUE -> state.due() == null ? null : state.due().day();
                case DONE -> state.done();
            };
        }
    }

    /** Those whose day is one from the first to the last; what is left open does not matter. */
    record OnDay(
            MessageDay which,
            @Nullable LocalDate first,
            @Nullable LocalDate last) implements Query {
        /** Those that have such a day. */
        public OnDay(MessageDay which) {
            this(which, null, null);
        }

        @Override
        public boolean holds(RuleInput message) {
            LocalDate day = which.of(message.state());
            return day != null && (first == null || !day.isBefore(first)) && (last == null || !day.isAfter(last));
        }

        @Override
        public String sentence() {
            return which.words() + (first == null ? "" : " from " + first) + (last == null ? "" : " until " + last);
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.onDay(this);
        }
    }

    /**
     * Those of a mailing list, by its name.
     *
     * @param name its identifier (RFC 2919), or what stands before the first dot of that; in lower case
     */
    record OnList(String name) implements Query {
        public OnList {
            name = name.toLowerCase(Locale.ROOT);
        }

        @Override
        public boolean holds(RuleInput message) {
            String list = message.message().listId();
            return list != null && (list.equals(name) || list.startsWith(name + "."));
        }

        @Override
        public String sentence() {
            return "from the list " + name;
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.onList(this);
        }
    }

    /** Those that a condition of rules holds for. */
    record Meets(Condition condition) implements Query {
        @Override
        public boolean holds(RuleInput message) {
            return condition.heldBy(message) != null;
        }

        @Override
        public Set<Need> needs() {
            return condition.needs();
        }

        @Override
        public String sentence() {
            return condition.sentence();
        }

        @Override
        public <T> T accept(QueryVisitor<T> visitor) {
            return visitor.meets(this);
        }
    }
}
