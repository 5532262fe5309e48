package app.schublade.mail;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
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

    /** @param properties the library's, for its protocol {@code imap} */
    static Wire connect(MailHost host, Properties properties) throws IOException, ProtocolException {
        OneSocket socket = new OneSocket();
        properties.put("mail.imap.socketFactory", socket);
        properties.setProperty("mail.imap.socketFactory.fallback", "false");
        try {
            return new Wire(host, properties, socket);
        } catch (IOException | ProtocolException e) {
            socket.close();
            throw e;
        }
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
