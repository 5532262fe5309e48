package app.schublade.mail;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What a host answers that a message names (RFC 9112): read piece by piece, only as far as it is asked for, with an end to lines,
 * fields, length and time.
 */
final class HttpAnswer {
    private static final int MAX_LINE = 8_000;
    private static final int MAX_FIELDS = 100;
    private static final int PIECE = 8_192;
    private static final int HEX = 16;
    private static final Pattern STATUS = Pattern.compile("HTTP/1\\.[01] ([1-5]\\d\\d)(?: .*)?");

    private final InputStream in;
    private final long end;
    private final int status;
    private @Nullable Map<String, String> fields;

    /**
     * Reads the first line.
     *
     * @param end a reading of {@link System#nanoTime} after which no more is read
     */
    HttpAnswer(InputStream in, long end) throws IOException {
        this.in = in;
        this.end = end;
        Matcher first = STATUS.matcher(line());
        if (!first.matches()) {
            throw noHttp();
        }
        status = Integer.parseInt(first.group(1));
    }

    int status() {
        return status;
    }

    /** @param name in lower case */
    @Nullable
    String field(String name) throws IOException {
        return fields().get(name);
    }

    private Map<String, String> fields() throws IOException {
        if (fields == null) {
            fields = readFields();
        }
        return fields;
    }

    private Map<String, String> readFields() throws IOException {
        Map<String, String> all = new HashMap<>();
        for (String line = line(); !line.isEmpty(); line = line()) {
            int colon = line.indexOf(':');
            if (all.size() == MAX_FIELDS || colon < 0) {
                throw noHttp();
            }
            all.putIfAbsent(
                    line.substring(0, colon).strip().toLowerCase(Locale.ROOT),
                    line.substring(colon + 1).strip());
        }
        return all;
    }

    /** @param most bytes of it */
    byte[] content(int most) throws IOException {
        Map<String, String> told = fields();
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        if (told.getOrDefault("transfer-encoding", "").equalsIgnoreCase("chunked")) {
            for (int size = chunk(); size > 0; size = chunk()) {
                take(size, all, most);
                line();
            }
        } else {
            String said = told.getOrDefault("content-length", "");
            take(said.matches("\\d{1,9}") ? Integer.parseInt(said) : Integer.MAX_VALUE, all, most);
        }
        return all.toByteArray();
    }

    private int chunk() throws IOException {
        String size = line().replaceFirst(";.*", "").strip();
        if (!size.matches("[0-9a-fA-F]{1,7}")) {
            throw noHttp();
        }
        return Integer.parseInt(size, HEX);
    }

    private void take(int bytes, ByteArrayOutputStream all, int most) throws IOException {
        byte[] piece = new byte[PIECE];
        int left = bytes;
        for (int read = 0; left > 0 && read >= 0; left -= Math.max(0, read)) {
            read = in.read(piece, 0, Math.min(PIECE, left));
            if (read > 0) {
                all.write(piece, 0, read);
            }
            if (all.size() > most) {
                throw new IOException("It is larger than %d MB.".formatted(most / 1_000_000));
            }
            inTime();
        }
    }

    private String line() throws IOException {
        StringBuilder line = new StringBuilder();
        for (int sign = in.read(); sign >= 0 && sign != '\n'; sign = in.read()) {
            line.append((char) sign);
            if (line.length() > MAX_LINE) {
                throw noHttp();
            }
            inTime();
        }
        return line.toString().strip();
    }

    private void inTime() throws IOException {
        if (System.nanoTime() > end) {
            throw new IOException("It takes too long.");
        }
    }

    private static IOException noHttp() {
        return new IOException("It answers with something else than HTTP.");
    }
}
