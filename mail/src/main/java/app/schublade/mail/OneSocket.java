package app.schublade.mail;

import java.io.IOException;
import java.net.Socket;

/**
 * Makes the socket of one connection and keeps hold of it: the library's own way to close a connection waits for
 * whoever is reading from it, which is just what closing must end.
 */
final class OneSocket extends UnconnectedSockets implements AutoCloseable {
    private final Socket socket;

    OneSocket(Socket socket) {
        this.socket = socket;
    }

    @Override
    public Socket createSocket() {
        return socket;
    }

    @Override
    public void close() {
        try {
            socket.close();
        } catch (IOException e) {
            // Closing is all that was wanted.
        }
    }
}
