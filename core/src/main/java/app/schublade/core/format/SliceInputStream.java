package app.schublade.core.format;

import java.io.InputStream;
import java.nio.ByteBuffer;

/** Reads a stretch of a buffer, without taking a copy. */
final class SliceInputStream extends InputStream {
    private final ByteBuffer source;
    private final int end;
    private int at;

    SliceInputStream(ByteBuffer source, int start, int end) {
        this.source = source;
        this.at = start;
        this.end = end;
    }

    @Override
    public int read() {
        return at < end ? source.get(at++) & 0xff : -1;
    }

    @Override
    public int read(byte[] bytes, int offset, int length) {
        if (at >= end) {
            return length == 0 ? 0 : -1;
        }
        int some = Math.min(length, end - at);
        source.get(at, bytes, offset, some);
        at += some;
        return some;
    }

    @Override
    public int available() {
        return end - at;
    }
}
