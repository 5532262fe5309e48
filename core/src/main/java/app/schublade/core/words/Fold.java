package app.schublade.core.words;

import java.lang.Character.UnicodeScript;
import java.nio.charset.StandardCharsets;
import java.text.Normalizer;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Makes text comparable: case and accents do not matter, and words mean whole words. In scripts without blanks between words
 * each sign counts as one.
 */
public final class Fold {
    private static final Pattern MARKS = Pattern.compile("\\p{M}");
    /** Signs that say where a word may be broken, or how letters join; nobody types them (Unicode, general category Cf). */
    private static final Pattern UNSEEN = Pattern.compile("[\\u00ad\\u200b-\\u200f\\u2060\\ufeff]+");

    /** Scripts whose words are the same without the marks at their letters. */
    private static final Set<UnicodeScript> MARKS_DO_NOT_MATTER = EnumSet.of(
            UnicodeScript.LATIN,
            UnicodeScript.GREEK,
            UnicodeScript.CYRILLIC,
            UnicodeScript.HEBREW,
            UnicodeScript.ARABIC,
            UnicodeScript.COMMON,
            UnicodeScript.INHERITED);

    /** What makes another letter of a Cyrillic one: {@code й}, {@code ў}. */
    private static final char BREVE = '\u0306';

    /** Scripts that are written without blanks between words: each sign is a word of its own here. */
    private static final Set<UnicodeScript> WITHOUT_BLANKS = EnumSet.of(
            UnicodeScript.HAN,
            UnicodeScript.HIRAGANA,
            UnicodeScript.KATAKANA,
            UnicodeScript.THAI,
            UnicodeScript.LAO,
            UnicodeScript.KHMER,
            UnicodeScript.MYANMAR);

    /** Makes a vowel longer in Japanese, and belongs to no script alone. */
    private static final int LONG_VOWEL = 'ー';

    /** Stands between the forms of a text, so that no phrase goes from one into the next: of no word, but no blank either. */
    static final char SEAM = '\ue000';

    static final Map<Character, String> UMLAUTS =
            Map.of('ä', "ae", 'ö', "oe", 'ü', "ue", 'Ä', "Ae", 'Ö', "Oe", 'Ü', "Ue");
    private static final Pattern UMLAUT = Pattern.compile("[äöüÄÖÜ]");

    private static final Pattern SPACES = Pattern.compile("[\\s\\p{Z}]+");

    /** Letters that Unicode does not take apart but people do; in lower case. */
    private static final Map<Character, String> LETTERS =
            Map.of('ß', "ss", 'ø', "o", 'æ', "ae", 'œ', "oe", 'đ', "d", 'ł', "l", 'ı', "i", 'ς', "σ");

    /** What stands for an ASCII sign in a phrase: its lower case, or a blank if it is of no word. */
    private static final byte[] ASCII_WORD = new byte[0x80];

    /** The same where signs count: only white space is a blank. */
    private static final byte[] ASCII_LINE = new byte[0x80];

    static {
        for (int sign = 0; sign < ASCII_WORD.length; sign++) {
            ASCII_WORD[sign] = (byte) (isOfWord(sign) ? Character.toLowerCase(sign) : ' ');
            ASCII_LINE[sign] = (byte) (sign >= '\t' && sign <= '\r' ? ' ' : Character.toLowerCase(sign));
        }
    }

    private Fold() {}

    /** {@code "Überführung"} becomes {@code "uberfuhrung"}. */
    public static String text(String text) {
        String lower = withoutMarks(text).toLowerCase(Locale.ROOT);
        return isAscii(lower) ? lower : replaceLetters(lower);
    }

    /** As {@link #text}, and every run of white space becomes one blank; none is left at the ends. */
    public static String line(String text) {
        if (isAscii(text)) {
            return line(text.getBytes(StandardCharsets.US_ASCII));
        }
        String latin = LatinFold.line(text);
        return latin == null ? slowLine(text) : latin;
    }

    static String slowLine(String text) {
        return SPACES.matcher(text(text)).replaceAll(" ").strip();
    }

