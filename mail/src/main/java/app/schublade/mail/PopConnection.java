package app.schublade.mail;

import jakarta.mail.AuthenticationFailedException;
import jakarta.mail.FetchProfile;
import jakarta.mail.Flags;
import jakarta.mail.Folder;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.UIDFolder;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import org.eclipse.angus.mail.pop3.POP3Folder;
import org.eclipse.angus.mail.pop3.POP3Message;
import org.eclipse.angus.mail.pop3.POP3Store;

/**
 * A connection to one account's POP3 server (RFC 1939), for one thread at a time. Messages are named by their unique id
 * (UIDL); the server keeps no marks and no folders.
 */
public final class PopConnection implements AutoCloseable {
    /** More messages than this in one mailbox are not believed. */
    private static final int MAX_MESSAGES = 500_000;
    /** RFC 5322, section 2.1.1: what a line should not exceed, with its end. */
    private static final int LONGEST_LINE = 80;

    private final Trust trust;
    private final POP3Store store;
    private final POP3Folder inbox;
    private final Map<String, POP3Message> messages;

    private PopConnection(Trust trust, POP3Store store, POP3Folder inbox, Map<String, POP3Message> messages) {
        this.trust = trust;
        this.store = store;
        this.inbox = inbox;
        this.messages = messages;
    }

    /**
     * Connects, logs in and learns what is there.
     *
     * @param patience how long to wait for any one answer
     * @throws MailException if there is no server, or it does not let Schublade in
     */
    public static PopConnection open(MailHost host, Credentials credentials, Duration patience) throws MailException {
        if (!host.isPermitted()) {
            throw MailException.notEncrypted(host);
        }
        Trust trust = new Trust(host.pin());
        POP3Store store = new POP3Store(Session.getInstance(properties(host, trust, patience)), null);
        try {
            store.connect(host.host(), host.port(), host.login(), credentials.secret());
            POP3Folder inbox = (POP3Folder) store.getFolder("INBOX");
            inbox.open(Folder.READ_WRITE);
            return new PopConnection(trust, store, inbox, messages(inbox));
        } catch (MessagingException e) {
            trust.close();
            throw e instanceof AuthenticationFailedException
                    ? new MailException(
                            MailException.Kind.LOGIN_REFUSED,
                            host + " refused the password of " + host.login() + ".",
                            e)
                    : MailException.unreachable(host, e);
        }
    }

    private static Properties properties(MailHost host, Trust trust, Duration patience) {
        boolean startTls = host.encryption() == MailHost.Encryption.STARTTLS;
        Properties properties = new Properties();
        properties.setProperty("mail.pop3.connectiontimeout", "10000");
        properties.setProperty("mail.pop3.timeout", String.valueOf(patience.toMillis()));
        properties.setProperty("mail.pop3.ssl.enable", String.valueOf(host.encryption() == MailHost.Encryption.TLS));
        properties.setProperty("mail.pop3.ssl.checkserveridentity", "false"); // Trust does, and knows of pins.
        properties.put("mail.pop3.ssl.socketFactory", trust);
        properties.setProperty("mail.pop3.starttls.enable", String.valueOf(startTls));
        properties.setProperty("mail.pop3.starttls.required", String.valueOf(startTls));
        return properties;
    }

    private static Map<String, POP3Message> messages(POP3Folder inbox) throws MessagingException {
        Map<String, POP3Message> messages = new LinkedHashMap<>();
        Message[] all = inbox.getMessages();
        if (all.length > MAX_MESSAGES) {
            throw new MessagingException("The server claims to have " + all.length + " messages");
        }
        FetchProfile ids = new FetchProfile();
        ids.add(UIDFolder.FetchProfileItem.UID);
        inbox.fetch(all, ids);
        for (Message message : all) {
            String id = inbox.getUID(message);
            if (id != null && message instanceof POP3Message one) {
                messages.put(id, one);
            }
        }
        return messages;
    }

    /** The unique ids of all messages, in the server's order: oldest first. */
    public List<String> ids() {
        return new ArrayList<>(messages.keySet());
    }

    /**
     * Fetches a message, or its beginning if it is larger than so many bytes.
     *
     * @return empty if there is no message of that id
     */
    public Optional<byte[]> fetch(String id, int maxBytes) throws MailException {
        POP3Message message = messages.get(id);
        if (message == null) {
            return Optional.empty();
        }
        try {
            if (message.getSize() > maxBytes) {
                try (InputStream beginning = message.top(maxBytes / LONGEST_LINE)) {
                    return Optional.of(beginning.readNBytes(maxBytes));
                }
            }
            ByteArrayOutputStream out = new ByteArrayOutputStream(Math.max(32, message.getSize()));
            message.writeTo(out);
            message.invalidate(true);
            return Optional.of(out.toByteArray());
        } catch (MessagingException | IOException e) {
            throw lost("fetch a message", e);
        }
    }

    /** The size of a message in bytes, as the server says. */
    public int size(String id) throws MailException {
        POP3Message message = messages.get(id);
        try {
            return message == null ? 0 : Math.max(0, message.getSize());
        } catch (MessagingException e) {
            throw lost("tell the size of a message", e);
        }
    }

    /** Removes messages from the server for good. They are gone once this returns. */
    public void remove(List<String> ids) throws MailException {
        try {
            for (String id : ids) {
                POP3Message message = messages.get(id);
                if (message != null) {
                    message.setFlag(Flags.Flag.DELETED, true);
                }
            }
            inbox.close(true);
        } catch (MessagingException e) {
            throw lost("remove messages", e);
        }
    }

    private static MailException lost(String what, Exception problem) {
        return new MailException(
                MailException.Kind.LOST, "The server could not " + what + ": " + problem.getMessage(), problem);
    }

    @Override
    public void close() {
        trust.close();
        try {
            store.close();
        } catch (MessagingException e) {
            // It is of no use any more.
        }
    }
}
