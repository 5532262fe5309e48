package app.schublade.core.filing;

import app.schublade.core.filing.Text.Match;
import app.schublade.core.message.Trait;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.problem.InputProblem;
import java.time.DayOfWeek;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A condition as words, as it is kept and as it is typed: what it is about, how that is compared, with which values.
 *
 * @param match how text is compared; null for what is no text
 * @param negated whether the condition must not hold
 * @param values of a header field the first one is its name, of a conversation what it is about
 * @param parts of a group
 */
public record Term(TermKind kind, @Nullable Match match, boolean negated, List<String> values, List<Term> parts) {

    /** What a condition is about. */
    public enum TermKind {
        SENDER("from", "an address, a domain, or *.domain"),
        SENDER_NAME("sender’s name", "words"),
        REPLY_TO("reply to", "an address or a domain"),
        SENT_TO("sent to", "an address, +tag or *@domain"),
        ACCOUNT("account", "its name"),
        SUBJECT("subject", "words"),
        BODY("body", "words"),
        SUBJECT_OR_BODY("subject or body", "words"),
        HEADER("header", "Field: words"),
        LIST("mailing list", "the list’s id"),
        CONVERSATION("in the conversation", "what it is about, then Message-IDs"),
        IS("it is", "addressed to me alone, automated mail, …"),
        ATTACHMENT_NAME("attachment named", "*.pdf"),
        ATTACHMENT_KIND("attachment of kind", "pdf, image"),
        ATTACHMENT_LARGER("an attachment over", "2 MB"),
        LARGER("larger than", "2 MB"),
        SMALLER("smaller than", "20 KB"),
        DATES("received", "2026-12-20 to 2027-01-06"),
        WEEKDAYS("received on", "Saturday, Sunday"),
        HOURS("received between", "7:15 to 18:00"),
        LABEL("has the label", "Label / label in it"),
        CATEGORY("has the category", "its name"),
        GROUP("from the group", "its name"),
        FLAGGED("is flagged", ""),
        ALL("all of", ""),
        ANY("any of", "");

        private final String words;
        private final String hint;

        TermKind(String words, String hint) {
            this.words = words;
            this.hint = hint;
        }

        public String words() {
            return words;
        }

        /** What can be typed. */
        public String hint() {
            return hint;
        }

        /** Whether it is about text, which can be compared in several ways. */
        public boolean isText() {
            return switch (this) {
                case SENDER_NAME, SUBJECT, BODY, SUBJECT_OR_BODY, HEADER -> true;
                default -> false;
            };
        }

        /** Whether it is about days of the calendar. */
        public boolean isOfDays() {
            return this == DATES;
        }

        public boolean isGroup() {
            return this == ALL || this == ANY;
        }

        public boolean needsValues() {
            return this != FLAGGED && !isGroup();
        }
    }

    public Term {
        values = List.copyOf(values);
        parts = List.copyOf(parts);
    }

    /** What values mean that name something of the user's own, and how it is named. */
    public interface Names {
        /** @throws InputProblem with a sentence for the user if there is none, as the others */
        InAccount.Ref account(String value);

        LabelRef label(String value);

        CategoryRef category(String value);

        /** A group of people, by its name as it is written. */
        String group(String value);

        /** Who is meant where an address is asked for and a name is there. */
        Condition called(Correspondent.Role role, String name);

        /** The identifiers of a list that is called so (RFC 2919). */
        List<String> lists(String name);

        String of(InAccount.Ref account);

        String of(LabelRef label);

        String of(CategoryRef category);
    }

    private static Term of(TermKind kind, List<String> values) {
        return new Term(kind, null, false, values, List.of());
    }

    /** A condition in words. */
    public static Term of(Condition condition, Names names) {
        return condition.accept(new Words(names));
    }

    /** Says each kind of condition in words. */
    private record Words(Names names) implements Condition.ConditionVisitor<Term, RuntimeException> {
        @Override
        public Term not(Not not) {
            Term term = not.condition().accept(this);
            return new Term(term.kind, term.match, !term.negated, term.values, term.parts);
        }

        @Override
        public Term group(Group group) {
            List<Term> parts =
                    group.parts().stream().map(part -> part.accept(this)).toList();
            return new Term(group.all() ? TermKind.ALL : TermKind.ANY, null, false, List.of(), parts);
        }

        @Override
        public Term text(Text text) {
            List<String> values = text.where() == Text.Where.HEADER
                    ? Stream.concat(Stream.of(text.header()), text.values().stream())
                            .toList()
                    : text.values();
            return new Term(TermKind.valueOf(text.where().name()), text.match(), false, values, List.of());
        }

        @Override
        public Term correspondent(Correspondent one) {
            return of(one.role() == Correspondent.Role.SENDER ? TermKind.SENDER : TermKind.REPLY_TO, one.values());
        }

        @Override
        public Term sentTo(SentTo sentTo) {
            return of(TermKind.SENT_TO, sentTo.values());
        }

        @Override
        public Term fromList(FromList list) {
            return of(TermKind.LIST, list.values());
        }

        @Override
        public Term inConversation(InConversation in) {
            return of(
                    TermKind.CONVERSATION,
                    Stream.concat(Stream.of(in.about()), in.ids().stream()).toList());
        }

        @Override
        public Term inAccount(InAccount in) {
            return of(TermKind.ACCOUNT, in.accounts().stream().map(names::of).toList());
        }

        @Override
        public Term traits(Traits traits) {
            return of(TermKind.IS, traits.values().stream().map(Trait::words).toList());
        }

