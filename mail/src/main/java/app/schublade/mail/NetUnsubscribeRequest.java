package app.schublade.mail;

import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;

/** Asks a host on the internet, without cookies and without following elsewhere; of the answer only its first line is read. */
public final class NetUnsubscribeRequest implements UnsubscribeRequest {
    private static final Duration LONGEST = Duration.ofSeconds(15);
    private static final String FORM = "List-Unsubscribe=One-Click";

    private final GuardedHosts hosts;

    public NetUnsubscribeRequest() {
        this(GuardedHosts.onTheInternet());
    }

    NetUnsubscribeRequest(GuardedHosts hosts) {
        this.hosts = hosts;
    }

    @Override
    public int send(URI address) throws IOException {
        return hosts.talk(address, connection -> {
            connection.getOutputStream().write(request(address));
            return new HttpAnswer(connection.getInputStream(), System.nanoTime() + LONGEST.toNanos()).status();
        });
    }

    private static byte[] request(URI address) {
        return """
                POST %s HTTP/1.1\r
                Host: %s\r
                Content-Type: application/x-www-form-urlencoded\r
                Content-Length: %d\r
                Connection: close\r
                \r
                %s""".formatted(GuardedHosts.path(address), GuardedHosts.host(address), FORM.length(), FORM)
                .getBytes(StandardCharsets.US_ASCII);
    }
}
