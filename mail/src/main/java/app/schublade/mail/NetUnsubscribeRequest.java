package app.schublade.mail;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Asks a host on the internet, without cookies and without following elsewhere; of the answer only its first line is read. */
public final class NetUnsubscribeRequest implements UnsubscribeRequest {
    private static final int MAX_LINE = 500;
    private static final String FORM = "List-Unsubscribe=One-Click";
    private static final Pattern STATUS = Pattern.compile("HTTP/1\\.[01] ([1-5]\\d\\d)(?: .*)?");

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
            return status(line(connection.getInputStream()));
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

    private static String line(InputStream in) throws IOException {
        ByteArrayOutputStream line = new ByteArrayOutputStream();
        for (int sign = in.read(); sign >= 0 && sign != '\n' && line.size() < MAX_LINE; sign = in.read()) {
            line.write(sign);
        }
        return line.toString(StandardCharsets.ISO_8859_1).strip();
    }

    private static int status(String line) throws IOException {
        Matcher status = STATUS.matcher(line);
        if (!status.matches()) {
            throw new IOException("It answers with something else than HTTP.");
        }
        return Integer.parseInt(status.group(1));
    }
}
