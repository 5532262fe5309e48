package app.schublade.core.format;

import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** Tells what a part in the form of S/MIME is (RFC 8551, section 3.2). */
final class SecureMime {
    static final String SIGNED_NOTE = "It is signed with S/MIME; signatures are not checked here.";

    private static final int ENOUGH = 64;
    /** The object identifier 1.2.840.113549.1.7, of which the next byte tells the kind (RFC 5652, section 14). */
    private static final byte[] KIND = {0x06, 0x09, 0x2a, (byte) 0x86, 0x48, (byte) 0x86, (byte) 0xf7, 0x0d, 0x01, 0x07
    };

    private static final int SIGNED = 2;

    private SecureMime() {}

    static boolean isWrapped(String type) {
        return type.equals("application/pkcs7-mime") || type.equals("application/x-pkcs7-mime");
    }

    /** What was signed, if that is in it. */
    static Optional<byte[]> content(MimeEntity entity) {
        if (!isSigned(entity)) {
            return Optional.empty();
        }
        try (InputStream in = entity.open()) {
            return SignedContent.of(in.readAllBytes());
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    /** Of something whose content is not to be had. */
    static String note(MimeEntity entity) {
        return isSigned(entity)
                ? "It is signed with S/MIME in a form that wraps its content: save it as it came, and open it with a program that reads S/MIME."
                : "It is encrypted with S/MIME and cannot be read here: save it as it came, and open it where its key is.";
    }

    private static boolean isSigned(MimeEntity entity) {
        String type = entity.parameter("smime-type").toLowerCase(Locale.ROOT);
        return type.isEmpty() ? kind(entity) == SIGNED : type.startsWith("signed");
    }

    private static int kind(MimeEntity entity) {
        try (InputStream in = entity.open()) {
            byte[] start = in.readNBytes(ENOUGH);
            for (int i = 0; i + KIND.length < start.length; i++) {
                if (Arrays.equals(start, i, i + KIND.length, KIND, 0, KIND.length)) {
                    return start[i + KIND.length];
                }
            }
            return 0;
        } catch (IOException e) {
            return 0;
        }
    }
}
