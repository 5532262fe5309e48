package app.schublade.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** Servers that never come to an end, by whatever protocol they are spoken to. */
class DripTest {
    private static final Duration PATIENCE = Duration.ofSeconds(1);

    /** Says one character after the other, each well in time. */
    private static ServerSocket dripping(String beginning) throws Exception {
        ServerSocket door = new ServerSocket(0, 5, InetAddress.getLoopbackAddress());
        Thread server = new Thread(() -> {
            while (!door.isClosed()) {
                try (Socket socket = door.accept();
                        OutputStream out = socket.getOutputStream()) {
                    out.write(beginning.getBytes(StandardCharsets.US_ASCII));
                    for (int i = 0; i < 400; i++) {
                        out.write('x');
                        out.flush();
                        Thread.sleep(50);
                    }
                } catch (Exception e) {
                    // It was given up.
                }
            }
        });
        server.setDaemon(true);
        server.start();
        return door;
    }

    private interface Opening {
        AutoCloseable open(MailHost host) throws Exception;
    }

    @Test
    @Timeout(60)
    void anAnswerThatDripsIsGivenUp() throws Exception {
        Credentials credentials = Credentials.password("secret");
        List<Opening> all = List.of(
                host -> ImapConnection.open(host, credentials, PATIENCE),
                host -> PopConnection.open(host, credentials, PATIENCE),
                host -> ScriptConnection.open(host, credentials, PATIENCE),
                host -> {
                    SmtpConnection.check(host, credentials, PATIENCE);
                    return () -> {};
                });
        try (ServerSocket door = dripping("* OK ")) {
            MailHost host = new MailHost("127.0.0.1", door.getLocalPort(), MailHost.Encryption.NONE, "tilda");
            for (Opening one : all) {
                long begun = System.nanoTime();
                assertThatThrownBy(() -> one.open(host))
                        .isInstanceOfSatisfying(
                                MailException.class,
                                e -> assertThat(e.kind().needsUser()).isFalse());
                assertThat(Duration.ofNanos(System.nanoTime() - begun)).isLessThan(Duration.ofSeconds(10));
            }
        }
    }

    @Test
    void stringsAreReadHoweverLongTheyAre() {
        String text = "a \"quoted\" \\ text\n".repeat(100_000);
        String quoted = '"' + text.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
        assertThat(ScriptConnection.strings("NO (X) " + quoted + " \"b\" \"open"))
                .containsExactly(text, "b");
    }
}
