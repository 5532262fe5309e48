package app.schublade.mail;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.URI;
import java.net.UnknownHostException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.net.ssl.SSLSocket;
import org.jspecify.annotations.Nullable;

/**
 * Asks a host on the internet. The address comes out of a message, so that whoever wrote it chooses whom this machine speaks
 * with: therefore only hosts whose every address is a public one are asked, at the very address that was looked at; by https;
 * without cookies, without following elsewhere; and of the answer only its first line is read.
 */
public final class NetUnsubscribeRequest implements UnsubscribeRequest {
    private static final Duration PATIENCE = Duration.ofSeconds(5);
    private static final int HTTPS = 443;
    private static final int MAX_LINE = 500;
    private static final String FORM = "List-Unsubscribe=One-Click";
    private static final Pattern STATUS = Pattern.compile("HTTP/1\\.[01] ([1-5]\\d\\d)(?: .*)?");

    private final Predicate<InetAddress> permitted;
    private final @Nullable String pin;
    private final Duration patience;

    public NetUnsubscribeRequest() {
        this(NetUnsubscribeRequest::isPublic, null, PATIENCE);
    }

    NetUnsubscribeRequest(Predicate<InetAddress> permitted, @Nullable String pin, Duration patience) {
        this.permitted = permitted;
        this.pin = pin;
        this.patience = patience;
    }

    @Override
    public int send(URI address) throws IOException {
        if (!"https".equalsIgnoreCase(address.getScheme()) || address.getHost() == null) {
            throw new IOException("Its address is not one of https.");
        }
        int port = address.getPort() < 0 ? HTTPS : address.getPort();
        Socket socket = new Socket();
        try (Trust trust = new Trust(pin, patience)) {
            socket.setSoTimeout((int) patience.toMillis());
            socket.connect(new InetSocketAddress(resolved(address.getHost()), port), (int) patience.toMillis());
            SSLSocket secure = (SSLSocket) trust.createSocket(socket, address.getHost(), port, true);
            secure.startHandshake();
            secure.getOutputStream().write(request(address));
            return status(line(secure.getInputStream()));
        } finally {
            socket.close();
        }
    }

    /** That address of a host which is spoken with: none of them may be one of a network that is not public. */
    private InetAddress resolved(String host) throws IOException {
        InetAddress[] all;
        try {
            all = InetAddress.getAllByName(host);
        } catch (UnknownHostException e) {
            throw new IOException("There is no host %s.".formatted(host), e);
        }
        for (InetAddress one : all) {
            if (!permitted.test(one)) {
                throw new IOException("The host %s does not lie in the public internet.".formatted(host));
            }
        }
        return all[0];
    }

    private static byte[] request(URI address) {
        String path = address.getRawPath() == null || address.getRawPath().isEmpty() ? "/" : address.getRawPath();
        String query = address.getRawQuery() == null ? "" : "?" + address.getRawQuery();
        String host = address.getHost() + (address.getPort() < 0 ? "" : ":" + address.getPort());
        return """
                POST %s HTTP/1.1\r
                Host: %s\r
                Content-Type: application/x-www-form-urlencoded\r
                Content-Length: %d\r
                Connection: close\r
                \r
                %s""".formatted(path + query, host, FORM.length(), FORM).getBytes(StandardCharsets.US_ASCII);
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

    /** Whether an address lies in no network of one's own, of this machine, or of a special kind (RFC 6890). */
    static boolean isPublic(InetAddress address) {
        byte[] bytes = address.getAddress();
        int first = bytes[0] & 0xff;
        int second = bytes[1] & 0xff;
        boolean special = address.isAnyLocalAddress()
                || address.isLoopbackAddress()
                || address.isLinkLocalAddress()
                || address.isSiteLocalAddress()
                || address.isMulticastAddress();
        if (special) {
            return false;
        }
        return bytes.length == 4 ? isPublic4(first, second, bytes[2] & 0xff) : isPublic6(first, second, bytes);
    }

    private static boolean isPublic4(int first, int second, int third) {
        return first != 0
                && first < 240
                && !(first == 100 && second >= 64 && second < 128)
                && !(first == 192 && second == 0 && (third == 0 || third == 2))
                && !(first == 192 && second == 88 && third == 99)
                && !(first == 198 && (second == 18 || second == 19))
                && !(first == 198 && second == 51 && third == 100)
                && !(first == 203 && second == 0 && third == 113);
    }

    /** Only what is given out to networks (2000::/3), without what stands for an address of the other kind. */
    private static boolean isPublic6(int first, int second, byte[] bytes) {
        int third = bytes[2] & 0xff;
        int fourth = bytes[3] & 0xff;
        boolean stands4 = first == 0x20 && second == 0x02; // 6to4
        boolean special = first == 0x20 && second == 0x01 && (third < 2 || (third == 0x0d && fourth == 0xb8));
        return (first & 0xe0) == 0x20 && !stands4 && !special;
    }
}
