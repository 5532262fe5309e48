package app.schublade.core.format;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/**
 * What a message is recognised by when it turns up in another folder: its Message-ID, or, for the few that have none, a
 * digest of its whole header. Two copies of one message have the same.
 */
public final class Identity {
    private static final String DIGEST = "sha256:";

    private Identity() {}

    /** @param source a message, or its whole header */
    public static String of(byte[] source) {
        return of(MimeReader.read(source).messageId(), source);
    }

    /**
     * @param messageId as read from the source; may be empty
     * @param source a message, or its whole header
     */
    public static String of(String messageId, byte[] source) {
        String id = messageId.replace("\0", "");
        return id.isBlank() ? DIGEST + digest(source) : id;
    }

    /** Whether only the whole header tells, because the message has no Message-ID. */
    public static boolean isDigest(String identity) {
        return identity.startsWith(DIGEST);
    }

    private static String digest(byte[] source) {
        String header = new String(source, 0, headerLength(source), StandardCharsets.ISO_8859_1)
                .replace("\r\n", "\n")
                .strip();
        try {
            return HexFormat.of()
                    .formatHex(
                            MessageDigest.getInstance("SHA-256").digest(header.getBytes(StandardCharsets.ISO_8859_1)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("Every Java has SHA-256", e);
        }
    }

    /** Up to the empty line (RFC 5322, section 2.1). */
    private static int headerLength(byte[] source) {
        for (int i = 1; i < source.length; i++) {
            boolean emptyLine = source[i] == '\n'
                    && (source[i - 1] == '\n' || (source[i - 1] == '\r' && i > 1 && source[i - 2] == '\n'));
            if (emptyLine) {
                return i;
            }
        }
        return source.length;
    }
}
