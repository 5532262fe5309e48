package app.schublade.mail;

import java.io.FilterInputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.Socket;
import java.net.SocketAddress;
import java.net.SocketException;
import java.net.SocketTimeoutException;
import java.time.Duration;
import javax.net.SocketFactory;

/**
 * A socket whose answers come to an end. A time limit for each read alone lets a server hold somebody for ever by one byte a
 * minute, so an answer, from the last thing that was written on, has its limit too: the patience, and a second more for
 * each {@link #BYTES_A_SECOND} bytes.
 */
final class Drip extends Socket {
    /** Slower lines are not worth waiting for. */
    private static final int BYTES_A_SECOND = 500;

    private static final long NANOS = 1_000_000_000L;

    private final Socket socket;
    private final long patienceNanos;
    private long asked = System.nanoTime();
    private long bytes;

    /** @param socket what does the work; connected or not */
    Drip(Socket socket, Duration patience) {
        this.socket = socket;
        patienceNanos = patience.toNanos();
    }

    /** Makes such sockets, for connections without encryption. */
    static SocketFactory factory(Duration patience) {
        return new UnconnectedSockets() {
            @Override
            public Socket createSocket() {
                return new Drip(new Socket(), patience);
            }
        };
    }

    @Override
    public InputStream getInputStream() throws IOException {
        return new FilterInputStream(socket.getInputStream()) {
            @Override
            public int read() throws IOException {
                int one = super.read();
                came(one < 0 ? 0 : 1);
                return one;
            }

            @Override
            public int read(byte[] some, int offset, int length) throws IOException {
                int read = super.read(some, offset, length);
                came(Math.max(0, read));
                return read;
            }
        };
    }

    @Override
    public OutputStream getOutputStream() throws IOException {
        return new FilterOutputStream(socket.getOutputStream()) {
            @Override
            public void write(byte[] some, int offset, int length) throws IOException {
                out.write(some, offset, length); // The filter's own way is byte by byte.
                wrote();
            }
        };
    }

    private synchronized void wrote() {
        asked = System.nanoTime();
        bytes = 0;
    }

    private synchronized void came(int more) throws SocketTimeoutException {
        bytes += more;
        long taken = System.nanoTime() - asked;
        if (taken > patienceNanos + bytes * NANOS / BYTES_A_SECOND) {
            throw new SocketTimeoutException(
                    "its answer takes too long: %,d bytes in %,d seconds.".formatted(bytes, taken / NANOS));
        }
    }

    @Override
    public void connect(SocketAddress endpoint) throws IOException {
        socket.connect(endpoint);
    }

    @Override
    public void connect(SocketAddress endpoint, int timeout) throws IOException {
        socket.connect(endpoint, timeout);
        wrote();
    }

    @Override
    public void bind(SocketAddress point) throws IOException {
        socket.bind(point);
    }

    @Override
    public InetAddress getInetAddress() {
        return socket.getInetAddress();
    }

    @Override
    public InetAddress getLocalAddress() {
        return socket.getLocalAddress();
    }

    @Override
    public int getPort() {
        return socket.getPort();
    }

    @Override
    public int getLocalPort() {
        return socket.getLocalPort();
    }

    @Override
    public SocketAddress getRemoteSocketAddress() {
        return socket.getRemoteSocketAddress();
    }

    @Override
    public SocketAddress getLocalSocketAddress() {
        return socket.getLocalSocketAddress();
    }

    @Override
    public void setTcpNoDelay(boolean on) throws SocketException {
        socket.setTcpNoDelay(on);
    }

    @Override
    public boolean getTcpNoDelay() throws SocketException {
        return socket.getTcpNoDelay();
    }

    @Override
    public synchronized void setSoTimeout(int millis) throws SocketException {
        socket.setSoTimeout(millis);
    }

    @Override
    public synchronized int getSoTimeout() throws SocketException {
        return socket.getSoTimeout();
    }

    @Override
    public void setKeepAlive(boolean on) throws SocketException {
        socket.setKeepAlive(on);
    }

    @Override
    public void setSoLinger(boolean on, int seconds) throws SocketException {
        socket.setSoLinger(on, seconds);
    }

    @Override
    public synchronized void close() throws IOException {
        socket.close();
    }

    @Override
    public void shutdownInput() throws IOException {
        socket.shutdownInput();
    }

    @Override
    public void shutdownOutput() throws IOException {
        socket.shutdownOutput();
    }

    @Override
    public boolean isConnected() {
        return socket.isConnected();
    }

    @Override
    public boolean isBound() {
        return socket.isBound();
    }

    @Override
    public boolean isClosed() {
        return socket.isClosed();
    }

    @Override
    public boolean isInputShutdown() {
        return socket.isInputShutdown();
    }

    @Override
    public boolean isOutputShutdown() {
        return socket.isOutputShutdown();
    }

    @Override
    public String toString() {
        return socket.toString();
    }
}
