package app.schublade.bench;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.ConcurrentHashMap;

/** Takes mail (RFC 5321) and counts it by its subject. Now and then it hangs up before it says that it has it. */
final class SmtpSink implements AutoCloseable {
    private static final int HANGS_UP_ONE_IN = 8;
    private static final String SUBJECT = "subject: ";

    private final ServerSocket listening;
    private final Random random;
    private final Map<String, Integer> taken = new ConcurrentHashMap<>();

    SmtpSink(long seed) throws IOException {
        listening = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        random = new Random(seed);
        Thread thread = new Thread(this::listen, "smtp sink");
        thread.setDaemon(true);
        thread.start();
    }

    int port() {
        return listening.getLocalPort();
    }

    /** How often each message was taken, by its subject. */
    Map<String, Integer> taken() {
        return Map.copyOf(taken);
    }

    private void listen() {
        while (!listening.isClosed()) {
            try (Socket socket = listening.accept();
                    BufferedReader in = new BufferedReader(
                            new InputStreamReader(socket.getInputStream(), StandardCharsets.ISO_8859_1))) {
                socket.setSoTimeout(10_000);
                talk(socket, in);
            } catch (IOException e) {
                // Whoever it was has been killed, or the run is over.
            }
        }
    }

    private void talk(Socket socket, BufferedReader in) throws IOException {
        say(socket, "220 ready");
        for (String line = in.readLine(); line != null; line = in.readLine()) {
            String command = line.toUpperCase(Locale.ROOT);
            if (command.startsWith("EHLO")) {
                say(socket, "250-sink\r\n250 AUTH PLAIN LOGIN");
            } else if (command.startsWith("AUTH")) {
                say(socket, "235 come in");
            } else if (command.equals("DATA")) {
                say(socket, "354 go on");
                take(in);
                if (random.nextInt(HANGS_UP_ONE_IN) == 0) {
                    return;
                }
                say(socket, "250 taken");
            } else if (command.equals("QUIT")) {
                say(socket, "221 bye");
                return;
            } else {
                say(socket, "250 ok");
            }
        }
    }

    private void take(BufferedReader in) throws IOException {
        String subject = "";
        for (String line = in.readLine(); line != null; line = in.readLine()) {
            if (line.equals(".")) {
                taken.merge(subject, 1, Integer::sum);
                return;
            }
            if (subject.isEmpty() && line.toLowerCase(Locale.ROOT).startsWith(SUBJECT)) {
                subject = line.substring(SUBJECT.length());
            }
        }
    }

    private static void say(Socket socket, String text) throws IOException {
        socket.getOutputStream().write((text + "\r\n").getBytes(StandardCharsets.US_ASCII));
    }

    @Override
    public void close() throws IOException {
        listening.close();
    }
}
