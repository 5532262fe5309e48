package app.schublade.mail;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Fetches pictures from hosts on the internet: no cookies, no word of who asks or where it is shown, few forwardings, and an
 * end to length and time (RFC 9112).
 */
public final class NetPictureSource implements PictureSource {
    private static final Duration LONGEST = Duration.ofSeconds(15);
    private static final int MOST_FORWARDINGS = 3;
    private static final int MAX_LINE = 8_000;
    private static final int MAX_FIELDS = 100;
    private static final int PIECE = 8_192;
    private static final int HEX = 16;
    private static final int FOUND = 200;
    private static final Pattern STATUS = Pattern.compile("HTTP/1\\.[01] ([1-5]\\d\\d)(?: .*)?");
    private static final Pattern MOVED = Pattern.compile("30[12378]");

    private final GuardedHosts hosts;
    private final Duration longest;

    public NetPictureSource() {
        this(GuardedHosts.onTheInternet(), LONGEST);
    }

    NetPictureSource(GuardedHosts hosts, Duration longest) {
        this.hosts = hosts;
        this.longest = longest;
    }

    @Override
    public byte[] fetch(URI address) throws IOException {
        long end = System.nanoTime() + longest.toNanos();
        URI at = address;
        for (int i = 0; i <= MOST_FORWARDINGS; i++) {
            URI asked = at;
            Answer answer = hosts.talk(asked, connection -> {
                connection.getOutputStream().write(request(asked));
                return new Answer(connection.getInputStream(), end);
            });
            if (answer.status == FOUND) {
                return answer.content;
            }
            String location = answer.fields.get("location");
            if (location == null
                    || !MOVED.matcher(Integer.toString(answer.status)).matches()) {
                throw new IOException(
                        "It is not there any more: %s answers %d.".formatted(at.getHost(), answer.status));
            }
            at = forwarded(at, location);
        }
        throw new IOException("It is sent from one place to the next.");
    }

    private static URI forwarded(URI from, String location) throws IOException {
        try {
            return from.resolve(location);
        } catch (IllegalArgumentException e) {
            throw new IOException("It is sent to a place that is none.", e);
        }
    }

    private static byte[] request(URI address) {
        return """
                GET %s HTTP/1.1\r
                Host: %s\r
                Accept: image/png, image/jpeg, image/gif, image/webp\r
                Connection: close\r
                \r
                """.formatted(GuardedHosts.path(address), GuardedHosts.host(address))
                .getBytes(StandardCharsets.US_ASCII);
    }

    /** What a server answers; read at once, within its limits. */
    private static final class Answer {
        private final Map<String, String> fields = new HashMap<>();
        private final InputStream in;
        private final long end;
        private final int status;
        private final byte[] content;

        Answer(InputStream in, long end) throws IOException {
            this.in = in;
            this.end = end;
            Matcher first = STATUS.matcher(line());
            if (!first.matches()) {
                throw new IOException("It answers with something else than HTTP.");
            }
            status = Integer.parseInt(first.group(1));
            readFields();
            content = status == FOUND ? read() : new byte[0];
        }

        private void readFields() throws IOException {
            for (String line = line(); !line.isEmpty(); line = line()) {
                int colon = line.indexOf(':');
                if (fields.size() == MAX_FIELDS || colon < 0) {
                    throw new IOException("It answers with something else than HTTP.");
                }
                fields.putIfAbsent(
                        line.substring(0, colon).strip().toLowerCase(Locale.ROOT),
                        line.substring(colon + 1).strip());
            }
        }

        private byte[] read() throws IOException {
            ByteArrayOutputStream all = new ByteArrayOutputStream();
            if (fields.getOrDefault("transfer-encoding", "").equalsIgnoreCase("chunked")) {
                for (int size = chunk(); size > 0; size = chunk()) {
                    take(size, all);
                    line();
                }
            } else {
                String said = fields.getOrDefault("content-length", "");
                take(said.matches("\\d{1,9}") ? Integer.parseInt(said) : Integer.MAX_VALUE, all);
            }
            return all.toByteArray();
        }

        private int chunk() throws IOException {
            String size = line().replaceFirst(";.*", "").strip();
            if (!size.matches("[0-9a-fA-F]{1,7}")) {
                throw new IOException("It answers with something else than HTTP.");
            }
            return Integer.parseInt(size, HEX);
        }

        private void take(int bytes, ByteArrayOutputStream all) throws IOException {
            byte[] piece = new byte[PIECE];
            int left = bytes;
            for (int read = 0; left > 0 && read >= 0; left -= Math.max(0, read)) {
                read = in.read(piece, 0, Math.min(PIECE, left));
                if (read > 0) {
                    all.write(piece, 0, read);
                }
                if (all.size() > MAX_BYTES) {
                    throw new IOException("It is larger than %d MB.".formatted(MAX_BYTES / 1_000_000));
                }
                inTime();
            }
        }

        private String line() throws IOException {
            StringBuilder line = new StringBuilder();
            for (int sign = in.read(); sign >= 0 && sign != '\n'; sign = in.read()) {
                line.append((char) sign);
                if (line.length() > MAX_LINE) {
                    throw new IOException("It answers with something else than HTTP.");
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
    }
}
