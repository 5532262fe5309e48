package app.schublade.core.format;

import java.io.ByteArrayOutputStream;
import java.util.Optional;

/**
 * Takes what was signed out of a message that wraps it (CMS {@code SignedData}, RFC 5652, section 5.1), by the basic encoding rules
 * (X.690): the header of each element tells its tag and its length, or that it goes on until an element of nothing. One pass, and
 * nothing calls itself.
 */
final class SignedContent {
    private static final int SEQUENCE = 0x30;
    private static final int EXPLICIT = 0xa0;
    private static final int OCTETS = 0x04;
    private static final int OCTETS_IN_PIECES = 0x24;
    private static final int INDEFINITE = 0x80;
    private static final int CONSTRUCTED = 0x20;
    private static final int DEEPEST = 50;

    private final byte[] source;
    private int at;
    private int tag;
    /** Of the element whose header was read; -1 if that is not told. */
    private int length;

    private SignedContent(byte[] source) {
        this.source = source;
    }

    /** It is broken, or something else. */
    private static final class Broken extends Exception {
        private static final long serialVersionUID = 1L;

        Broken() {
            super("Not to be read", null, false, false);
        }
    }

    /** Empty if it is something else, broken, or signs what is not in it. */
    static Optional<byte[]> of(byte[] source) {
        try {
            return Optional.of(new SignedContent(source).read());
        } catch (Broken e) {
            return Optional.empty();
        }
    }

    private byte[] read() throws Broken {
        enter(SEQUENCE);
        skip(); // The kind.
        enter(EXPLICIT);
        enter(SEQUENCE);
        skip(); // The version.
        skip(); // The digests.
        enter(SEQUENCE);
        skip(); // The kind of the content.
        enter(EXPLICIT);
        header();
        if (tag == OCTETS && length >= 0) {
            return copy();
        }
        if (tag != OCTETS_IN_PIECES) {
            throw new Broken();
        }
        return pieces();
    }

    private byte[] copy() throws Broken {
        if (length > source.length - at) {
            throw new Broken();
        }
        byte[] content = new byte[length];
        System.arraycopy(source, at, content, 0, length);
        at += length;
        return content;
    }

    private byte[] pieces() throws Broken {
        int end = length < 0 ? source.length : Math.min(source.length, at + length);
        ByteArrayOutputStream content = new ByteArrayOutputStream();
        while (at < end) {
            header();
            if (tag == 0 && length == 0) {
                break;
            }
            if (tag != OCTETS || length < 0) {
                throw new Broken();
            }
            content.writeBytes(copy());
        }
        return content.toByteArray();
    }

    private void enter(int wanted) throws Broken {
        header();
        if (tag != wanted) {
            throw new Broken();
        }
    }

    /** Goes behind an element, whatever it holds. */
    private void skip() throws Broken {
        int open = 0;
        do {
            header();
            if (length >= 0) {
                open -= tag == 0 && length == 0 && open > 0 ? 1 : 0;
                at += length;
            } else if ((tag & CONSTRUCTED) != 0 && open < DEEPEST) {
                open++;
            } else {
                throw new Broken();
            }
        } while (open > 0 && at < source.length);
    }

    private void header() throws Broken {
        tag = next();
        int first = next();
        if (first == INDEFINITE) {
            length = -1;
            return;
        }
        length = first;
        if (first > INDEFINITE) {
            length = 0;
            for (int i = first - INDEFINITE; i > 0; i--) {
                if (length > source.length) {
                    throw new Broken();
                }
                length = length << 8 | next();
            }
        }
        if (length < 0 || length > source.length - at) {
            throw new Broken();
        }
    }

    private int next() throws Broken {
        if (at >= source.length || at < 0) {
            throw new Broken();
        }
        return source[at++] & 0xff;
    }
}
