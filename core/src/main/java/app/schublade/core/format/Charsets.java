package app.schublade.core.format;

import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.StandardCharsets;
import java.nio.charset.UnsupportedCharsetException;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.mozilla.universalchardet.UniversalDetector;

/** Turns bytes into text even where the declared charset is missing, unknown or wrong. */
final class Charsets {
    private static final Charset WESTERN = Charset.forName("windows-1252");
    private static final Charset CYRILLIC = Charset.forName("windows-1251");
    private static final String UTF_7 = "utf-7";
    private static final String HZ = "hz-gb-2312";

    /** Names that mail uses, by names that Java knows; for some the larger charset that programs mean by them. */
    private static final Map<String, String> NAMES = Map.ofEntries(
            Map.entry("utf8", "utf-8"),
            Map.entry("unicode-1-1-utf-8", "utf-8"),
            Map.entry("cp932", "windows-31j"),
            Map.entry("ms_kanji", "windows-31j"),
            Map.entry("x-sjis", "windows-31j"),
            Map.entry("shift-jis", "windows-31j"),
            Map.entry("shift_jis", "windows-31j"),
            Map.entry("sjis", "windows-31j"),
            Map.entry("iso-2022-jp-1", "iso-2022-jp-2"),
            Map.entry("cp50220", "x-windows-50220"),
            Map.entry("cp50221", "x-windows-50221"),
            Map.entry("gb2312", "gb18030"),
            Map.entry("gb_2312-80", "gb18030"),
            Map.entry("x-gbk", "gb18030"),
            Map.entry("gbk", "gb18030"),
            Map.entry("cp936", "gb18030"),
            Map.entry("big5", "big5-hkscs"),
            Map.entry("x-x-big5", "big5-hkscs"),
            Map.entry("ks_c_5601-1987", "x-windows-949"),
            Map.entry("ks_c_5601", "x-windows-949"),
            Map.entry("euc-kr", "x-windows-949"),
            Map.entry("cp949", "x-windows-949"),
            Map.entry("macintosh", "x-macroman"),
            Map.entry("mac", "x-macroman"),
            Map.entry("x-mac-roman", "x-macroman"),
            Map.entry("x-mac-cyrillic", "x-maccyrillic"),
            Map.entry("iso-8859-8-i", "iso-8859-8"),
            Map.entry("iso-8859-8-e", "iso-8859-8"),
            Map.entry("iso8859_1", "windows-1252"),
            Map.entry("ansi", "windows-1252"),
            Map.entry("x-ansi", "windows-1252"),
            Map.entry("iso-8859-1-windows-3.1-latin-1", "windows-1252"),
            Map.entry("iso-8859-11", "tis-620"),
            Map.entry("unicode-1-1-utf-7", UTF_7),
            Map.entry("x-unicode-2-0-utf-7", UTF_7));

    /** Guesses that can be told from Western text: most bytes of such a text are not ASCII. */
    private static final Set<String> TELLING = Set.of(
            "GB18030",
            "BIG5",
            "SHIFT_JIS",
            "EUC-JP",
            "EUC-KR",
            "EUC-TW",
            "WINDOWS-1251",
            "KOI8-R",
            "ISO-8859-5",
            "IBM866",
            "WINDOWS-1253",
            "ISO-8859-7",
            "WINDOWS-1255",
            "MACCYRILLIC");

    /** Of a longer text only the beginning is guessed by. */
    private static final int GUESSED = 64 * 1024;

    private static final int ENOUGH_OF_TEN = 6;
    private static final int TEN = 10;

    private static final String BYTE_ORDER_MARK = "\ufeff";

    private Charsets() {}

    /**
     * Reads as declared, if the bytes can be that; else as UTF-8 if they are valid UTF-8; else as what they look like; else as
     * windows-1252. Never fails.
     */
    static String decode(byte[] bytes, @Nullable String declared) {
        String text = decoded(bytes, declared);
        return text.startsWith(BYTE_ORDER_MARK) ? text.substring(1) : text;
    }

    private static String decoded(byte[] bytes, @Nullable String declared) {
        String name = declared == null ? "" : name(declared);
        if (name.equals(UTF_7)) {
            return Utf7.decode(bytes);
        }
        if (name.equals(HZ)) {
            return hz(bytes);
        }
        Charset known = known(name);
        // Mail that says US-ASCII and is not is common; it is mostly UTF-8.
        if (known != null && !known.equals(StandardCharsets.US_ASCII) && !known.equals(StandardCharsets.UTF_8)) {
            return new String(bytes, known);
        }
        String utf8 = utf8(bytes);
        return utf8 != null ? utf8 : guessed(bytes);
    }