    /** For ASCII, in a fraction of the time. */
    private static String line(byte[] text) {
        int length = 0;
        int between = 0;
        for (byte sign : text) {
            byte one = ASCII_LINE[sign];
            int blank = isBlank(one);
            text[length] = one;
            length += 1 - (blank & between);
            between = blank;
        }
        return new String(text, 0, length, StandardCharsets.ISO_8859_1).strip();
    }

    /** As it is written where there are no umlauts: {@code "Überführung"} becomes {@code "Ueberfuehrung"}. The text itself if it has none. */
    public static String withoutUmlauts(String text) {
        if (isAscii(text)) {
            return text;
        }
        if (LatinFold.reads(text)) {
            return LatinFold.withoutUmlauts(text);
        }
        String composed = Normalizer.normalize(text, Normalizer.Form.NFC);
        String written = UMLAUT.matcher(composed)
                .replaceAll(umlaut -> UMLAUTS.get(umlaut.group().charAt(0)));
        return written.equals(composed) ? text : written;
    }

    /** The words of a text that signs belong to, {@code c++} and {@code c#}, in lower case; most have none. */
    public static List<String> signedWords(String text) {
        List<String> words = new ArrayList<>();
        for (int i = 1; i < text.length(); i++) {
            boolean signs = text.charAt(i) == '#' || (text.charAt(i) == '+' && text.startsWith("++", i));
            if (signs && isOfWord(text.charAt(i - 1))) {
                String word = text.substring(beginOfWord(text, i), i);
                if (!word.isEmpty() && isAscii(word)) {
                    words.add(word.toLowerCase(Locale.ROOT) + (text.charAt(i) == '#' ? "#" : "++"));
                }
            }
        }
        return words;
    }

    /** Marks and what is not seen go on with a word, but do not begin one. */
    private static int beginOfWord(String text, int end) {
        int begin = end;
        for (int at = end; at > 0; ) {
            int sign = text.codePointBefore(at);
            at -= Character.charCount(sign);
            if (isOfWord(sign) && !isWordAlone(sign)) {
                begin = at;
            } else if (!isMark(sign) && !WordSplitter.isUnseen(sign)) {
                return begin;
            }
        }
        return begin;
    }

    /**
     * As {@link #phrase}, followed by the words as they are written without umlauts, and by those that signs belong to, each
     * with a blank before and after it.
     */
    public static String phraseInAllForms(String text) {
        byte[] latin = isAscii(text) ? null : LatinFold.phraseInAllForms(text);
        return latin == null ? slowPhraseInAllForms(text) : new String(latin, StandardCharsets.UTF_8);
    }

    /** Whatever script it is in. */
    static String slowPhraseInAllForms(String text) {
        String phrase = phrase(text);
        String written = withoutUmlauts(text);
        List<String> signed = signedWords(text);
        if (signed.isEmpty() && written.equals(text)) {
            return phrase;
        }
        StringBuilder all = new StringBuilder(phrase);
        if (!written.equals(text)) {
            all.append(SEAM).append(phrase(written));
        }
        signed.forEach(word -> all.append(SEAM).append(' ').append(word).append(' '));
        return all.toString();
    }

    /**
     * {@code "Überführung"} becomes {@code "Uberfuhrung"}. Marks that make another letter stay ({@code が}, {@code й}, vowels of
     * Indian scripts), and what is not seen goes, soft hyphens among it.
     */
    public static String withoutMarks(String text) {
        if (isAscii(text)) {
            return text;
        }
        String apart = Normalizer.normalize(UNSEEN.matcher(text).replaceAll(""), Normalizer.Form.NFKD);
        return MARKS.matcher(apart).find()
                ? Normalizer.normalize(unmarked(apart), Normalizer.Form.NFC)
                : together(apart);
    }

    /** Only signs of Korean were taken apart without marks. */
    private static String together(String apart) {
        return Normalizer.isNormalized(apart, Normalizer.Form.NFC)
                ? apart
                : Normalizer.normalize(apart, Normalizer.Form.NFC);
    }

    private static String unmarked(String apart) {
        StringBuilder kept = new StringBuilder(apart.length());
        UnicodeScript script = UnicodeScript.COMMON;
        for (int i = 0; i < apart.length(); ) {
            int sign = apart.codePointAt(i);
            i += Character.charCount(sign);
            if (!isMark(sign)) {
                script = UnicodeScript.of(sign);
                kept.appendCodePoint(sign);
            } else if (!MARKS_DO_NOT_MATTER.contains(script) || (script == UnicodeScript.CYRILLIC && sign == BREVE)) {
                kept.appendCodePoint(sign);
            }
        }
        return kept.toString();
    }

