package app.schublade.core.format;

/** Reads UTF-7 (RFC 2152). */
final class Utf7 {
    private final byte[] bytes;
    private final StringBuilder text = new StringBuilder();

    private Utf7(byte[] bytes) {
        this.bytes = bytes;
    }

    static String decode(byte[] bytes) {
        return new Utf7(bytes).decode();
    }

    private String decode() {
        for (int i = 0; i < bytes.length; i++) {
            if (bytes[i] == '+') {
                i = shifted(i + 1) - 1;
            } else {
                text.append((char) (bytes[i] & 0xff));
            }
        }
        return text.toString();
    }

    /** Reads what is in Base64 from a place on; returns the place behind it. */
    private int shifted(int start) {
        int i = start;
        int bits = 0;
        int buffer = 0;
        for (; i < bytes.length && value(bytes[i]) >= 0; i++) {
            buffer = (buffer << 6 | value(bytes[i])) & 0x3fffff;
            bits += 6;
            if (bits >= 16) {
                bits -= 16;
                text.append((char) (buffer >> bits & 0xffff));
            }
        }
        boolean ends = i < bytes.length && bytes[i] == '-';
        if (i == start) {
            text.append('+'); // "+-" is a plus sign; another one alone stands for itself, too.
        }
        return ends ? i + 1 : i;
    }

    private static int value(byte sign) {
        return "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/".indexOf(sign);
    }
}
