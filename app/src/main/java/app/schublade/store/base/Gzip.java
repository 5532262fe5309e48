package app.schublade.store.base;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.zip.CRC32;
import java.util.zip.Deflater;

/** Compresses many small things one after the other (RFC 1952), with one compressor, which is costly to set up. */
public final class Gzip implements AutoCloseable {
    private static final byte[] HEADER = {0x1f, (byte) 0x8b, Deflater.DEFLATED, 0, 0, 0, 0, 0, 0, (byte) 0xff};

    private final Deflater deflater = new Deflater(Deflater.BEST_SPEED, true);
    private final byte[] buffer = new byte[16 * 1024];

    public byte[] compress(byte[] source) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(source.length / 2 + 64);
        out.writeBytes(HEADER);
        deflater.reset();
        deflater.setInput(source);
        deflater.finish();
        while (!deflater.finished()) {
            out.write(buffer, 0, deflater.deflate(buffer));
        }
        CRC32 checksum = new CRC32();
        checksum.update(source);
        out.writeBytes(ByteBuffer.allocate(8)
                .order(ByteOrder.LITTLE_ENDIAN)
                .putInt((int) checksum.getValue())
                .putInt(source.length)
                .array());
        return out.toByteArray();
    }

    @Override
    public void close() {
        deflater.end();
    }
}