    /** Whether a sign belongs to the letter before it. */
    static boolean isMark(int sign) {
        int type = Character.getType(sign);
        return type == Character.NON_SPACING_MARK
                || type == Character.COMBINING_SPACING_MARK
                || type == Character.ENCLOSING_MARK;
    }

    /** Whether a sign is a word of its own. */
    static boolean isWordAlone(int sign) {
        return sign >= 0x0e00
                && (sign == LONG_VOWEL || WITHOUT_BLANKS.contains(UnicodeScript.of(sign)))
                && !isMark(sign)
                && isOfWord(sign);
    }

    static boolean isAscii(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (text.charAt(i) >= 0x80) {
                return false;
            }
        }
        return true;
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

    /**
     * The folded words of a text with one blank before, between and after them, so that a phrase stands in it if and only
     * if the phrase's own form is a part of it; one blank if there are no words.
     */
    public static String phrase(String text) {
        return isAscii(text) ? phrase(text.getBytes(StandardCharsets.US_ASCII)) : phraseOf(text(text));
    }

    /** For ASCII, which nearly all long texts are, in a fraction of the time. */
    private static String phrase(byte[] text) {
        byte[] words = new byte[text.length + 2];
        int length = 0;
        int between = 1;
        words[length++] = ' ';
        for (byte sign : text) {
            byte word = ASCII_WORD[sign];
            int blank = isBlank(word);
            words[length] = word;
            length += 1 - (blank & between);
            between = blank;
        }
        if (between == 0) {
            words[length++] = ' ';
        }
        return new String(words, 0, length, StandardCharsets.ISO_8859_1);
    }

    /** One for a blank, else none: a processor cannot guess where words end, and goes wrong at each if it is asked to. */
    static int isBlank(byte one) {
        return (((one & 0xff) ^ ' ') - 1) >>> 31;
    }

    private static String phraseOf(String folded) {
        StringBuilder words = new StringBuilder(folded.length() + 2).append(' ');
        boolean alone = false;
        for (int i = 0; i < folded.length(); ) {
            int sign = folded.codePointAt(i);
            i += Character.charCount(sign);
            boolean ends = words.charAt(words.length() - 1) == ' ';
            if (isMark(sign) && !ends) {
                words.appendCodePoint(sign);
                continue;
            }
            boolean next = isWordAlone(sign);
            if ((alone || next || !isOfWord(sign)) && !ends) {
                words.append(' ');
            }
            if (isOfWord(sign)) {
                words.appendCodePoint(sign);
            }
            alone = next;
        }
        if (words.charAt(words.length() - 1) != ' ') {
            words.append(' ');
        }
        return words.toString();
    }

    /** Letters and numbers make words; everything else stands between them. */
    static boolean isOfWord(int sign) {
        if (sign < 0x80) {
            return (sign >= 'a' && sign <= 'z') || (sign >= '0' && sign <= '9') || (sign >= 'A' && sign <= 'Z');
        }
        int type = Character.getType(sign);
        return Character.isLetter(sign)
                || type == Character.DECIMAL_DIGIT_NUMBER
                || type == Character.LETTER_NUMBER
                || type == Character.OTHER_NUMBER;
    }

    /** The folded words of a text in their order, each once. */
    public static Set<String> words(String text) {
        Set<String> words = new LinkedHashSet<>();
        for (String word : phrase(text).split(" ", -1)) {
            if (!word.isEmpty()) {
                words.add(word);
            }
        }
        return words;
    }

    /**
     * A text for looking for many phrases at once: in UTF-8, and, unless it is all ASCII, in all its forms. In ASCII
     * upper case and signs between words are left as they are.
     */
    public static byte[] bytes(String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        if (bytes.length == text.length()) {
            return bytes; // Nothing but ASCII takes one byte a sign.
        }
        byte[] latin = LatinFold.phraseInAllForms(text);
        return latin == null ? slowPhraseInAllForms(text).getBytes(StandardCharsets.UTF_8) : latin;
    }
}
