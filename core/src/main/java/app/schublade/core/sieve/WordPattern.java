package app.schublade.core.sieve;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Whole words as an extended regular expression of POSIX, which is what scripts have: {@code "port"} is not in
 * {@code "report"}. One word after the other makes a phrase.
 */
final class WordPattern {
    private static final String NO_WORD = "[^[:alnum:]]";
    private static final String BEGIN = "(^|" + NO_WORD + ")";
    private static final String END = "(" + NO_WORD + "|$)";
    private static final Pattern BETWEEN = Pattern.compile("[^\\p{L}\\p{N}]+");

    private WordPattern() {}

    /** The words of a text, as they are written. */
    static List<String> words(String text) {
        return Stream.of(BETWEEN.split(text, -1))
                .filter(word -> !word.isEmpty())
                .toList();
    }

    /** Some words one after the other. */
    static String of(List<String> words) {
        return words.stream().collect(Collectors.joining(NO_WORD + "+", BEGIN, END));
    }

    /** A word with the signs that belong to it: {@code c++}. */
    static String signed(String word) {
        return BEGIN + literal(word);
    }

    /** The words that an expression was made of, with blanks between them; null if it was made otherwise. */
    static @Nullable String read(String expression) {
        if (!expression.startsWith(BEGIN) || !expression.endsWith(END)) {
            return null;
        }
        String words = expression
                .substring(BEGIN.length(), Math.max(BEGIN.length(), expression.length() - END.length()))
                .replace(NO_WORD + "+", " ");
        return of(words(words)).equals(expression) ? words : null;
    }

    /** A text as an expression that fits it alone. */
    static String literal(String text) {
        return Pattern.compile("[.\\[\\]{}()*+?|^$\\\\]")
                .matcher(text)
                .replaceAll(sign -> Matcher.quoteReplacement("\\" + sign.group()));
    }
}
