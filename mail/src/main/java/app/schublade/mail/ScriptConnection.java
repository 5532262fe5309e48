package app.schublade.mail;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A connection to where a server keeps the scripts that file mail as it is delivered (ManageSieve, RFC 5804). */
public final class ScriptConnection implements AutoCloseable {
    /** Where such servers listen (RFC 5804, section 1.8). */
    public static final int USUAL_PORT = 4190;

    private static final int CONNECT_MILLIS = 10_000;
    /** An answer that is longer than this is not believed, in bytes. */
    private static final int MAX_ANSWER = 1_000_000;

    private static final int MAX_LINES = 5_000;
    private static final Pattern LITERAL = Pattern.compile("\\{(\\d{1,9})\\+?\\}$");
    private static final String OK = "OK";

    private final MailHost host;
    private final Trust trust;
    private Socket socket;
    private InputStream in;
    private OutputStream out;
    private int read;

    private ScriptConnection(MailHost host, Trust trust, Socket socket) throws IOException {
        this.host = host;
        this.trust = trust;
        this.socket = socket;
        in = new BufferedInputStream(socket.getInputStream());
        out = socket.getOutputStream();
    }

    /** What a server says of itself: the names of its capabilities in upper case, and their values. */
    private record Capabilities(Map<String, String> values) {
        static Capabilities of(Answer answer) {
            Map<String, String> values = new LinkedHashMap<>();
            for (String line : answer.lines()) {
                List<String> strings = strings(line);
                if (!strings.isEmpty()) {
                    values.put(strings.get(0).toUpperCase(Locale.ROOT), strings.size() < 2 ? "" : strings.get(1));
                }
            }
            return new Capabilities(values);
        }

        Set<String> words(String name) {
            Set<String> words =
                    new TreeSet<>(List.of(values.getOrDefault(name, "").split("\\s+")));
            words.remove("");
            return words;
        }
    }

    /**
     * What came back.
     *
     * @param lines what stands before the last one
     * @param last begins with OK, NO or BYE
     */
    private record Answer(List<String> lines, String last) {
        boolean isOk() {
            return last.toUpperCase(Locale.ROOT).startsWith(OK);
        }

        /** What the server has to say about it, in its words. */
        String said() {
            List<String> strings = strings(last);
            return strings.isEmpty() ? last : strings.get(strings.size() - 1);
        }
    }

    private Set<String> extensions = Set.of();

    /**
     * Connects and logs in.
     *
     * @param patience how long to wait for any one answer
     * @throws MailException if there is no such server, or it does not let Schublade in
     */
    public static ScriptConnection open(MailHost host, Credentials credentials, Duration patience)
            throws MailException {
        if (!host.isPermitted()) {
            throw MailException.notEncrypted(host);
        }
        Trust trust = new Trust(host.pin(), patience);
        try {
            ScriptConnection connection = new ScriptConnection(host, trust, connect(host, trust, patience));
            try {
                connection.greet(credentials);
                return connection;
            } catch (IOException | MailException e) {
                connection.close();
                throw e;
            }
        } catch (IOException e) {
            trust.close();
            throw MailException.unreachable(host, e);
        }
    }

    private static Socket connect(MailHost host, Trust trust, Duration patience) throws IOException {
        Socket socket = new Drip(new Socket(), patience);
        socket.connect(new InetSocketAddress(host.host(), host.port()), CONNECT_MILLIS);
        socket.setSoTimeout((int) patience.toMillis());
        return host.encryption() == MailHost.Encryption.TLS
                ? trust.createSocket(socket, host.host(), host.port(), true)
                : socket;
    }

    private void greet(Credentials credentials) throws IOException, MailException {
        Capabilities capabilities = Capabilities.of(answer());
        if (host.encryption() == MailHost.Encryption.STARTTLS) {
            if (!capabilities.values().containsKey("STARTTLS")
                    || !ask("STARTTLS").isOk()) {
                throw MailException.notEncrypted(host);
            }
            socket = trust.createSocket(socket, host.host(), host.port(), true);
            in = new BufferedInputStream(socket.getInputStream());
            out = socket.getOutputStream();
            capabilities = Capabilities.of(answer());
        }
        Answer let = ask(
                credentials.kind() == Credentials.CredentialKind.TOKEN
                        ? authenticate("XOAUTH2", "user=%s\u0001auth=Bearer %s\u0001\u0001", credentials)
                        : authenticate("PLAIN", "\u0000%s\u0000%s", credentials)); // RFC 4616
        if (!let.isOk()) {
            throw new MailException(
                    MailException.FailureKind.LOGIN_REFUSED,
                    "%s does not let %s keep scripts: %s".formatted(host, host.login(), let.said()),
                    new IOException(let.last()));
        }
        extensions = capabilities.words("SIEVE");
    }

    private String authenticate(String mechanism, String format, Credentials credentials) {
        byte[] proof = format.formatted(host.login(), credentials.secret()).getBytes(StandardCharsets.UTF_8);
        return "AUTHENTICATE \"%s\" \"%s\""
                .formatted(mechanism, Base64.getEncoder().encodeToString(proof));
    }