        @Override
        public Term attached(Attached attached) {
            return of(
                    attached.by() == Attached.By.NAME ? TermKind.ATTACHMENT_NAME : TermKind.ATTACHMENT_KIND,
                    attached.values());
        }

        @Override
        public Term sized(Sized sized) {
            TermKind kind = sized.attachment()
                    ? TermKind.ATTACHMENT_LARGER
                    : sized.larger() ? TermKind.LARGER : TermKind.SMALLER;
            Term term = of(kind, List.of(Sized.inWords(sized.bytes())));
            return term.bytes() == sized.bytes() ? term : of(kind, List.of(sized.bytes() + " bytes"));
        }

        @Override
        public Term receivedAt(ReceivedAt at) {
            if (!at.days().isEmpty()) {
                return of(
                        TermKind.WEEKDAYS,
                        new TreeSet<>(at.days()).stream().map(Term::capital).toList());
            }
            if (at.first() != null || at.last() != null) {
                String dates = at.last() == null
                        ? "from " + at.first()
                        : at.first() == null ? "until " + at.last() : at.first() + " to " + at.last();
                return of(TermKind.DATES, List.of(dates));
            }
            return of(TermKind.HOURS, List.of(at.hours()));
        }

        @Override
        public Term inGroup(InGroup in) {
            return of(TermKind.GROUP, in.groups());
        }

        @Override
        public Term marked(Marked marked) {
            if (marked.flag()) {
                return of(TermKind.FLAGGED, List.of());
            }
            return marked.labels().isEmpty()
                    ? of(
                            TermKind.CATEGORY,
                            marked.categories().stream().map(names::of).toList())
                    : of(TermKind.LABEL, marked.labels().stream().map(names::of).toList());
        }
    }

    private static String capital(DayOfWeek day) {
        return day.name().charAt(0) + day.name().substring(1).toLowerCase(Locale.ROOT);
    }

    /**
     * The condition that the words mean.
     *
     * @throws InputProblem with a sentence for the user if they mean none
     */
    public Condition condition(Names names) {
        Condition condition = plain(names);
        return negated ? new Not(condition) : condition;
    }

    private Condition plain(Names names) {
        return switch (kind) {
            case SENDER -> people(Correspondent.Role.SENDER, names);
            case REPLY_TO -> people(Correspondent.Role.REPLY_TO, names);
            case SENT_TO -> new SentTo(TypedValues.addresses(values, true));
            case ACCOUNT -> new InAccount(values.stream().map(names::account).toList());
            case SUBJECT, BODY, SUBJECT_OR_BODY, SENDER_NAME -> text(Text.Where.valueOf(kind.name()), "", values);
            case HEADER ->
                text(
                        Text.Where.HEADER,
                        values.isEmpty() ? "" : values.get(0),
                        values.subList(Math.min(1, values.size()), values.size()));
            case LIST ->
                new FromList(values.stream()
                        .flatMap(value -> isName(value) ? names.lists(value).stream() : Stream.of(value))
                        .toList());
            case CONVERSATION -> conversation();
            case IS -> new Traits(values.stream().map(Trait::of).toList());
            case ATTACHMENT_NAME -> new Attached(Attached.By.NAME, values);
            case ATTACHMENT_KIND -> new Attached(Attached.By.KIND, values);
            case ATTACHMENT_LARGER -> new Sized(true, true, bytes());
            case LARGER -> new Sized(false, true, bytes());
            case SMALLER -> new Sized(false, false, bytes());
            case DATES -> TypedValues.dates(value());
            case WEEKDAYS -> ReceivedAt.on(TypedValues.weekdays(values));
            case HOURS -> TypedValues.hours(value());
            case LABEL -> new Marked(values.stream().map(names::label).toList(), List.of(), false);
            case CATEGORY ->
                new Marked(List.of(), values.stream().map(names::category).toList(), false);
            case GROUP -> new InGroup(values.stream().map(names::group).toList());
            case FLAGGED -> new Marked(List.of(), List.of(), true);
            case ALL, ANY ->
                new Group(
                        kind == TermKind.ALL,
                        parts.stream().map(part -> part.condition(names)).toList());
        };
    }

    private Condition people(Correspondent.Role role, Names names) {
        List<String> addresses = new ArrayList<>();
        List<Condition> others = new ArrayList<>();
        for (String value : TypedValues.addresses(values, false)) {
            Condition meant = isName(value) ? names.called(role, value) : new Correspondent(role, List.of(value));
            if (meant instanceof Correspondent one) {
                addresses.addAll(one.values());
            } else {
                others.add(meant);
            }
        }
        if (!addresses.isEmpty() || others.isEmpty()) {
            others.add(0, new Correspondent(role, addresses));
        }
        return others.size() == 1 ? others.get(0) : new Group(false, others);
    }

    /** Addresses, domains and the identifiers of lists have a dot in them. */
    private static boolean isName(String value) {
        return !value.contains("@") && !value.contains(".");
    }

    private Text text(Text.Where where, String header, List<String> texts) {
        return new Text(where, header, match == null ? Match.WORDS : match, texts);
    }

    private InConversation conversation() {
        if (values.size() < 2) {
            throw new InputProblem(
                    "A conversation is told by what it is about and the Message-ID of one of its messages; press M at one.");
        }
        return new InConversation(values.get(0), values.subList(1, values.size()));
    }

    private String value() {
        return values.isEmpty() ? "" : values.get(0).strip();
    }

    /** A comma may be that of a fraction. */
    private long bytes() {
        return TypedValues.bytes(String.join(",", values));
    }
}
