package app.schublade.mail;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import org.eclipse.angus.mail.iap.Argument;
import org.eclipse.angus.mail.iap.ConnectionException;
import org.eclipse.angus.mail.iap.ProtocolException;
import org.eclipse.angus.mail.iap.Response;
import org.eclipse.angus.mail.imap.CopyUID;
import org.eclipse.angus.mail.imap.protocol.IMAPProtocol;
import org.eclipse.angus.mail.imap.protocol.IMAPResponse;
import org.eclipse.angus.mail.imap.protocol.ListInfo;
import org.eclipse.angus.mail.imap.protocol.Status;
import org.eclipse.angus.mail.util.MailLogger;
import org.jspecify.annotations.Nullable;

/** One IMAP connection, command by command; the commands that the library keeps to itself or does not know. */
final class Wire extends IMAPProtocol {
    private static final String STATUS_ITEMS = "(MESSAGES UIDNEXT UIDVALIDITY%s)";

    private final OneSocket socket;
    private final Trust trust;

    private Wire(MailHost host, Properties properties, OneSocket socket, Trust trust)
            throws IOException, ProtocolException {
        super(
                "imap",
                host.host(),
                host.port(),
                properties,
                host.encryption() == MailHost.Encryption.TLS,
                new MailLogger(Wire.class, "imap", false, new PrintStream(OutputStream.nullOutputStream())));
        this.socket = socket;
        this.trust = trust;
    }

    /**
     * Connects, with the encryption that the host wants.
     *
     * @param patience how long to wait for any one answer
     * @throws MailException if no connection came about; NOT_ENCRYPTED for a host elsewhere without encryption
     */
    static Wire connect(MailHost host, Duration patience) throws MailException {
        if (!host.isPermitted()) {
            throw MailException.notEncrypted(host);
        }
        Trust trust = new Trust(host.pin(), patience);
        OneSocket socket = new OneSocket(new Drip(new Socket(), patience));
        try {
            Wire wire = new Wire(host, properties(socket, trust, patience), socket, trust);
            if (host.encryption() == MailHost.Encryption.STARTTLS) {
                if (!wire.hasCapability("STARTTLS")) {
                    wire.cut();
                    throw MailException.offersNoEncryption(host);
                }
                wire.startTLS();
                wire.capability();
            }
            return wire;
        } catch (IOException | ProtocolException e) {
            trust.close();
            socket.close();
            throw MailException.unreachable(host, e);
        }
    }

    /** The library's settings for its protocol {@code imap}. */
    private static Properties properties(OneSocket socket, Trust trust, Duration patience) {
        Properties properties = new Properties();
        properties.setProperty("mail.imap.connectiontimeout", "10000");
        properties.setProperty("mail.imap.timeout", String.valueOf(patience.toMillis()));
        properties.setProperty("mail.imap.writetimeout", "30000");
        properties.setProperty("mail.imap.ssl.checkserveridentity", "false"); // Trust does, and knows of pins.
        properties.put("mail.imap.socketFactory", socket);
        properties.put("mail.imap.ssl.socketFactory", trust);
        properties.setProperty("mail.imap.socketFactory.fallback", "false");
        return properties;
    }

    /** Ends the connection at once, even while another thread waits for an answer. */
    void cut() {
        trust.close();
        socket.close();
        disconnect();
    }

    /** Logs in, and learns what the server offers to this user. */
    void logIn(MailHost host, Credentials credentials) throws ProtocolException {
        if (credentials.kind() == Credentials.CredentialKind.PASSWORD) {
            if (hasCapability("LOGINDISABLED")) {
                authplain(null, host.login(), credentials.secret());
            } else {
                login(host.login(), credentials.secret());
            }
        } else if (hasCapability("AUTH=OAUTHBEARER")) {
            bearer(host, credentials.secret());
        } else {
            authoauth2(host.login(), credentials.secret());
        }
        capability();
    }

    /** RFC 7628, section 3.1: the token in one go; an error comes as a challenge that must be answered too. */
    private void bearer(MailHost host, String token) throws ProtocolException {
        String message = "n,a=%s,\u0001host=%s\u0001port=%d\u0001auth=Bearer %s\u0001\u0001"
                .formatted(host.login().replace("=", "=3D").replace(",", "=2C"), host.host(), host.port(), token);
        Argument arguments = new Argument();
        arguments.writeAtom("OAUTHBEARER");
        try {
            String tag = writeCommand("AUTHENTICATE", arguments);
            boolean sent = false;
            while (true) {
                Response response = readResponse();
                if (response.isContinuation()) {
                    String answer = sent
                            ? "AQ=="
                            : Base64.getEncoder().encodeToString(message.getBytes(StandardCharsets.UTF_8));
                    getOutputStream().write((answer + "\r\n").getBytes(StandardCharsets.US_ASCII));
                    getOutputStream().flush();
                    sent = true;
                } else if (response.isTagged() && tag.equals(response.getTag())) {
                    handleLoginResult(response);
                    return;
                } else if (response.isBYE()) {
                    throw new ConnectionException(this, response);
                }
            }
        } catch (IOException e) {
            throw new ProtocolException("The connection broke while logging in", e);
        }
    }

    /** Sends a command and returns its answers; the last one is known to be OK. */
    Response[] ask(String command, Argument arguments) throws ProtocolException {
        Response[] answers = command(command, arguments);
        notifyResponseHandlers(answers);
        handleResult(answers[answers.length - 1]);
        return answers;
    }

    /** A mailbox name: in modified UTF-7 (RFC 3501, section 5.1.3), or in UTF-8 where that is agreed (RFC 6855). */
    void writeMailbox(Argument arguments, String name) {
        writeMailboxName(arguments, name);
    }

    /** A folder of a list, and where it stands if the server tells. */
    record ListedFolder(ListInfo info, @Nullable Status status) {}

    /** All folders; with their uses (RFC 6154) and status (RFC 5819) in the same answer where the server can. */
    List<ListedFolder> listed() throws ProtocolException {
        boolean statuses = hasCapability("LIST-STATUS") && hasCapability("CONDSTORE");
        Argument arguments = new Argument();
        arguments.writeString("");
        arguments.writeString("*");
        if (hasCapability("LIST-EXTENDED") || hasCapability("LIST-STATUS")) {
            List<String> wanted = new ArrayList<>();
            if (hasCapability("SPECIAL-USE")) {
                wanted.add("SPECIAL-USE");
            }
            if (statuses) {
                wanted.add("STATUS " + STATUS_ITEMS.formatted(" HIGHESTMODSEQ"));
            }
            if (!wanted.isEmpty()) {
                arguments.writeAtom("RETURN (" + String.join(" ", wanted) + ")");
            }
        }
        List<ListInfo> infos = new ArrayList<>();
        List<Status> known = new ArrayList<>();
        for (Response answer : ask("LIST", arguments)) {
            if (answer instanceof IMAPResponse response && response.keyEquals("LIST")) {
                infos.add(new ListInfo(response));
            } else if (answer instanceof IMAPResponse response && response.keyEquals("STATUS")) {
                known.add(new Status(response));
            }
        }
        Map<String, Status> byName = new HashMap<>();
        known.forEach(status -> byName.put(status.mbox, status));
        return infos.stream()
                .map(info -> new ListedFolder(info, byName.get(info.name)))
                .toList();
    }

    /** The COPYUID of an answer (RFC 4315, section 3), or null. */
    @Nullable
    CopyUID copied(Response[] answers) {
        return getCopyUID(answers);
    }
}