    /** The extensions of Sieve that its scripts may require. */
    public Set<String> extensions() {
        return extensions;
    }

    /** Its scripts, and whether each is the active one. */
    public Map<String, Boolean> scripts() throws MailException {
        Map<String, Boolean> scripts = new LinkedHashMap<>();
        for (String line : command("LISTSCRIPTS").lines()) {
            List<String> strings = strings(line);
            if (!strings.isEmpty()) {
                scripts.put(strings.get(0), line.toUpperCase(Locale.ROOT).endsWith(" ACTIVE"));
            }
        }
        return scripts;
    }

    /** Puts a script there, in the place of one of this name. */
    public void put(String name, String script) throws MailException {
        byte[] bytes = script.replace("\r\n", "\n").replace("\n", "\r\n").getBytes(StandardCharsets.UTF_8);
        command("PUTSCRIPT %s {%d+}\r\n%s"
                .formatted(quoted(name), bytes.length, new String(bytes, StandardCharsets.UTF_8)));
    }

    /** A script as it stands there, with \n at the ends of its lines. */
    public String get(String name) throws MailException {
        List<String> strings =
                strings(String.join("\n", command("GETSCRIPT " + quoted(name)).lines()));
        return strings.isEmpty() ? "" : strings.get(0).replace("\r\n", "\n");
    }

    /** Makes one of its scripts the active one, or none if the name is empty. */
    public void activate(String name) throws MailException {
        command("SETACTIVE " + quoted(name));
    }

    /** Takes a script away that is not active. */
    public void delete(String name) throws MailException {
        command("DELETESCRIPT " + quoted(name));
    }

    private Answer command(String command) throws MailException {
        Answer answer;
        try {
            answer = ask(command);
        } catch (IOException e) {
            throw MailException.unreachable(host, e);
        }
        if (!answer.isOk()) {
            throw new MailException(
                    MailException.FailureKind.REFUSED,
                    "%s says: %s".formatted(host, answer.said()),
                    new IOException(answer.last()));
        }
        return answer;
    }

    private Answer ask(String command) throws IOException {
        out.write((command + "\r\n").getBytes(StandardCharsets.UTF_8));
        out.flush();
        return answer();
    }

    private Answer answer() throws IOException {
        read = 0;
        List<String> lines = new ArrayList<>();
        for (String line = line(); lines.size() < MAX_LINES; line = line()) {
            if (isLast(line)) {
                return new Answer(lines, line);
            }
            lines.add(line);
        }
        throw new IOException("The server does not come to an end.");
    }

    private static boolean isLast(String line) {
        for (String word : List.of(OK, "NO", "BYE")) {
            boolean begins = line.regionMatches(true, 0, word, 0, word.length());
            if (begins && (line.length() == word.length() || !Character.isLetterOrDigit(line.charAt(word.length())))) {
                return true;
            }
        }
        return false;
    }

    /** A line; what it holds as a literal (RFC 5804, section 4) becomes a quoted string. */
    private String line() throws IOException {
        StringBuilder line = new StringBuilder();
        while (true) {
            String piece = untilEnd();
            Matcher literal = LITERAL.matcher(piece);
            if (!literal.find()) {
                return line.append(piece).toString();
            }
            int length = Integer.parseInt(literal.group(1));
            count(length);
            String text = new String(in.readNBytes(length), StandardCharsets.UTF_8);
            line.append(piece, 0, literal.start()).append(quoted(text));
        }
    }

    private String untilEnd() throws IOException {
        StringBuilder line = new StringBuilder();
        for (int one = in.read(); one != '\n'; one = in.read()) {
            if (one < 0) {
                throw new IOException("The server has hung up.");
            }
            count(1);
            line.append((char) one);
        }
        String bytes = line.toString();
        return new String(bytes.getBytes(StandardCharsets.ISO_8859_1), StandardCharsets.UTF_8).stripTrailing();
    }

    private void count(int more) throws IOException {
        read += more;
        if (read > MAX_ANSWER) {
            throw new IOException("The server’s answer is too long.");
        }
    }

    private static String quoted(String text) {
        return '"' + text.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
    }

    /** The quoted strings of a line (RFC 5804, section 4), however long they are. */
    static List<String> strings(String line) {
        List<String> strings = new ArrayList<>();
        StringBuilder string = null;
        for (int i = 0; i < line.length(); i++) {
            char sign = line.charAt(i);
            if (string == null) {
                string = sign == '"' ? new StringBuilder() : null;
            } else if (sign == '"') {
                strings.add(string.toString());
                string = null;
            } else {
                boolean escaped = sign == '\\' && i + 1 < line.length();
                string.append(escaped ? line.charAt(++i) : sign);
            }
        }
        return strings;
    }

    @Override
    public void close() {
        trust.close();
        try {
            socket.close();
        } catch (IOException e) {
            // Closing is all that was wanted.
        }
    }
}
