package app.schublade.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How Schublade logs in, told by a server that plays a part. */
class LogInTest {
    /** A server that offers some things and gives one answer to each try to log in. */
    private static final class Actor implements AutoCloseable {
        private final ServerSocket listening = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
        private final String offers;
        private final List<String> answers;
        private final List<String> heard = Collections.synchronizedList(new ArrayList<>());

        /** @param answers to what comes in a login, one after the other; the tag is put before the last */
        Actor(String offers, String... answers) throws IOException {
            this.offers = offers;
            this.answers = List.of(answers);
            Thread thread = new Thread(this::serve, "actor");
            thread.setDaemon(true);
            thread.start();
        }

        private void serve() {
            try (Socket socket = listening.accept();
                    BufferedReader in = new BufferedReader(
                            new InputStreamReader(socket.getInputStream(), StandardCharsets.US_ASCII))) {
                say(socket, "* OK [CAPABILITY IMAP4rev1 " + offers + "] here");
                for (String line = in.readLine(); line != null; line = in.readLine()) {
                    String tag = line.substring(0, line.indexOf(' '));
                    String command = line.substring(tag.length() + 1);
                    if (command.startsWith("CAPABILITY")) {
                        say(socket, "* CAPABILITY IMAP4rev1 " + offers);
                        say(socket, tag + " OK");
                    } else if (command.startsWith("LOGOUT")) {
                        say(socket, tag + " OK");
                    } else {
                        heard.add(command);
                        for (String answer : answers.subList(0, answers.size() - 1)) {
                            say(socket, answer);
                            heard.add(in.readLine());
                        }
                        say(socket, tag + " " + answers.get(answers.size() - 1));
                    }
                }
            } catch (IOException e) {
                // The client has hung up.
            }
        }

        private static void say(Socket socket, String line) throws IOException {
            OutputStream out = socket.getOutputStream();
            out.write((line + "\r\n").getBytes(StandardCharsets.US_ASCII));
            out.flush();
        }

        void open(Credentials credentials) throws MailException {
            open(credentials, MailHost.Encryption.NONE);
        }

        void open(Credentials credentials, MailHost.Encryption encryption) throws MailException {
            MailHost host = new MailHost("127.0.0.1", listening.getLocalPort(), encryption, "tilda,b=c@quay.example");
            ImapConnection.open(host, credentials, Duration.ofSeconds(5)).close();
        }

        @Override
        public void close() throws IOException {
            listening.close();
        }
    }

    private static String decoded(String base64) {
        return new String(Base64.getDecoder().decode(base64), StandardCharsets.UTF_8);
    }

    @Test
    void aTokenIsShownAsTheBearersWhereTheServerWantsThat() throws Exception {
        try (Actor server = new Actor("AUTH=OAUTHBEARER AUTH=XOAUTH2", "+ ", "OK in")) {
            server.open(Credentials.token("abc.def"));
            assertThat(server.heard.get(0)).isEqualTo("AUTHENTICATE OAUTHBEARER");
            assertThat(decoded(server.heard.get(1)))
                    .isEqualTo(
                            "n,a=tilda=2Cb=3Dc@quay.example,\u0001host=127.0.0.1\u0001port=%d\u0001auth=Bearer abc.def\u0001\u0001",
                            server.listening.getLocalPort());
        }
    }

    @Test
    void aTokenThatIsRefusedIsToldAfterItsChallengeIsAnswered() throws Exception {
        String why = Base64.getEncoder()
                .encodeToString("{\"status\":\"invalid_token\"}".getBytes(StandardCharsets.US_ASCII));
        try (Actor server = new Actor("AUTH=OAUTHBEARER", "+ ", "+ " + why, "NO no")) {
            assertThatThrownBy(() -> server.open(Credentials.token("old")))
                    .isInstanceOfSatisfying(
                            MailException.class,
                            e -> assertThat(e.kind()).isEqualTo(MailException.FailureKind.LOGIN_REFUSED));
            assertThat(server.heard).last().isEqualTo("AQ==");
        }
    }

    @Test
    void elsewhereATokenIsShownInTheOlderWay() throws Exception {
        try (Actor server = new Actor("AUTH=XOAUTH2 SASL-IR", "OK in")) {
            server.open(Credentials.token("abc"));
            assertThat(server.heard.get(0)).startsWith("AUTHENTICATE XOAUTH2 ");
            assertThat(decoded(server.heard.get(0).substring("AUTHENTICATE XOAUTH2 ".length())))
                    .isEqualTo("user=tilda,b=c@quay.example\u0001auth=Bearer abc\u0001\u0001");
        }
    }

    @Test
    void aServerThatWantsNoLoginCommandIsGivenThePasswordInAnotherWay() throws Exception {
        try (Actor server = new Actor("LOGINDISABLED AUTH=PLAIN", "+ ", "OK in")) {
            server.open(Credentials.password("secret"));
            assertThat(server.heard.get(0)).isEqualTo("AUTHENTICATE PLAIN");
            assertThat(decoded(server.heard.get(1))).endsWith("\0tilda,b=c@quay.example\0secret");
        }
    }

    /** Somebody on the way may have taken the offer out of what the server says. */
    @Test
    void aServerThatOffersNoEncryptionIsNotSpokenToAnyFurther() throws Exception {
        try (Actor server = new Actor("AUTH=PLAIN", "OK in")) {
            assertThatThrownBy(() -> server.open(Credentials.password("secret"), MailHost.Encryption.STARTTLS))
                    .isInstanceOfSatisfying(
                            MailException.class,
                            e -> assertThat(e.kind()).isEqualTo(MailException.FailureKind.NOT_ENCRYPTED));
            assertThat(server.heard).isEmpty();
        }
    }

    /** RFC 5530: what the password could mend is told apart from what it could not. */
    @ParameterizedTest
    @CsvSource({
        "NO no such user, LOGIN_REFUSED",
        "NO [AUTHENTICATIONFAILED] no, LOGIN_REFUSED",
        "NO [AUTHORIZATIONFAILED] not for mail programs, NOT_PERMITTED",
        "NO [PRIVACYREQUIRED] not like this, NOT_PERMITTED",
        "NO [UNAVAILABLE] the office is closed, AWAY",
        "NO [INUSE] one at a time, AWAY",
    })
    void whyNobodyIsLetInIsToldApart(String answer, MailException.FailureKind kind) throws Exception {
        try (Actor server = new Actor("AUTH=PLAIN", answer)) {
            assertThatThrownBy(() -> server.open(Credentials.password("secret")))
                    .isInstanceOfSatisfying(
                            MailException.class, e -> assertThat(e.kind()).isEqualTo(kind));
        }
    }
}
