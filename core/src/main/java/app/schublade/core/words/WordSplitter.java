package app.schublade.core.words;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * The words of a text one behind the other, folded as {@link Fold} does it, with the other forms that people look for: {@code
 * Müller} is {@code muller} and {@code mueller}, and {@code C++} is {@code c} and {@code c++}.
 */
public final class WordSplitter {
    private WordSplitter() {}

    /**
     * A word.
     *
     * @param word folded
     * @param also another form of it, or null
     * @param start where it begins in the text
     */
    public record SplitWord(String word, @Nullable String also, int start) {
        /** The forms that a word which is looked for may have. */
        public List<String> forms() {
            return also == null ? List.of(word) : isSigned() ? List.of(also) : List.of(word, also);
        }

        /** {@code c++}: whoever types the signs means them. */
        public boolean isSigned() {
            return also != null && (also.endsWith("+") || also.endsWith("#"));
        }

        /** Whether one of the forms of a word that is looked for is this. */
        public boolean is(List<String> forms) {
            return forms.contains(word) || (also != null && forms.contains(also));
        }

        /** Whether this begins with one of the forms of a word that is looked for. */
        public boolean beginsWith(List<String> forms) {
            return forms.stream().anyMatch(form -> word.startsWith(form) || (also != null && also.startsWith(form)));
        }

        /** Whether one of the forms of a word that is looked for is a part of this. */
        public boolean has(List<String> forms) {
            return forms.stream().anyMatch(form -> word.contains(form) || (also != null && also.contains(form)));
        }
    }

    /** All words of a text. */
    public static List<SplitWord> of(String text) {
        List<SplitWord> all = new ArrayList<>();
        forEach(text, all::add);
        return all;
    }

    /** Shows the words of a text in their order. */
    public static void forEach(String text, Consumer<SplitWord> visitor) {
        int begin = -1;
        boolean alone = false;
        for (int i = 0; i < text.length(); ) {
            int sign = text.codePointAt(i);
            int next = i + Character.charCount(sign);
            boolean goesOn = begin >= 0 && (Fold.isMark(sign) || isUnseen(sign));
            if (!goesOn) {
                boolean of = Fold.isOfWord(sign);
                boolean single = of && Fold.isWordAlone(sign);
                if (begin >= 0 && (!of || alone || single)) {
                    word(text, begin, i, visitor);
                    begin = -1;
                }
                if (begin < 0 && of) {
                    begin = i;
                }
                alone = single;
            }
            i = next;
        }
        if (begin >= 0) {
            word(text, begin, text.length(), visitor);
        }
    }

    static boolean isUnseen(int sign) {
        return sign == 0xad || Character.getType(sign) == Character.FORMAT;
    }

    private static void word(String text, int begin, int end, Consumer<SplitWord> visitor) {
        String raw = text.substring(begin, end);
        if (Fold.isAscii(raw)) {
            String word = raw.toLowerCase(Locale.ROOT);
            visitor.accept(new SplitWord(word, signed(text, word, end), begin));
            return;
        }
        String[] parts = Fold.phrase(raw).strip().split(" ", -1);
        String also = parts.length == 1 ? written(raw) : null;
        for (String part : parts) {
            if (!part.isEmpty()) {
                visitor.accept(new SplitWord(part, also, begin));
            }
        }
    }

    /** {@code C++}, {@code C#}. */
    private static @Nullable String signed(String text, String word, int end) {
        if (text.startsWith("++", end)) {
            return word + "++";
        }
        return text.startsWith("#", end) ? word + "#" : null;
    }

    /** With two letters for each umlaut, as it is written where there are none. */
    private static @Nullable String written(String raw) {
        String other = Fold.withoutUmlauts(raw);
        return other.equals(raw) ? null : Fold.text(other);
    }
}
