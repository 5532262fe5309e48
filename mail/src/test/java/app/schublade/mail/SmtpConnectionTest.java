package app.schublade.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Handing mail in, to a server that answers as it is told. */
class SmtpConnectionTest {
    private static final byte[] SOURCE = "Subject: Loan\r\n\r\nDear Anna,\r\n.\r\n".getBytes(StandardCharsets.US_ASCII);

    /** Says yes to everything but one command; for one conversation. */
    private static final class Host implements AutoCloseable {
        private final ServerSocket listening = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
        private final List<String> heard = Collections.synchronizedList(new ArrayList<>());
        private final String command;
        private final String answer;

        Host(String command, String answer) throws IOException {
            this.command = command;
            this.answer = answer;
            Thread thread = new Thread(this::converse, "host");
            thread.setDaemon(true);
            thread.start();
        }

        MailHost host() {
            return new MailHost("127.0.0.1", listening.getLocalPort(), MailHost.Encryption.NONE, "tilda");
        }

        private void converse() {
            try (Socket socket = listening.accept();
                    BufferedReader in = new BufferedReader(
                            new InputStreamReader(socket.getInputStream(), StandardCharsets.US_ASCII))) {
                say(socket, "220 ready");
                boolean text = false;
                for (String line = in.readLine(); line != null; line = in.readLine()) {
                    heard.add(line);
                    if (text && !line.equals(".")) {
                        continue;
                    }
                    String said = text ? "END" : line.split(" ", 2)[0].toUpperCase(Locale.ROOT);
                    text = said.equals("DATA") && !command.equals("DATA");
                    say(socket, said.equals(command) ? answer : usual(said));
                }
            } catch (IOException e) {
                heard.add("cut off");
            }
        }

        private static String usual(String said) {
            return switch (said) {
                case "EHLO" -> "250-here\r\n250 AUTH PLAIN";
                case "AUTH" -> "235 welcome";
                case "DATA" -> "354 go on";
                default -> "250 yes";
            };
        }

        private static void say(Socket socket, String line) throws IOException {
            socket.getOutputStream().write((line + "\r\n").getBytes(StandardCharsets.US_ASCII));
        }

        @Override
        public void close() throws IOException {
            listening.close();
        }
    }

    private static OptionalLong send(Host host) throws MailException {
        return SmtpConnection.send(
                host.host(),
                Credentials.password("lantern"),
                Duration.ofSeconds(5),
                SOURCE,
                List.of("anna@wharf.example", "ben@wharf.example"));
    }

    @Test
    void aMessageIsHandedInForAllItsRecipients() throws Exception {
        try (Host host = new Host("", "")) {
            send(host);
            assertThat(host.heard).contains("RCPT TO:<anna@wharf.example>", "RCPT TO:<ben@wharf.example>");
            assertThat(host.heard).as("a line with a dot alone ends nothing").contains("..", "Dear Anna,");
        }
    }

    @ParameterizedTest
    @CsvSource({"SIZE 20971520, 20971520", "SIZE, ", "SIZE 0, ", "SIZE many, ", "SIZE 99999999999999999999, ", "X, "})
    void tellsHowLargeAMessageTheServerTakes(String said, Long limit) throws Exception {
        try (Host host = new Host("EHLO", "250-here\r\n250-%s\r\n250 AUTH PLAIN".formatted(said))) {
            assertThat(send(host)).isEqualTo(limit == null ? OptionalLong.empty() : OptionalLong.of(limit));
        }
    }

    @ParameterizedTest
    @CsvSource({
        "RCPT, 550 5.1.1 nobody of that name, REFUSED, nobody of that name",
        "END, 552 too large, REFUSED, too large",
        "RCPT, 450 4.2.1 come later, AWAY, come later",
        "END, 451 no room now, AWAY, no room now",
        "AUTH, 535 wrong, LOGIN_REFUSED, refused the password"
    })
    void whatAServerSaysDecidesWhetherItIsTriedAgain(
            String command, String answer, MailException.FailureKind kind, String said) throws Exception {
        try (Host host = new Host(command, answer)) {
            MailException problem = catchThrowableOfType(MailException.class, () -> send(host));
            assertThat(problem.kind()).isEqualTo(kind);
            assertThat(problem).hasMessageContaining(said);
        }
    }

    @Test
    void aConnectionThatIsCutIsTriedAgain() throws Exception {
        try (Host host = new Host("MAIL", "421 closing")) {
            MailException problem = catchThrowableOfType(MailException.class, () -> send(host));
            assertThat(problem.kind()).isNotEqualTo(MailException.FailureKind.REFUSED);
        }
    }
}
