package app.schublade.core.filing;

import app.schublade.core.problem.InputProblem;
import app.schublade.core.words.Fold;
import app.schublade.core.words.WordSplitter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What stands in the subject, the body, a header field or the sender's name. Case and accents do not matter, and how much
 * white space there is between words.
 *
 * @param header the name of the header field, empty for the other places
 */
public record Text(Where where, String header, Match match, List<String> values, List<TextTest> tests)
        implements Condition {
    /** So much of a phrase is looked up. */
    private static final int MAX_KEY = 60;

    /** Where the text stands. */
    public enum Where {
        SUBJECT("subject"),
        BODY("body"),
        SUBJECT_OR_BODY("subject or body"),
        SENDER_NAME("sender’s name"),
        HEADER("header");

        private final String words;

        Where(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** How the text is compared. */
    public enum Match {
        /** All the words, whole, in any order. */
        WORDS("has"),
        /** The words, whole, one after the other. */
        PHRASE("has the phrase"),
        /** The signs, within words too. */
        CONTAINS("contains"),
        STARTS("starts with"),
        ENDS("ends with"),
        IS("is"),
        /** As above, of a subject without what answers and lists put before it: Re:, AW:, Fwd:, [rowers]. */
        STARTS_AFTER_RE("starts with, after any Re:"),
        IS_AFTER_RE("is, after any Re:"),
        /** The whole text, with {@code *} for any signs and {@code ?} for one. */
        WILDCARD("looks like"),
        /** A part of the text, in the syntax of RE2. */
        REGEX("matches");

        private final String words;

        Match(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** @throws InputProblem with a sentence for the user if a value is no regular expression */
    public Text(Where where, String header, Match match, List<String> values) {
        this(
                where,
                header,
                match,
                values,
                values.stream().map(value -> TextTest.of(match, value)).toList());
    }

    public Text {
        values = List.copyOf(values);
        tests = List.copyOf(tests);
        if (where == Where.HEADER && header.isBlank()) {
            throw new InputProblem("Which header field? Give its name.");
        }
    }

    /** Words in the subject. */
    public static Text subject(String... values) {
        return new Text(Where.SUBJECT, "", Match.WORDS, List.of(values));
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        return switch (where) {
            case SUBJECT -> heldBy(matter.subject(), "subject");
            case BODY -> heldBy(matter.body(), "body");
            case SENDER_NAME -> heldBy(matter.senderName(), "sender’s name");
            case SUBJECT_OR_BODY -> {
                String subject = heldBy(matter.subject(), "subject");
                yield subject == null ? heldBy(matter.body(), "body") : subject;
            }
            case HEADER -> {
                for (RuleInput.Folded value : matter.header(header)) {
                    String held = heldBy(value, header);
                    if (held != null) {
                        yield held;
                    }
                }
                yield null;
            }
        };
    }

    private @Nullable String heldBy(RuleInput.Folded text, String name) {
        for (int i = 0; i < tests.size(); i++) {
            if (tests.get(i).fits(text)) {
                return name + " " + match.words + " “" + values.get(i) + "”";
            }
        }
        return null;
    }

    @Override
    public @Nullable Trigger trigger() {
        List<Trigger.TriggerKey> keys = new ArrayList<>();
        for (String value : values) {
            for (String key : keys(value)) {
                if (key.isBlank()) {
                    return null;
                }
                switch (where) {
                    case SUBJECT -> keys.add(new Trigger.TriggerKey(Trigger.TriggerKind.SUBJECT, key));
                    case BODY -> keys.add(new Trigger.TriggerKey(Trigger.TriggerKind.BODY, key));
                    case SUBJECT_OR_BODY -> {
                        keys.add(new Trigger.TriggerKey(Trigger.TriggerKind.SUBJECT, key));
                        keys.add(new Trigger.TriggerKey(Trigger.TriggerKind.BODY, key));
                    }
                    case SENDER_NAME -> keys.add(new Trigger.TriggerKey(Trigger.TriggerKind.SENDER_NAME, key));
                    case HEADER ->
                        keys.add(new Trigger.TriggerKey(
                                Trigger.TriggerKind.HEADER, header.toLowerCase(Locale.ROOT) + ":" + key));
                }
            }
        }
        return new Trigger(keys);
    }

    /** A text as one line, folded; and as it is written without umlauts, if it has any. */
    static List<String> lines(String text) {
        return forms(text).stream().map(Fold::line).toList();
    }

    /** The words of a text one after the other, folded; and as they are written without umlauts, if they have any. */
    static List<String> phrases(String text) {
        return forms(text).stream().map(Fold::phrase).toList();
    }

    private static List<String> forms(String text) {
        String written = Fold.withoutUmlauts(text);
        return written.equals(text) ? List.of(text) : List.of(text, written);
    }

    /** Those of which one must stand in the text for the value to fit, their words with one blank between them. */
    private List<String> keys(String value) {
        return switch (match) {
            case WORDS -> word(value);
            case PHRASE -> phrases(value).stream().map(Text::beginning).toList();
            case CONTAINS, STARTS, ENDS, IS, STARTS_AFTER_RE, IS_AFTER_RE ->
                phrases(value).stream().map(key -> beginning(key.strip())).toList();
            case WILDCARD -> forms(value).stream().map(Text::piece).toList();
            case REGEX -> List.of(RegexWord.in(Fold.withoutMarks(value)));
        };
    }

    /** The longest word, in all its forms; signs that belong to it are not looked up. */
    private static List<String> word(String value) {
        return WordSplitter.of(value).stream()
                .max(Comparator.comparingInt(word -> word.word().length()))
                .map(word -> word.isSigned() ? List.of(word.word()) : word.forms())
                .orElse(List.of(""))
                .stream()
                .map(form -> longest(List.of(form), " "))
                .toList();
    }

    private static String piece(String value) {
        return longest(
                Stream.of(Fold.text(value).split("[*?]+", -1))
                        .map(piece -> Fold.phrase(piece).strip())
                        .toList(),
                "");
    }

    private static String longest(Iterable<String> words, String border) {
        String longest = "";
        for (String word : words) {
            longest = word.length() > longest.length() ? word : longest;
        }
        return longest.isEmpty() || longest.length() > MAX_KEY ? beginning(longest) : border + longest + border;
    }

    private static String beginning(String text) {
        if (text.length() <= MAX_KEY) {
            return text;
        }
        return text.substring(0, Character.isHighSurrogate(text.charAt(MAX_KEY - 1)) ? MAX_KEY - 1 : MAX_KEY);
    }

    @Override
    public Set<Need> needs() {
        return switch (where) {
            case BODY, SUBJECT_OR_BODY -> Set.of(Need.BODY);
            case HEADER -> Set.of(Need.HEADERS);
            case SUBJECT, SENDER_NAME -> Set.of();
        };
    }

    @Override
    public String sentence() {
        return (where == Where.HEADER ? header : where.words) + " " + match.words + " " + Condition.quoted(values);
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.text(this);
    }
}
