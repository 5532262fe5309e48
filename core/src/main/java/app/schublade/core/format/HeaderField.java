package app.schublade.core.format;

import java.nio.ByteBuffer;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * A field of a header (RFC 5322, section 2.2), decoded when it is asked for.
 *
 * @param name in lower case
 * @param raw the whole field as it stands in the source, without the end of its last line
 * @param colon where the value begins: behind it
 * @param charset what the message says elsewhere that its bytes are; null if nothing
 */
record HeaderField(
        String name, ByteBuffer raw, int colon, @Nullable String charset) {
    static HeaderField of(ByteBuffer raw, int colon) {
        StringBuilder name = new StringBuilder(colon);
        for (int i = 0; i < colon; i++) {
            name.append((char) raw.get(i));
        }
        return new HeaderField(name.toString().strip().toLowerCase(Locale.ROOT), raw, colon, null);
    }

    /** The same field of a message whose text is in a charset. */
    HeaderField in(@Nullable String other) {
        return new HeaderField(name, raw, colon, other);
    }

    /**
     * The unfolded value, without NUL; bytes that are not ASCII are taken as UTF-8 (RFC 6532), else as what the text of the
     * message is in, else as what they look like.
     */
    String value() {
        byte[] bytes = new byte[raw.remaining() - colon - 1];
        raw.get(colon + 1, bytes);
        return unfolded(Charsets.decodeUndeclared(bytes, charset));
    }

    /** The value with its encoded words decoded. */
    String text() {
        return EncodedWords.decode(value());
    }

    /** Each end of a line, with the blanks that follow it, is one blank (RFC 5322, section 2.2.3). */
    private static String unfolded(String text) {
        StringBuilder line = new StringBuilder(text.length());
        boolean folded = false;
        for (int i = 0; i < text.length(); i++) {
            char sign = text.charAt(i);
            if (sign == '\r' || sign == '\n') {
                folded = true;
            } else if (!folded || (sign != ' ' && sign != '\t')) {
                if (folded) {
                    line.append(' ');
                    folded = false;
                }
                line.append(sign);
            }
        }
        return line.toString().replace("\0", "").strip();
    }
}
