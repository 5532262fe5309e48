package app.schublade.mail;

import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.URI;
import java.net.UnknownHostException;
import java.time.Duration;
import java.util.function.Predicate;
import javax.net.ssl.SSLSocket;
import org.jspecify.annotations.Nullable;

/**
 * Connects to hosts on the internet that a message names: whoever wrote it chooses whom this machine speaks with. Therefore
 * only hosts whose every address is a public one are spoken with, at the very address that was looked at, and by https.
 *
 * @param permitted which addresses are public
 * @param pin of the one certificate that is trusted besides, or null
 * @param patience for each step, and for each piece of an answer
 */
record GuardedHosts(
        Predicate<InetAddress> permitted, @Nullable String pin, Duration patience) {
    private static final Duration PATIENCE = Duration.ofSeconds(5);
    private static final int HTTPS = 443;

    static GuardedHosts onTheInternet() {
        return new GuardedHosts(GuardedHosts::isPublic, null, PATIENCE);
    }

    /** What is said on a connection, and how the answer is read. */
    interface Talk<T> {
        T over(SSLSocket connection) throws IOException;
    }

    /** @throws IOException if nobody answers, or if one must not ask there; its message is a sentence */
    <T> T talk(URI address, Talk<T> talk) throws IOException {
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
            return talk.over(secure);
        } finally {
            socket.close();
        }
    }

    /** What comes after the name of the host, as a request names it. */
    static String path(URI address) {
        String path = address.getRawPath() == null || address.getRawPath().isEmpty() ? "/" : address.getRawPath();
        return path + (address.getRawQuery() == null ? "" : "?" + address.getRawQuery());
    }

    static String host(URI address) {
        return address.getHost() + (address.getPort() < 0 ? "" : ":" + address.getPort());
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
