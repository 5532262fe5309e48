package app.schublade.core.filing;

import app.schublade.core.problem.InputProblem;
import app.schublade.core.words.Fold;
import app.schublade.core.words.WordSplitter;
import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.util.List;

/** One value of a condition about text, made ready for comparing. */
sealed interface TextTest {
    /** How long a value may be. */
    int MAX_LENGTH = 1000;

    int MAX_PROGRAM = 10_000;
    int MAX_REPETITIONS = 1000;
    java.util.regex.Pattern COUNT = java.util.regex.Pattern.compile("(\\d{1,9})\\s*\\}");

    boolean fits(RuleInput.Folded text);

    /** @throws InputProblem with a sentence for the user if the value cannot be used */
    static TextTest of(Text.Match match, String value) {
        if (value.length() > MAX_LENGTH) {
            throw new InputProblem("“%s…” has %,d characters; %,d is the limit."
                    .formatted(value.substring(0, 20), value.length(), MAX_LENGTH));
        }
        return switch (match) {
            case WORDS ->
                new WordTest(WordSplitter.of(value).stream()
                        .map(word ->
                                word.forms().stream().map(" %s "::formatted).toList())
                        .toList());
            case PHRASE -> new Phrase(Text.phrases(value), Fold.signedWords(value));
            case CONTAINS, STARTS, ENDS, IS -> new Literal(match, false, Text.lines(value));
            case STARTS_AFTER_RE -> new Literal(Text.Match.STARTS, true, Text.lines(value));
            case IS_AFTER_RE -> new Literal(Text.Match.IS, true, Text.lines(value));
            case WILDCARD ->
                new Wildcard(Text.lines(value).stream().map(WildcardPattern::of).toList());
            case REGEX -> new Regex(regex(value));
        };
    }

    /** Its cost is linear in the text, but also in the size of the program that it becomes. */
    private static Pattern regex(String value) {
        try {
            if (repetitions(value) <= MAX_REPETITIONS) {
                Pattern pattern = Pattern.compile(Fold.withoutMarks(value), Pattern.CASE_INSENSITIVE);
                if (pattern.programSize() <= MAX_PROGRAM) {
                    return pattern;
                }
            }
            throw new InputProblem(
                    "“%s” repeats too much, such as {1000} within {1000}; make it simpler.".formatted(value));
        } catch (PatternSyntaxException e) {
            throw new InputProblem("“%s” is not a regular expression: %s.".formatted(value, e.getDescription()), e);
        }
    }

    /** All counts in braces, multiplied, as if they stood in each other. */
    private static double repetitions(String expression) {
        return COUNT.matcher(expression)
                .results()
                .mapToDouble(count -> Double.parseDouble(count.group(1)))
                .reduce(1, (product, count) -> product * Math.max(1, count));
    }

    /** All of the words, each in one of its forms, with a blank on either side; no words never fit. */
    record WordTest(List<List<String>> words) implements TextTest {
        @Override
        public boolean fits(RuleInput.Folded text) {
            if (words.isEmpty()) {
                return false;
            }
            for (List<String> forms : words) {
                if (!hasOne(text, forms)) {
                    return false;
                }
            }
            return true;
        }
    }

    private static boolean hasOne(RuleInput.Folded text, List<String> phrases) {
        for (String phrase : phrases) {
            if (text.has(phrase)) {
                return true;
            }
        }
        return false;
    }

    /**
     * Words one after the other.
     *
     * @param forms of all of them
     * @param signed those that signs belong to, which must stand somewhere
     */
    record Phrase(List<String> forms, List<String> signed) implements TextTest {
        @Override
        public boolean fits(RuleInput.Folded text) {
            return !forms.get(0).isBlank()
                    && hasOne(text, forms)
                    && signed.stream().allMatch(word -> text.has(" " + word + " "));
        }
    }

    /**
     * The signs themselves.
     *
     * @param bare whether what answers and lists put before a subject does not count
     * @param words those of the forms that it is enough to find anywhere, as the index does
     */
    record Literal(Text.Match match, boolean bare, List<String> forms, List<String> words) implements TextTest {
        Literal(Text.Match match, boolean bare, List<String> forms) {
            this(
                    match,
                    bare,
                    forms,
                    match == Text.Match.CONTAINS
                            ? forms.stream().filter(Literal::isWord).toList()
                            : List.of());
        }

        @Override
        public boolean fits(RuleInput.Folded text) {
            for (String word : words) {
                if (text.wasFound(word)) {
                    return true;
                }
            }
            for (String line : bare ? text.bareLines() : text.lines()) {
                for (String value : forms) {
                    if (fits(line, value)) {
                        return true;
                    }
                }
            }
            return false;
        }

        /** Nothing but what stands in words, so that it is looked up as it is. */
        private static boolean isWord(String value) {
            return !value.isEmpty() && Fold.phrase(value).equals(" " + value + " ") && value.indexOf(' ') < 0;
        }

        private boolean fits(String line, String value) {
            if (value.isEmpty()) {
                return match == Text.Match.IS && line.isEmpty();
            }
            return switch (match) {
                case STARTS -> line.startsWith(value);
                case ENDS -> line.endsWith(value);
                case IS -> line.equals(value);
                default -> line.contains(value);
            };
        }
    }

    /** The whole text. */
    record Wildcard(List<WildcardPattern> forms) implements TextTest {
        @Override
        public boolean fits(RuleInput.Folded text) {
            return forms.stream().anyMatch(form -> text.lines().stream().anyMatch(form::fits));
        }
    }

    /** A part of the text. */
    record Regex(Pattern pattern) implements TextTest {
        @Override
        public boolean fits(RuleInput.Folded text) {
            return pattern.matcher(text.withoutMarks()).find();
        }
    }
}
