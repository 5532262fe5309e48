package app.schublade.mail;

import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Fetches pictures from hosts on the internet: no cookies, no word of who asks or where it is shown, few forwardings, and an
 * end to length and time (RFC 9112).
 */
public final class NetPictureSource implements PictureSource {
    private static final Duration LONGEST = Duration.ofSeconds(15);
    private static final int MOST_FORWARDINGS = 3;
    private static final int FOUND = 200;
    private static final byte[] NOTHING = {};
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

    /** What a host answered. */
    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    private record Answer(int status, @Nullable String location, byte[] content) {}

    @Override
    public byte[] fetch(URI address) throws IOException {
        long end = System.nanoTime() + longest.toNanos();
        URI at = address;
        for (int i = 0; i <= MOST_FORWARDINGS; i++) {
            URI asked = at;
            Answer answer = hosts.talk(asked, connection -> {
                connection.getOutputStream().write(request(asked));
                HttpAnswer read = new HttpAnswer(connection.getInputStream(), end);
                String location = read.field("location");
                return new Answer(read.status(), location, read.status() == FOUND ? read.content(MAX_BYTES) : NOTHING);
            });
            if (answer.status == FOUND) {
                return answer.content;
            }
            if (answer.location == null
                    || !MOVED.matcher(Integer.toString(answer.status)).matches()) {
                throw new IOException(
                        "It is not there any more: %s answers %d.".formatted(at.getHost(), answer.status));
            }
            at = forwarded(at, answer.location);
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
}
