package app.schublade.mail;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpHandler;
import com.sun.net.httpserver.HttpsConfigurator;
import com.sun.net.httpserver.HttpsServer;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;

/** A server of another's making on this machine, with a certificate that nobody vouches for. */
final class HttpsHost implements AutoCloseable {
    private static final char[] SECRET = "secret".toCharArray();

    private final HttpsServer server;
    private final String pin;

    HttpsHost(Path directory, HttpHandler handler) throws Exception {
        Path store = directory.resolve("store");
        String keytool =
                Path.of(System.getProperty("java.home"), "bin", "keytool").toString();
        String how =
                "-genkeypair -alias t -keyalg RSA -storetype PKCS12 -storepass secret -dname CN=localhost -keystore";
        List<String> command = new ArrayList<>(List.of(keytool));
        command.addAll(List.of(how.split(" ", -1)));
        command.add(store.toString());
        Process made = new ProcessBuilder(command).inheritIO().start();
        assertThat(made.waitFor()).isZero();
        KeyStore keys = KeyStore.getInstance("PKCS12");
        try (InputStream in = Files.newInputStream(store)) {
            keys.load(in, SECRET);
        }
        pin = ServerCertificate.fingerprint((X509Certificate) keys.getCertificate("t"));
        KeyManagerFactory managers = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
        managers.init(keys, SECRET);
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(managers.getKeyManagers(), null, null);
        server = HttpsServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 5);
        server.setHttpsConfigurator(new HttpsConfigurator(context));
        server.createContext("/", handler);
        server.start();
    }

    int port() {
        return server.getAddress().getPort();
    }

    String address(String path) {
        return "https://127.0.0.1:%d%s".formatted(port(), path);
    }

    /** As if its address were a public one, and its certificate trusted. */
    GuardedHosts trusted(Duration patience) {
        return new GuardedHosts(address -> true, pin, patience);
    }

    @Override
    public void close() {
        server.stop(0);
    }
}
