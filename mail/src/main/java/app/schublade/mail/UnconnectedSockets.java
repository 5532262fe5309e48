package app.schublade.mail;

import java.net.InetAddress;
import java.net.Socket;
import javax.net.SocketFactory;

/** Makes sockets for the library, which connects them by itself. */
abstract class UnconnectedSockets extends SocketFactory {
    @Override
    public abstract Socket createSocket();

    @Override
    public Socket createSocket(String host, int port) {
        throw new UnsupportedOperationException("The library connects by itself.");
    }

    @Override
    public Socket createSocket(String host, int port, InetAddress local, int localPort) {
        throw new UnsupportedOperationException("The library connects by itself.");
    }

    @Override
    public Socket createSocket(InetAddress host, int port) {
        throw new UnsupportedOperationException("The library connects by itself.");
    }

    @Override
    public Socket createSocket(InetAddress host, int port, InetAddress local, int localPort) {
        throw new UnsupportedOperationException("The library connects by itself.");
    }
}
