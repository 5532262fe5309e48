package app.schublade.mail;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.time.Duration;
import java.util.Properties;
import org.eclipse.angus.mail.iap.Argument;
import org.eclipse.angus.mail.iap.ProtocolException;
import org.eclipse.angus.mail.iap.Response;
import org.eclipse.angus.mail.imap.CopyUID;
import org.eclipse.angus.mail.imap.protocol.BASE64MailboxEncoder;
import org.eclipse.angus.mail.imap.protocol.IMAPProtocol;
import org.eclipse.angus.mail.util.MailLogger;
import org.jspecify.annotations.Nullable;

/** One IMAP connection, command by command; the UID commands that the library keeps to itself. */
final class Wire extends IMAPProtocol {
    private final OneSocket socket;

    private Wire(MailHost host, Properties properties, OneSocket socket) throws IOException, ProtocolException {
        super(
                "imap",
                host.host(),
                host.port(),
                properties,
                host.encryption() == MailHost.Encryption.TLS,
                new MailLogger(Wire.class, "imap", false, new PrintStream(OutputStream.nullOutputStream())));
        this.socket = socket;
    }

    /**
     * Connects, with the encryption that the host wants.
     *
     * @param patience how long to wait for any one answer
     * @throws MailException of the kind AWAY, or REFUSED for a host elsewhere without encryption
     */
    static Wire connect(MailHost host, Duration patience) throws MailException {
        if (host.encryption() == MailHost.Encryption.NONE && !host.isThisMachine()) {
            throw new MailException(
                    MailException.Kind.REFUSED, "A connection without encryption to " + host + " is not made.");
        }
        OneSocket socket = new OneSocket();
        try {
            Wire wire = new Wire(host, properties(socket, patience), socket);
            if (host.encryption() == MailHost.Encryption.STARTTLS) {
                wire.startTLS();
                wire.capability();
            }
            return wire;
        } catch (IOException | ProtocolException e) {
            socket.close();
            throw new MailException(MailException.Kind.AWAY, host + " cannot be reached: " + reason(e), e);
        }
    }

    /** The library's settings for its protocol {@code imap}. */
    private static Properties properties(OneSocket socket, Duration patience) {
        Properties properties = new Properties();
        properties.setProperty("mail.imap.connectiontimeout", "10000");
        properties.setProperty("mail.imap.timeout", String.valueOf(patience.toMillis()));
        properties.setProperty("mail.imap.writetimeout", "30000");
        properties.setProperty("mail.imap.ssl.checkserveridentity", "true");
        properties.put("mail.imap.socketFactory", socket);
        properties.setProperty("mail.imap.socketFactory.fallback", "false");
        return properties;
    }

    /** Why a connection failed, as far as anybody says. */
    private static String reason(Throwable problem) {
        for (Throwable cause = problem; cause != null; cause = cause.getCause()) {
            if (cause instanceof UnknownHostException) {
                return "there is no server of that name. Please check the name.";
            }
            if (cause instanceof SocketTimeoutException) {
                return "it does not answer. Please check name and port, or try again later.";
            }
            if (cause.getMessage() != null) {
                return cause.getMessage();
            }
        }
        return "nobody says why. Please check name, port and encryption.";
    }

    /** Ends the connection at once, even while another thread waits for an answer. */
    void cut() {
        socket.close();
        disconnect();
    }

    /** Sends a command and returns its answers; the last one is known to be OK. */
    Response[] ask(String command, Argument arguments) throws ProtocolException {
        Response[] answers = command(command, arguments);
        notifyResponseHandlers(answers);
        handleResult(answers[answers.length - 1]);
        return answers;
    }

    /** A mailbox name in modified UTF-7 (RFC 3501, section 5.1.3). */
    void writeMailbox(Argument arguments, String name) {
        arguments.writeString(BASE64MailboxEncoder.encode(name));
    }

    /** The COPYUID of an answer (RFC 4315, section 3), or null. */
    @Nullable
    CopyUID copied(Response[] answers) {
        return getCopyUID(answers);
    }
}
