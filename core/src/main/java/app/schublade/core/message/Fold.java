package app.schublade.core.message;

import java.text.Normalizer;
import java.util.LinkedHashSet;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/** Makes text comparable: case and accents do not matter, and words mean whole words. */
public final class Fold {
    private static final Pattern MARKS = Pattern.compile("\\p{M}+");
    private static final Pattern BETWEEN_WORDS = Pattern.compile("[^\\p{L}\\p{N}]+");

    /** Letters that Unicode does not take apart but people do. */
    private static final Map<Character, String> LETTERS =
            Map.of('ß', "ss", 'ø', "o", 'æ', "ae", 'œ', "oe", 'đ', "d", 'ł', "l", 'ı', "i", 'ς', "σ");

    private Fold() {}

    /** {@code "Überführung"} becomes {@code "uberfuhrung"}. */
    public static String text(String text) {
        String plain =
                MARKS.matcher(Normalizer.normalize(text, Normalizer.Form.NFKD)).replaceAll("");
        return replaceLetters(plain.toLowerCase(Locale.ROOT));
    }

    private static String replaceLetters(String lower) {
        StringBuilder folded = new StringBuilder(lower.length());
        for (int i = 0; i < lower.length(); i++) {
            String other = LETTERS.get(lower.charAt(i));
            if (other == null) {
                folded.append(lower.charAt(i));
            } else {
                folded.append(other);
            }
        }
        return folded.toString();
    }

    /** The folded words of a text in their order, each once. */
    public static Set<String> words(String text) {
        Set<String> words = new LinkedHashSet<>();
        for (String word : BETWEEN_WORDS.split(text(text), -1)) {
            if (!word.isEmpty()) {
                words.add(word);
            }
        }
        return words;
    }
}
