package app.schublade.core.format;

/** Text that is signed or encrypted by OpenPGP without MIME (RFC 4880, sections 6.2 and 7). */
final class ArmoredText {
    static final String SIGNED = "It is signed with OpenPGP; signatures are not checked here.";
    static final String ENCRYPTED =
            "It is encrypted with OpenPGP and cannot be read here: save it as it came, and open it where its key is.";

    private static final String BEGIN_SIGNED = "-----BEGIN PGP SIGNED MESSAGE-----";
    private static final String BEGIN_SIGNATURE = "-----BEGIN PGP SIGNATURE-----";
    private static final String END_SIGNATURE = "-----END PGP SIGNATURE-----";
    private static final String BEGIN_ENCRYPTED = "-----BEGIN PGP MESSAGE-----";

    private ArmoredText() {}

    static boolean isSigned(String text) {
        int begin = text.indexOf(BEGIN_SIGNED);
        return begin >= 0 && startsLine(text, begin) && text.indexOf(BEGIN_SIGNATURE, begin) > 0;
    }

    static boolean isEncrypted(String text) {
        int begin = text.indexOf(BEGIN_ENCRYPTED);
        return begin >= 0 && startsLine(text, begin);
    }

    private static boolean startsLine(String text, int at) {
        return at == 0 || text.charAt(at - 1) == '\n';
    }

    /** What was signed, without what it is signed with; what stands before and behind stays. */
    static String content(String text) {
        int begin = text.indexOf(BEGIN_SIGNED);
        int signature = text.indexOf(BEGIN_SIGNATURE, begin);
        int head = blankLine(text, begin);
        int end = text.indexOf(END_SIGNATURE, signature);
        String signed = text.substring(Math.min(head, signature), signature);
        String before = text.substring(0, begin);
        String behind =
                end < 0 ? "" : text.substring(end + END_SIGNATURE.length()).strip();
        String content = (before + unescaped(signed)).strip();
        return behind.isEmpty() ? content : content + "\n\n" + behind;
    }

    /** Behind the blank line that ends the armor's head. */
    private static int blankLine(String text, int from) {
        int line = text.indexOf('\n', from);
        while (line >= 0) {
            int next = text.indexOf('\n', line + 1);
            if (next < 0) {
                return text.length();
            }
            if (text.substring(line + 1, next).isBlank()) {
                return next + 1;
            }
            line = next;
        }
        return text.length();
    }

    /** Lines that begin with a hyphen were sent with another one and a blank before them. */
    private static String unescaped(String signed) {
        String lines = signed.replace("\n- ", "\n");
        return lines.startsWith("- ") ? lines.substring(2) : lines;
    }
}
