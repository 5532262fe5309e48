package app.schublade.core.words;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/**
 * What {@link Fold} makes of a text, sign by sign from a table, where that can be told of each sign alone: in Latin letters
 * as they stand in a font, with whatever is usual between them. So are nearly all texts of western languages that are not
 * all ASCII, and taking them apart as Unicode has it takes twenty times as long.
 */
final class LatinFold {
    /** Behind the Latin letters of Unicode's first pages. */
    private static final int LETTERS = 0x250;

    /** General punctuation: dashes, quotation marks, dots. */
    private static final int MARKS = 0x2000;

    private static final int BEHIND_MARKS = 0x2070;

    /** For each sign what stands for it in {@link Fold#text}. */
    private static final String[] TEXT = new String[LETTERS + BEHIND_MARKS - MARKS];

    /** The same in UTF-8, with a blank for what is between words. */
    private static final byte[][] FOLDED = new byte[TEXT.length][];

    /** The same of ASCII, a byte for each. */
    private static final byte[] ASCII = new byte[0x80];

    /** So many bytes stand for one sign at most. */
    private static final int MOST;

    private static final byte[] SEAM = String.valueOf(Fold.SEAM).getBytes(StandardCharsets.UTF_8);

    static {
        int most = 0;
        for (int i = 0; i < FOLDED.length; i++) {
            TEXT[i] = Fold.text(String.valueOf((char) (i < LETTERS ? i : i - LETTERS + MARKS)));
            FOLDED[i] = words(TEXT[i]);
            most = Math.max(most, FOLDED[i].length);
        }
        MOST = most;
        for (int i = 0; i < ASCII.length; i++) {
            ASCII[i] = FOLDED[i][0];
        }
    }

    private static byte[] words(String text) {
        StringBuilder words = new StringBuilder();
        text.codePoints().forEach(one -> words.appendCodePoint(Fold.isOfWord(one) ? one : ' '));
        return words.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static int index(char sign) {
        return sign < LETTERS ? sign : sign - MARKS + LETTERS;
    }

    /** Whether a text has no other signs. */
    static boolean reads(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (!reads(text.charAt(i))) {
                return false;
            }
        }
        return true;
    }

    private static boolean reads(char sign) {
        return sign < LETTERS || (sign >= MARKS && sign < BEHIND_MARKS);
    }

    /** As {@link Fold#line}; null if the text has other signs. */
    static @Nullable String line(String text) {
        if (!reads(text)) {
            return null;
        }
        StringBuilder line = new StringBuilder(text.length() + 16);
        for (int i = 0; i < text.length(); i++) {
            String folded = TEXT[index(text.charAt(i))];
            for (int j = 0; j < folded.length(); j++) {
                char one = folded.charAt(j);
                if (!isSpace(one)) {
                    line.append(one);
                } else if (line.length() == 0 || line.charAt(line.length() - 1) != ' ') {
                    line.append(' ');
                }
            }
        }
        return line.toString().strip();
    }

    private static boolean isSpace(char sign) {
        return sign == ' ' || (sign >= '\t' && sign <= '\r') || (sign >= 0x80 && Character.isSpaceChar(sign));
    }

    /** As {@link Fold#withoutUmlauts}, of a text that it {@link #reads}. */
    static String withoutUmlauts(String text) {
        StringBuilder written = new StringBuilder();
        int from = 0;
        for (int i = 0; i < text.length(); i++) {
            if (isUmlaut(text.charAt(i))) {
                written.append(text, from, i).append(Fold.UMLAUTS.get(text.charAt(i)));
                from = i + 1;
            }
        }
        return from == 0 ? text : written.append(text, from, text.length()).toString();
    }

    /** As {@link Fold#phraseInAllForms}, in UTF-8; null if the text has other signs. */
    static byte @Nullable [] phraseInAllForms(String text) {
        char[] signs = text.toCharArray();
        int others = 0;
        for (char sign : signs) {
            if (!reads(sign)) {
                return null;
            }
            others += sign < 0x80 ? 0 : 1;
        }
        byte[] ascii = ASCII;
        byte[] words = new byte[signs.length + others * MOST + 2];
        int[] umlauts = new int[others];
        int count = 0;
        int length = 0;
        int between = 1;
        words[length++] = ' ';
        for (char sign : signs) {
            if (sign < 0x80) {
                byte word = ascii[sign];
                int blank = Fold.isBlank(word);
                words[length] = word;
                length += 1 - (blank & between);
                between = blank;
                continue;
            }
            for (byte word : FOLDED[index(sign)]) {
                int blank = Fold.isBlank(word);
                words[length] = word;
                length += 1 - (blank & between);
                between = blank;
            }
            if (isUmlaut(sign)) {
                umlauts[count++] = length;
            }
        }
        if (between == 0) {
            words[length++] = ' ';
        }
        ByteArrayOutputStream all = new ByteArrayOutputStream(2 * length + count + SEAM.length);
        all.write(words, 0, length);
        if (count > 0) {
            all.writeBytes(SEAM);
            int from = 0;
            for (int i = 0; i < count; i++) {
                all.write(words, from, umlauts[i] - from);
                all.write('e');
                from = umlauts[i];
            }
            all.write(words, from, length - from);
        }
        for (String word : Fold.signedWords(text)) {
            all.writeBytes(SEAM);
            all.writeBytes((" " + word + " ").getBytes(StandardCharsets.UTF_8));
        }
        return all.toByteArray();
    }

    private static boolean isUmlaut(char sign) {
        return switch (sign) {
            case 'ä', 'ö', 'ü', 'Ä', 'Ö', 'Ü' -> true;
            default -> false;
        };
    }
}
