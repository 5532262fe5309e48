package app.schublade.standin;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/** The way to one mail host: passes bytes on, and can be shut, slowed and cut while it is in use, or at what is said. */
public final class Gate implements AutoCloseable {
    private final ServerSocket listening;
    private final int target;
    private final Set<Socket> open = ConcurrentHashMap.newKeySet();
    private volatile boolean offline;
    private volatile int delayMillis;
    private volatile long hangUpAfter = Long.MAX_VALUE;
    private volatile String breakAt = "";

    /** Listens on a port (0 for any free one) and passes on to the target port behind it. */
    public Gate(int port, int target) throws IOException {
        this.target = target;
        this.listening = new ServerSocket();
        listening.setReuseAddress(true);
        listening.bind(new InetSocketAddress(InetAddress.getLoopbackAddress(), port));
        start("gate-" + port(), this::accept);
    }

    public int port() {
        return listening.getLocalPort();
    }

    boolean isOffline() {
        return offline;
    }

    int delayMillis() {
        return delayMillis;
    }

    /** Shut: open connections are cut and new ones are closed at once. */
    void setOffline(boolean value) {
        offline = value;
        if (value) {
            cut();
        }
    }

    /** Every piece of an answer is held back for so long. */
    void setDelayMillis(int value) {
        delayMillis = value;
    }

    /** From now on no connection brings more than so many bytes of answers. */
    public void hangUpAfter(long bytes) {
        hangUpAfter = bytes;
    }

    /** From now on an answer that holds this text breaks off before it; an empty one ends that. */
    public void breakAt(String text) {
        breakAt = text;
    }

    void cut() {
        open.forEach(Gate::closeQuietly);
        open.clear();
    }

    @Override
    public void close() {
        closeQuietly(listening);
        cut();
    }

    private void accept() {
        while (!listening.isClosed()) {
            try {
                Socket client = listening.accept();
                if (offline) {
                    client.close();
                } else {
                    join(client);
                }
            } catch (IOException e) {
                if (!listening.isClosed()) {
                    throw new UncheckedIOException(e);
                }
            }
        }
    }

    private void join(Socket client) throws IOException {
        Socket server = new Socket(InetAddress.getLoopbackAddress(), target);
        client.setTcpNoDelay(true);
        server.setTcpNoDelay(true);
        open.add(client);
        open.add(server);
        start("gate-in", () -> pass(client, server, false));
        start("gate-out", () -> pass(server, client, true));
    }

    private void pass(Socket from, Socket to, boolean slowed) {
        byte[] buffer = new byte[32 * 1024];
        long left = hangUpAfter;
        try (InputStream in = from.getInputStream();
                OutputStream out = to.getOutputStream()) {
            for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
                if (slowed && delayMillis > 0) {
                    Thread.sleep(delayMillis);
                }
                int some = slowed ? (int) Math.min(allowed(buffer, read), left) : read;
                out.write(buffer, 0, some);
                out.flush();
                left -= slowed ? some : 0;
                if (some < read) {
                    return;
                }
            }
        } catch (IOException | InterruptedException e) {
            // The other side went away, which is what gates are for.
        } finally {
            closeQuietly(from);
            closeQuietly(to);
            open.remove(from);
            open.remove(to);
        }
    }

    /** How much of a piece may pass. */
    private int allowed(byte[] buffer, int length) {
        String text = breakAt;
        int at = text.isEmpty() ? -1 : new String(buffer, 0, length, StandardCharsets.ISO_8859_1).indexOf(text);
        return at < 0 ? length : at;
    }

    private static void start(String name, Runnable work) {
        Thread thread = new Thread(work, name);
        thread.setDaemon(true);
        thread.start();
    }

    private static void closeQuietly(AutoCloseable socket) {
        try {
            socket.close();
        } catch (Exception e) {
            // Closing is all that was wanted.
        }
    }
}
