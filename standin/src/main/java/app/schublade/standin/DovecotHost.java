package app.schublade.standin;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.concurrent.ThreadLocalRandom;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Debian's IMAP and POP3 server, private to whoever starts it, for what the {@link Standin} is too kind to show. The
 * script {@code dovecot.sh} beside this class does the work and can be called by hand.
 */
public final class DovecotHost implements AutoCloseable {
    /** The password of every user. */
    public static final String PASSWORD = "demo";

    public static final int SMALL_KILOBYTES = 20;

    private static final int PORTS = 5;
    private static final int USERS = 200;

    /** How the server names its folders. */
    public enum Shape {
        /** Delimiter {@code /}, no prefix. */
        SLASH,
        /** Delimiter {@code .}, everything under {@code INBOX.} */
        DOT
    }

    private final Path directory;
    private final Path script;
    private final Shape shape;
    private final int port;
    private final AtomicInteger handedOut = new AtomicInteger();
    private final List<String> environment = new ArrayList<>();

    private DovecotHost(Shape shape, String... withoutCapabilities) {
        this.shape = shape;
        environment.add("NO_CAPABILITY=" + String.join(" ", withoutCapabilities));
        try {
            directory = Files.createTempDirectory(
                    "dovecot", PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwxr-xr-x")));
            script = directory.resolve("dovecot.sh");
            try (InputStream in = DovecotHost.class.getResourceAsStream("dovecot.sh")) {
                Files.copy(Objects.requireNonNull(in, "dovecot.sh is missing"), script);
            }
            writeUsers();
            port = freePorts();
        } catch (IOException e) {
            throw new UncheckedIOException("The mail server has no place to live", e);
        }
    }

    /**
     * Starts a server whose users have no mail yet.
     *
     * @param withoutCapabilities what it does not say that it can, though it can
     */
    public static DovecotHost start(Shape shape, String... withoutCapabilities) {
        DovecotHost host = new DovecotHost(shape, withoutCapabilities);
        host.start();
        return host;
    }

    /** Starts a server that also lets in with the tokens of an authorisation server. */
    public static DovecotHost startFor(AuthorisationHost authorisation) {
        DovecotHost host = new DovecotHost(Shape.SLASH);
        host.environment.add("OAUTH_URL=" + authorisation.address() + "/introspect");
        host.start();
        return host;
    }

    private static int freePorts() throws IOException {
        for (int tries = 0; tries < 100; tries++) {
            int first = ThreadLocalRandom.current().nextInt(21_000, 32_000);
            int free = 0;
            while (free < PORTS && isFree(first + free)) {
                free++;
            }
            if (free == PORTS) {
                return first;
            }
        }
        throw new IOException("There are no " + PORTS + " free ports in a row.");
    }

    private static boolean isFree(int port) {
        try (ServerSocket socket = new ServerSocket()) {
            socket.bind(new InetSocketAddress(InetAddress.getLoopbackAddress(), port));
            return true;
        } catch (IOException e) {
            return false;
        }
    }

    /** Starts the server again after {@link #kill}; its mail is as it was. */
    public void start() {
        run("start", directory.toString(), String.valueOf(port), shape.name().toLowerCase(Locale.ROOT));
        for (int tries = 0; tries < 200 && !answers(); tries++) {
            pause();
        }
    }

    private boolean answers() {
        try (Socket socket = new Socket()) {
            socket.connect(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 1000);
            socket.setSoTimeout(5000);
            return socket.getInputStream().read() == '*';
        } catch (IOException e) {
            return false;
        }
    }

    private static void pause() {
        try {
            Thread.sleep(20);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Ends the server as a power cut would. */
    public void kill() {
        run("kill", directory.toString());
    }

    private void run(String... arguments) {
        runWith("", arguments);
    }

    private void runWith(String input, String... arguments) {
        List<String> command = new ArrayList<>(List.of("env"));
        command.addAll(environment);
        command.addAll(List.of("bash", script.toString()));
        command.addAll(List.of(arguments));
        try {
            Path said = directory.resolve("script.log");
            Path given = Files.writeString(directory.resolve("given"), input);
            Process process = new ProcessBuilder(command)
                    .redirectInput(given.toFile())
                    .redirectErrorStream(true)
                    .redirectOutput(said.toFile())
                    .start();
            if (!process.waitFor(60, TimeUnit.SECONDS) || process.exitValue() != 0) {
                throw new IllegalStateException("The mail server did not " + arguments[0] + ": "
                        + Files.readString(said, StandardCharsets.UTF_8));
            }
        } catch (IOException e) {
            throw new UncheckedIOException("The mail server's script cannot run", e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("Interrupted", e);
        }
    }

    /** A user nobody has used yet; the name is what it logs in with. */
    public String user() {
        return "tilda" + handedOut.incrementAndGet();
    }

    /** A user nobody has used yet, whose account holds {@value #SMALL_KILOBYTES} kilobytes and no more. */
    public String smallUser() {
        return "small" + handedOut.incrementAndGet();
    }

    /** The server reads them once, when it starts. */
    private void writeUsers() throws IOException {
        StringBuilder users = new StringBuilder();
        for (int i = 1; i <= USERS; i++) {
            users.append("tilda%d:{PLAIN}%s::::::%n".formatted(i, PASSWORD));
            users.append(
                    "small%d:{PLAIN}%s::::::userdb_quota_rule=*:storage=%dK%n".formatted(i, PASSWORD, SMALL_KILOBYTES));
        }
        Files.writeString(directory.resolve("users"), users);
    }

    /** Takes the right to change a folder away from its owner. */
    public void makeReadOnly(String user, String folder) {
        String name = folder.replaceFirst("^INBOX\\.", "");
        Path mail = directory.resolve("mail/%s/mail/mailboxes/%s/dbox-Mails/dovecot-acl".formatted(user, name));
        try {
            Files.writeString(mail, "owner lr\n");
        } catch (IOException e) {
            throw new UncheckedIOException("The folder cannot be made read-only", e);
        }
    }

    /** IMAP; STARTTLS is offered. */
    public int imapPort() {
        return port;
    }

    /** IMAP with TLS from the first byte; the certificate is for another name and nobody vouches for it. */
    public int imapTlsPort() {
        return port + 1;
    }

    public int pop3Port() {
        return port + 2;
    }

    /** Where users keep the scripts that file their mail (RFC 5804); STARTTLS is offered. */
    public int scriptPort() {
        return port + 4;
    }

    /** Delivers a message as a mail server would, by way of the user's script. */
    public void deliver(String user, String message) {
        runWith(message.replace("\n", "\r\n"), "deliver", directory.toString(), user);
    }

    @Override
    public void close() {
        run("stop", directory.toString());
        try {
            new ProcessBuilder("rm", "-rf", directory.toString()).start().waitFor();
        } catch (IOException e) {
            throw new UncheckedIOException("The mail server's directory cannot be removed", e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
