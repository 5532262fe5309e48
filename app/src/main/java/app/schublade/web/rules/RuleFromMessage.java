package app.schublade.web.rules;

import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.FromList;
import app.schublade.core.filing.InConversation;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Term.TermKind;
import app.schublade.core.message.SubjectStem;
import app.schublade.core.query.Query;
import app.schublade.core.query.Words;
import app.schublade.store.message.ListRow;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Fills a new rule from a message: by one of the things that may be typical of it. */
final class RuleFromMessage {
    /** A comma ends a value. */
    private static final Pattern TYPEABLE = Pattern.compile("[^\\s,]+@[^\\s,]+");

    private RuleFromMessage() {}

    /** What mail like a message is told by. */
    enum Basis {
        LIST,
        SENDER,
        PERSON,
        DOMAIN,
        ALIAS,
        SUBJECT,
        CONVERSATION;

        /** As an address names it. */
        String parameter() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * One of the ways to tell mail like a message.
     *
     * @param said {@code "everybody at wharf.example"}
     * @param when the rule's lines
     * @param query the mail that is there already
     */
    record Way(Basis basis, String said, List<ConditionLine> when, Query query) {}

    /**
     * Those that fit a message, the likeliest first.
     *
     * @param alsoFrom other addresses of its sender
     * @param conversation ids of messages of its conversation, its own among them
     */
    static List<Way> ways(ListRow row, List<String> alsoFrom, List<String> conversation) {
        List<Way> ways = new ArrayList<>();
        String list = row.listId();
        if (list != null) {
            ways.add(new Way(
                    Basis.LIST,
                    "this list",
                    List.of(new ConditionLine(TermKind.LIST, list)),
                    new Query.Meets(new FromList(List.of(list)))));
        }
        String sender = row.sender().key();
        String domain = row.sender().domain();
        Query fromSender = new Query.Meets(Correspondent.sender(sender));
        ConditionLine line = new ConditionLine(TermKind.SENDER, sender);
        if (sender.contains("@")) {
            ways.add(new Way(Basis.SENDER, "this sender", List.of(line), fromSender));
            if (!alsoFrom.isEmpty()) {
                List<String> all =
                        Stream.concat(Stream.of(sender), alsoFrom.stream()).toList();
                ways.add(new Way(
                        Basis.PERSON,
                        "this person, also as " + String.join(", ", alsoFrom),
                        List.of(new ConditionLine(TermKind.SENDER, String.join(", ", all))),
                        new Query.Meets(Correspondent.sender(all.toArray(String[]::new)))));
            }
            ways.add(new Way(
                    Basis.DOMAIN,
                    "everybody at " + domain,
                    List.of(new ConditionLine(TermKind.SENDER, domain)),
                    new Query.Meets(Correspondent.sender(domain))));
        }
        String alias = row.alias();
        if (alias != null) {
            ways.add(new Way(
                    Basis.ALIAS,
                    "sent to " + alias,
                    List.of(new ConditionLine(TermKind.SENT_TO, alias)),
                    new Query.Meets(new SentTo(List.of(alias)))));
        }
        String stem = SubjectStem.of(row.subject()).replace(",", "");
        if (!stem.isBlank() && sender.contains("@")) {
            ways.add(new Way(
                    Basis.SUBJECT,
                    "this subject of this sender",
                    List.of(line, new ConditionLine(TermKind.SUBJECT, stem)),
                    fromSender.and(subject(stem))));
        }
        List<String> ids =
                conversation.stream().filter(TYPEABLE.asMatchPredicate()).toList();
        if (!ids.isEmpty()) {
            String subject = SubjectStem.withoutPrefixes(row.subject()).replace(",", "");
            String about = subject.isBlank() ? "(no subject)" : subject;
            ways.add(new Way(
                    Basis.CONVERSATION,
                    "this conversation from now on",
                    List.of(new ConditionLine(TermKind.CONVERSATION, about + ", " + String.join(", ", ids))),
                    new Query.Meets(new InConversation(about, ids))));
        }
        return ways;
    }

    /** All its words, as a rule asks for them. */
    private static Query subject(String stem) {
        List<Query> words = new ArrayList<>();
        for (String word : stem.split("\\s+", -1)) {
            words.add(new Words(Words.WordField.SUBJECT, word, true));
        }
        return new Query.All(words);
    }

    /** The way that was chosen; the likeliest if none was. */
    static @Nullable Way chosen(List<Way> ways, @Nullable String basis) {
        return ways.stream()
                .filter(one -> one.basis.parameter().equals(basis))
                .findFirst()
                .orElse(ways.isEmpty() ? null : ways.get(0));
    }

    /** @param folder into which it files, as it is typed; empty if that is still to be said */
    static RuleForm form(Way way, String folder) {
        return new RuleForm(
                0,
                "",
                true,
                way.when,
                List.of(),
                List.of(new RuleForm.ActionLine(RuleForm.RuleAction.FILE, folder)),
                false);
    }
}
