package app.schublade.mail;

import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.CertificateException;
import java.security.cert.X509Certificate;
import java.time.Duration;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLParameters;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.SSLSocketFactory;
import javax.net.ssl.TrustManager;
import javax.net.ssl.TrustManagerFactory;
import javax.net.ssl.X509ExtendedTrustManager;
import org.jspecify.annotations.Nullable;

/**
 * Makes TLS sockets that believe a server if the usual authorities vouch for its name, or if it shows the very
 * certificate that the user has pinned.
 */
final class Trust extends SSLSocketFactory implements AutoCloseable {
    private final SSLSocketFactory factory;
    private final Duration patience;
    private volatile @Nullable Socket made;

    /** @param patience how long an answer may take, see {@link Drip} */
    Trust(@Nullable String pin, Duration patience) {
        this.patience = patience;
        try {
            SSLContext context = SSLContext.getInstance("TLS");
            context.init(null, new TrustManager[] {new Judge(usualAuthorities(), pin)}, null);
            factory = context.getSocketFactory();
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("This Java cannot speak TLS", e);
        }
    }

    private static X509ExtendedTrustManager usualAuthorities() throws GeneralSecurityException {
        TrustManagerFactory factory = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        factory.init((KeyStore) null);
        for (TrustManager manager : factory.getTrustManagers()) {
            if (manager instanceof X509ExtendedTrustManager usual) {
                return usual;
            }
        }
        throw new GeneralSecurityException("There is no trust manager");
    }

    private Socket checking(Socket socket) {
        SSLSocket tls = (SSLSocket) socket;
        SSLParameters parameters = tls.getSSLParameters();
        parameters.setEndpointIdentificationAlgorithm("HTTPS"); // RFC 6125, as RFC 7817 wants it for mail
        tls.setSSLParameters(parameters);
        made = tls;
        return tls;
    }

    /** Closes the socket that was made last, even while another thread reads from it. */
    @Override
    public void close() {
        Socket socket = made;
        if (socket != null) {
            try {
                socket.close();
            } catch (IOException e) {
                // Closing is all that was wanted.
            }
        }
    }

    @Override
    public Socket createSocket() throws IOException {
        return checking(factory.createSocket());
    }

    @Override
    public Socket createSocket(Socket socket, String host, int port, boolean autoClose) throws IOException {
        Socket below = socket instanceof Drip ? socket : new Drip(socket, patience);
        return checking(factory.createSocket(below, host, port, autoClose));
    }

    @Override
    public Socket createSocket(String host, int port) throws IOException {
        return checking(factory.createSocket(host, port));
    }

    @Override
    public Socket createSocket(String host, int port, InetAddress local, int localPort) throws IOException {
        return checking(factory.createSocket(host, port, local, localPort));
    }

    @Override
    public Socket createSocket(InetAddress host, int port) throws IOException {
        return checking(factory.createSocket(host, port));
    }

    @Override
    public Socket createSocket(InetAddress host, int port, InetAddress local, int localPort) throws IOException {
        return checking(factory.createSocket(host, port, local, localPort));
    }

    @Override
    public String[] getDefaultCipherSuites() {
        return factory.getDefaultCipherSuites();
    }

    @Override
    public String[] getSupportedCipherSuites() {
        return factory.getSupportedCipherSuites();
    }

    /** Decides whether a certificate is believed. */
    private static final class Judge extends X509ExtendedTrustManager {
        private final X509ExtendedTrustManager usual;
        private final @Nullable String pin;

        Judge(X509ExtendedTrustManager usual, @Nullable String pin) {
            this.usual = usual;
            this.pin = pin;
        }

        private interface Check {
            void run() throws CertificateException;
        }

        private void judge(X509Certificate[] chain, Check check) throws CertificateException {
            if (pin != null && chain.length > 0) {
                if (pin.equals(ServerCertificate.fingerprint(chain[0]))) {
                    return;
                }
            }
            try {
                check.run();
            } catch (CertificateException e) {
                throw chain.length == 0 ? e : new ServerCertificate.NotTrusted(ServerCertificate.of(chain[0]), e);
            }
        }

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type, Socket socket)
                throws CertificateException {
            judge(chain, () -> usual.checkServerTrusted(chain, type, socket));
        }

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type, SSLEngine engine)
                throws CertificateException {
            judge(chain, () -> usual.checkServerTrusted(chain, type, engine));
        }

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type) throws CertificateException {
            judge(chain, () -> usual.checkServerTrusted(chain, type));
        }

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type, Socket socket)
                throws CertificateException {
            throw new CertificateException("Nobody logs in here.");
        }

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type, SSLEngine engine)
                throws CertificateException {
            throw new CertificateException("Nobody logs in here.");
        }

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type) throws CertificateException {
            throw new CertificateException("Nobody logs in here.");
        }

        @Override
        public X509Certificate[] getAcceptedIssuers() {
            return usual.getAcceptedIssuers();
        }
    }
}
