package app.schublade.core.format;

import com.google.re2j.Pattern;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Reads and writes the encoded words of header fields (RFC 2047; RFC 2231, section 5, for the language tag).
 *
 * <p>Decoding is one pass from left to right: each character is looked at a fixed number of times, because an encoded word holds no
 * blank and no more than {@link #MAX_WORD} characters. Words that follow each other in one charset are decoded together,
 * so that a character may be split between them.
 */
final class EncodedWords {
    /** The standard allows 75; programs write longer ones. */
    private static final int MAX_WORD = 4000;

    /** Bytes in one word that is written: 60 characters of Base64. */
    private static final int PIECE = 45;
    /** Words of ASCII with single blanks, that a header can be folded at. */
    private static final Pattern PLAIN = Pattern.compile("(?:[!-~]{1,200}(?: [!-~]{1,200})*)?");

    private static final Base64.Decoder BASE64 = Base64.getMimeDecoder();

    private final String header;
    private final StringBuilder text = new StringBuilder();
    /** Bytes of encoded words that were read and not written yet, and their charset. */
    private final ByteArrayOutputStream pending = new ByteArrayOutputStream();

    private String charset = "";

    private EncodedWords(String header) {
        this.header = header;
    }

    /** Decodes a header; what is no encoded word stays as it is. NUL, which is no text, is left out. */
    static String decode(String header) {
        return (header.contains("=?") ? new EncodedWords(header).decode() : header).replace("\0", "");
    }

    /** Behind the encoded word at a place of a header; -1 if there is none. */
    static int end(String header, int start) {
        Word word = header.startsWith("=?", start) ? new EncodedWords(header).word(start) : null;
        return word == null ? -1 : word.end();
    }

    /**
     * Encodes text for a header field, in words of at most 75 characters with blanks between; text that is plain ASCII and
     * cannot be taken for an encoded word stays as it is.
     *
     * @param text without control characters
     */
    static String encode(String text) {
        if (PLAIN.matches(text) && !text.contains("=?")) {
            return text;
        }
        List<String> words = new ArrayList<>();
        ByteArrayOutputStream piece = new ByteArrayOutputStream();
        text.codePoints().forEach(sign -> {
            byte[] bytes = Character.toString(sign).getBytes(StandardCharsets.UTF_8);
            if (piece.size() + bytes.length > PIECE) {
                words.add(word(piece.toByteArray()));
                piece.reset();
            }
            piece.writeBytes(bytes);
        });
        words.add(word(piece.toByteArray()));
        return String.join(" ", words);
    }

    private static String word(byte[] bytes) {
        return "=?UTF-8?B?" + Base64.getEncoder().encodeToString(bytes) + "?=";
    }

    private String decode() {
        int plain = 0;
        for (int start = header.indexOf("=?"); start >= 0; ) {
            Word word = word(start);
            if (word == null) {
                start = header.indexOf("=?", start + 1);
                continue;
            }
            String between = header.substring(plain, start);
            boolean follows = plain > 0 && between.isBlank() && word.charset().equalsIgnoreCase(charset);
            if (!follows) {
                flush();
            }
            if (plain == 0 || !between.isBlank()) { // Blanks between two encoded words are not shown.
                text.append(between);
            }
            charset = word.charset();
            pending.writeBytes(word.bytes());
            plain = word.end();
            start = header.indexOf("=?", plain);
        }
        flush();
        return text.append(header, plain, header.length()).toString();
    }

    private void flush() {
        if (pending.size() > 0) {
            text.append(Charsets.decode(pending.toByteArray(), charset));
            pending.reset();
        }
    }

    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    private record Word(String charset, byte[] bytes, int end) {}

    /** {@code =?charset*language?encoding?text?=} at this place, or null. */
    private @Nullable Word word(int start) {
        int limit = Math.min(header.length(), start + MAX_WORD);
        int encoding = question(start + 2, limit);
        if (encoding < 0 || encoding + 2 >= limit || header.charAt(encoding + 2) != '?') {
            return null;
        }
        int begin = encoding + 3;
        int end = begin;
        while (end < limit && !isEnd(end)) {
            if (header.charAt(end) == '?' || header.charAt(end) == '\n') {
                return null;
            }
            end++;
        }
        if (end >= limit) {
            return null;
        }
        String name = header.substring(start + 2, encoding);
        int language = name.indexOf('*');
        byte[] bytes = bytes(header.charAt(encoding + 1), header.substring(begin, end));
        return bytes == null ? null : new Word(language < 0 ? name : name.substring(0, language), bytes, end + 2);
    }

    private boolean isEnd(int at) {
        return header.charAt(at) == '?' && at + 1 < header.length() && header.charAt(at + 1) == '=';
    }

    /** The next question mark before any blank, or -1. */
    private int question(int from, int limit) {
        for (int i = from; i < limit; i++) {
            char sign = header.charAt(i);
            if (sign == '?') {
                return i == from ? -1 : i;
            }
            if (sign <= ' ' || sign == '=') {
                return -1;
            }
        }
        return -1;
    }

    private static byte @Nullable [] bytes(char encoding, String encoded) {
        return switch (encoding) {
            case 'B', 'b' -> base64(encoded);
            case 'Q', 'q' -> quoted(encoded);
            default -> null;
        };
    }

    private static byte @Nullable [] base64(String encoded) {
        try {
            return BASE64.decode(encoded);
        } catch (IllegalArgumentException e) {
            return null;
        }
    }

    /** RFC 2047, section 4.2; an equals sign that begins no code stands for itself. */
    private static byte[] quoted(String encoded) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(encoded.length());
        for (int i = 0; i < encoded.length(); i++) {
            char sign = encoded.charAt(i);
            int code = sign == '=' && i + 2 < encoded.length() ? hex(encoded.charAt(i + 1), encoded.charAt(i + 2)) : -1;
            if (code >= 0) {
                bytes.write(code);
                i += 2;
            } else if (sign == '_') {
                bytes.write(' ');
            } else {
                bytes.writeBytes(String.valueOf(sign).getBytes(StandardCharsets.UTF_8));
            }
        }
        return bytes.toByteArray();
    }

    private static int hex(char high, char low) {
        int first = Character.digit(high, 16);
        int second = Character.digit(low, 16);
        return first < 0 || second < 0 ? -1 : first * 16 + second;
    }
}