    /**
     * Reads what nothing is declared of: as UTF-8 if it is valid UTF-8; else as what is declared elsewhere in the message; else
     * as what it looks like. Never fails.
     */
    static String decodeUndeclared(byte[] bytes, @Nullable String elsewhere) {
        String utf8 = utf8(bytes);
        return utf8 != null ? utf8 : decode(bytes, elsewhere);
    }

    /** Null if it is not valid. */
    private static @Nullable String utf8(byte[] bytes) {
        try {
            return StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString();
        } catch (CharacterCodingException e) {
            return null;
        }
    }

    private static String guessed(byte[] bytes) {
        Charset guess = guess(bytes);
        // A text in UTF-8 with a broken sign is still one.
        return new String(bytes, guess != null ? guess : isMostlyUtf8(bytes) ? StandardCharsets.UTF_8 : WESTERN);
    }

    /** As mail that declares charsets carelessly names it: with quotes, with "charset=" before it. */
    private static String name(String declared) {
        String bare = declared.replace("\"", "").replace("'", "").strip().toLowerCase(Locale.ROOT);
        bare = bare.startsWith("charset=") ? bare.substring("charset=".length()) : bare;
        return NAMES.getOrDefault(bare, bare);
    }

    private static @Nullable Charset known(String name) {
        try {
            Charset charset = name.isEmpty() ? null : Charset.forName(name);
            // Many programs say Latin-1 and send windows-1252, which has it as a part.
            return charset != null && charset.equals(StandardCharsets.ISO_8859_1) ? WESTERN : charset;
        } catch (IllegalCharsetNameException | UnsupportedCharsetException e) {
            return null;
        }
    }

    /** Null if it looks like Western text, or like nothing that is known. */
    private static @Nullable Charset guess(byte[] bytes) {
        int high = 0;
        int signs = 0;
        int length = Math.min(bytes.length, GUESSED);
        for (int i = 0; i < length; i++) {
            high += bytes[i] < 0 ? 1 : 0;
            signs += bytes[i] == ' ' || bytes[i] == '\r' || bytes[i] == '\n' ? 0 : 1;
        }
        if (high * TEN < signs * ENOUGH_OF_TEN) {
            return null;
        }
        UniversalDetector detector = new UniversalDetector();
        detector.handleData(bytes, 0, length);
        detector.dataEnd();
        String found = detector.getDetectedCharset();
        if (found == null || !TELLING.contains(found.toUpperCase(Locale.ROOT))) {
            return null;
        }
        // The two differ in one capital letter and a few signs; the Mac's is hardly ever met.
        return found.equalsIgnoreCase("MACCYRILLIC") ? CYRILLIC : known(name(found));
    }

    private static boolean isMostlyUtf8(byte[] bytes) {
        CharBuffer read = StandardCharsets.UTF_8.decode(ByteBuffer.wrap(bytes));
        int wrong = 0;
        int right = 0;
        for (int i = 0; i < read.length(); i++) {
            wrong += read.charAt(i) == '\ufffd' ? 1 : 0;
            right += read.charAt(i) >= 0x80 && read.charAt(i) != '\ufffd' ? 1 : 0;
        }
        return right > 0 && right * 2 >= wrong;
    }

    /** RFC 1843: a tilde and a brace begin bytes of GB 2312 without their highest bit, a tilde and the other brace end them. */
    private static String hz(byte[] bytes) {
        byte[] open = new byte[bytes.length];
        int length = 0;
        boolean chinese = false;
        for (int i = 0; i < bytes.length; i++) {
            byte next = i + 1 < bytes.length ? bytes[i + 1] : 0;
            if (bytes[i] == '~' && (next == '{' || next == '}')) {
                chinese = next == '{';
                i++;
            } else if (bytes[i] == '~' && (next == '~' || next == '\n') && !chinese) {
                i++;
                if (next == '~') {
                    open[length++] = '~';
                }
            } else {
                boolean isText = bytes[i] != '\r' && bytes[i] != '\n';
                chinese &= isText; // It goes no further than its line.
                open[length++] = (byte) (chinese ? bytes[i] | 0x80 : bytes[i]);
            }
        }
        return new String(open, 0, length, Charset.forName("GB18030"));
    }
}
