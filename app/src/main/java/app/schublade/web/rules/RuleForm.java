package app.schublade.web.rules;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A rule as it is being edited: lines of a kind and a text, complete or not.
 *
 * @param id 0 for a new one
 */
public record RuleForm(
        long id, String name, boolean on, List<Line> when, List<Line> unless, List<Line> then, boolean last) {

    /** A new rule with nothing in it. */
    static final RuleForm EMPTY =
            new RuleForm(0, "", true, List.of(), List.of(), List.of(new Line(Kind.FILE, "")), false);

    /** How many lines a rule may have in each of its parts. */
    private static final int MAX_LINES = 20;

    private static final int MAX_TEXT = 2000;

    /** What a line is about. */
    public enum Kind {
        SENDER("from", "an address or a domain"),
        SENT_TO("sent to", "one of your addresses"),
        SUBJECT("subject has", "words"),
        LIST("mailing list", "the list's id"),
        ACCOUNT("account", "its name"),
        FILE("file into", "Folder / folder in it"),
        LABEL("label", "Label / label in it"),
        CATEGORY("category", "its name"),
        READ("mark as read", "");

        static final List<Kind> CONDITIONS = List.of(SENDER, SENT_TO, SUBJECT, LIST, ACCOUNT);
        static final List<Kind> EFFECTS = List.of(FILE, LABEL, CATEGORY, READ);

        private final String words;
        private final String hint;

        Kind(String words, String hint) {
            this.words = words;
            this.hint = hint;
        }

        public String words() {
            return words;
        }

        public String hint() {
            return hint;
        }

        public boolean needsText() {
            return this != READ;
        }

        /** The id of the list that proposes texts for it, or null. */
        public @Nullable String proposals() {
            return switch (this) {
                case SENT_TO, ACCOUNT, FILE, LABEL, CATEGORY -> "known-" + name().toLowerCase(java.util.Locale.ROOT);
                case SENDER, SUBJECT, LIST, READ -> null;
            };
        }
    }

    /** One line; several values stand with commas between them. */
    public record Line(Kind kind, String text) {
        boolean isBlank() {
            return kind.needsText() && text.isBlank();
        }
    }

    public RuleForm {
        when = List.copyOf(when);
        unless = List.copyOf(unless);
        then = List.copyOf(then);
    }

    /** A rule that is there, to be changed. */
    static RuleForm of(Rule rule) {
        return new RuleForm(
                rule.id(),
                rule.name(),
                rule.on(),
                rule.when().stream().map(RuleForm::line).toList(),
                rule.unless().stream().map(RuleForm::line).toList(),
                rule.then().stream().map(RuleForm::line).toList(),
                rule.last());
    }

    private static Line line(Condition condition) {
        if (condition instanceof Condition.Sender sender) {
            return new Line(Kind.SENDER, String.join(", ", sender.values()));
        }
        if (condition instanceof Condition.SentTo sentTo) {
            return new Line(Kind.SENT_TO, String.join(", ", sentTo.values()));
        }
        if (condition instanceof Condition.SubjectHas subject) {
            return new Line(Kind.SUBJECT, String.join(", ", subject.values()));
        }
        if (condition instanceof Condition.MailingList list) {
            return new Line(Kind.LIST, String.join(", ", list.values()));
        }
        List<String> names = ((Condition.InAccount) condition)
                .accounts().stream().map(Condition.AccountRef::name).toList();
        return new Line(Kind.ACCOUNT, String.join(", ", names));
    }

    private static Line line(Effect effect) {
        if (effect instanceof Effect.FileInto file) {
            return new Line(Kind.FILE, file.folder().path().shown());
        }
        if (effect instanceof Effect.Label label) {
            return new Line(Kind.LABEL, label.label().path().shown());
        }
        if (effect instanceof Effect.Categorise category) {
            return new Line(Kind.CATEGORY, category.category().name());
        }
        return new Line(Kind.READ, "");
    }

    /** Puts kinds and texts together as they come from the page. */
    static List<Line> lines(@Nullable List<String> kinds, @Nullable List<String> texts) {
        List<Line> lines = new ArrayList<>();
        for (int i = 0; kinds != null && texts != null && i < Math.min(kinds.size(), texts.size()); i++) {
            if (lines.size() == MAX_LINES) {
                throw new IllegalArgumentException("A rule has at most %d lines in each part.".formatted(MAX_LINES));
            }
            String text = texts.get(i).substring(0, Math.min(texts.get(i).length(), MAX_TEXT));
            lines.add(new Line(Kind.valueOf(kinds.get(i)), text));
        }
        return lines;
    }

    /** Whether it files messages into a folder. */
    public boolean moves() {
        return then.stream().anyMatch(line -> line.kind() == Kind.FILE && !line.isBlank());
    }

    /** With one more line at the end of a part. */
    RuleForm plus(Part part) {
        Line line = new Line(part == Part.THEN ? Kind.LABEL : Kind.SENDER, "");
        List<Line> longer = new ArrayList<>(lines(part));
        longer.add(line);
        return with(part, longer);
    }

    /** Without one line of a part. */
    RuleForm minus(Part part, int index) {
        List<Line> shorter = new ArrayList<>(lines(part));
        if (index >= 0 && index < shorter.size()) {
            shorter.remove(index);
        }
        return with(part, shorter);
    }

    /** The three parts of a rule. */
    enum Part {
        WHEN,
        UNLESS,
        THEN
    }

    private List<Line> lines(Part part) {
        return switch (part) {
            case WHEN -> when;
            case UNLESS -> unless;
            case THEN -> then;
        };
    }

    private RuleForm with(Part part, List<Line> lines) {
        return new RuleForm(
                id,
                name,
                on,
                part == Part.WHEN ? lines : when,
                part == Part.UNLESS ? lines : unless,
                part == Part.THEN ? lines : then,
                last);
    }
}
