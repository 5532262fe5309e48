package app.schublade.core.format;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.StandardCharsets;
import java.nio.charset.UnsupportedCharsetException;
import org.jspecify.annotations.Nullable;

/** Turns bytes into text even where the declared charset is missing, unknown or wrong. */
final class Charsets {
    private static final Charset WESTERN = Charset.forName("windows-1252");

    private Charsets() {}

    /** Reads as declared; else as UTF-8 if the bytes are valid UTF-8; else as windows-1252. Never fails. */
    static String decode(byte[] bytes, @Nullable String declared) {
        Charset known = declared == null ? null : known(declared);
        // Mail that says US-ASCII and is not is common; it is mostly UTF-8.
        if (known != null && !known.equals(StandardCharsets.US_ASCII)) {
            return new String(bytes, known);
        }
        try {
            return StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString();
        } catch (CharacterCodingException e) {
            return new String(bytes, WESTERN);
        }
    }

    private static @Nullable Charset known(String name) {
        try {
            Charset charset = Charset.forName(name.strip());
            // Many programs say Latin-1 and send windows-1252, which has it as a part.
            return charset.equals(StandardCharsets.ISO_8859_1) ? WESTERN : charset;
        } catch (IllegalCharsetNameException | UnsupportedCharsetException e) {
            return null;
        }
    }
}
