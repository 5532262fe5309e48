package app.schublade.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.standin.DovecotHost;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Scripts on a real server, and servers that answer something else. */
class ScriptConnectionTest {
    private static final Duration PATIENCE = Duration.ofSeconds(10);
    private static final Credentials PASSWORD = Credentials.password(DovecotHost.PASSWORD);
    private static DovecotHost server;

    @BeforeAll
    static void start() {
        server = DovecotHost.start(DovecotHost.Shape.SLASH);
    }

    @AfterAll
    static void stop() {
        server.close();
    }

    private static MailHost host(int port, MailHost.Encryption encryption) {
        return new MailHost("127.0.0.1", port, encryption, server.user());
    }

    private static MailHost plain() {
        return host(server.scriptPort(), MailHost.Encryption.NONE);
    }

    @Test
    void scriptsArePutActivatedAndTakenAway() throws MailException {
        try (ScriptConnection connection = ScriptConnection.open(plain(), PASSWORD, PATIENCE)) {
            assertThat(connection.extensions()).contains("fileinto", "imap4flags", "variables");
            assertThat(connection.scripts()).isEmpty();
            connection.put("mine", "require \"fileinto\";\n# größer\nfileinto \"Archive\";\n");
            connection.put("a \"quoted\" \\ name", "keep;\n");
            connection.activate("mine");
            assertThat(connection.scripts()).isEqualTo(Map.of("mine", true, "a \"quoted\" \\ name", false));
            connection.activate("");
            connection.delete("mine");
            assertThat(connection.scripts()).isEqualTo(Map.of("a \"quoted\" \\ name", false));
        }
    }

    @Test
    void whatTheServerDoesNotTakeIsSaidInItsWords() throws MailException {
        try (ScriptConnection connection = ScriptConnection.open(plain(), PASSWORD, PATIENCE)) {
            assertThatThrownBy(() -> connection.put("mine", "fileinto nonsense;"))
                    .isInstanceOfSatisfying(
                            MailException.class,
                            problem -> assertThat(problem.kind()).isEqualTo(MailException.FailureKind.REFUSED))
                    .hasMessageContaining("mine");
            assertThatThrownBy(() -> connection.activate("nothing")).isInstanceOf(MailException.class);
        }
    }

    @Test
    void aWrongPasswordAndAWrongPortAreToldApart() {
        assertThat(kind(plain(), Credentials.password("wrong"))).isEqualTo(MailException.FailureKind.LOGIN_REFUSED);
        assertThat(kind(host(1, MailHost.Encryption.NONE), PASSWORD)).isEqualTo(MailException.FailureKind.WRONG_PORT);
    }

    @Test
    void anUnknownCertificateIsShownAndCanBePinned() throws MailException {
        MailHost host = host(server.scriptPort(), MailHost.Encryption.STARTTLS);
        assertThatThrownBy(() -> ScriptConnection.open(host, PASSWORD, PATIENCE))
                .isInstanceOfSatisfying(MailException.class, problem -> {
                    assertThat(problem.kind()).isEqualTo(MailException.FailureKind.CERTIFICATE);
                    assertThat(problem.certificate()).isNotNull();
                    String pin = problem.certificate() == null
                            ? ""
                            : problem.certificate().fingerprint();
                    try (ScriptConnection connection = ScriptConnection.open(host.pinned(pin), PASSWORD, PATIENCE)) {
                        assertThat(connection.scripts()).isEmpty();
                    } catch (MailException e) {
                        throw new AssertionError(e);
                    }
                });
    }

    private static MailException.FailureKind kind(MailHost host, Credentials credentials) {
        try (ScriptConnection connection = ScriptConnection.open(host, credentials, PATIENCE)) {
            throw new AssertionError("It let in: " + connection.extensions());
        } catch (MailException e) {
            return e.kind();
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "\"SIEVE\" \"fileinto\"\r\nOK\r\n",
                "\"SIEVE\" {99999999}\r\n",
                "* OK IMAP4rev1 ready\r\n",
                "BYE \"Not today\"\r\n"
            })
    void aServerThatTalksNonsenseIsLeft(String greeting) throws IOException {
        try (ServerSocket listening = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            Thread odd = new Thread(() -> {
                try (Socket socket = listening.accept()) {
                    socket.getOutputStream().write(greeting.getBytes(StandardCharsets.UTF_8));
                    socket.getOutputStream().flush();
                    assertThat(socket.getInputStream().read()).isGreaterThan(-2);
                } catch (IOException e) {
                    // The client has hung up, as it should.
                }
            });
            odd.setDaemon(true);
            odd.start();
            MailHost host = host(listening.getLocalPort(), MailHost.Encryption.NONE);
            assertThatThrownBy(() -> ScriptConnection.open(host, PASSWORD, Duration.ofSeconds(1)))
                    .isInstanceOf(MailException.class);
        }
    }
}
