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

    private static final int MAX_HEADER = 1024 * 1024;

    private final Trust trust;
    private final POP3Store store;
    private final POP3Folder inbox;
    private final Map<String, Listed> messages;

    /**
     * A message as it is listed.
     *
     * @param size in bytes; 0 if the server tells none
     */
    private record Listed(POP3Message message, int size) {}

    private PopConnection(Trust trust, POP3Store store, POP3Folder inbox, Map<String, Listed> messages) {
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
        Trust trust = new Trust(host.pin(), patience);
        POP3Store store = new POP3Store(Session.getInstance(properties(host, trust, patience)), null);
        try {
            store.connect(host.host(), host.port(), host.login(), credentials.secret());
            POP3Folder inbox = (POP3Folder) store.getFolder("INBOX");
            inbox.open(Folder.READ_WRITE);
            return new PopConnection(trust, store, inbox, messages(inbox));
        } catch (MessagingException e) {
            trust.close();
            throw e instanceof AuthenticationFailedException refused
                    ? MailException.notIn(host, refused)
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
        properties.put("mail.pop3.socketFactory", Drip.factory(patience));
        properties.setProperty("mail.pop3.socketFactory.fallback", "false");
        // Some servers mark for removal what was read (RFC 1939, section 8): only what we name is to be removed.
        properties.setProperty("mail.pop3.rsetbeforequit", "true");
        properties.setProperty("mail.pop3.starttls.enable", String.valueOf(startTls));
        properties.setProperty("mail.pop3.starttls.required", String.valueOf(startTls));
        return properties;
    }

    private static Map<String, Listed> messages(POP3Folder inbox) throws MessagingException {
        Map<String, Listed> messages = new LinkedHashMap<>();
        Message[] all = inbox.getMessages();
        if (all.length > MAX_MESSAGES) {
            throw new MessagingException("The server claims to have " + all.length + " messages");
        }
        FetchProfile ids = new FetchProfile();
        ids.add(UIDFolder.FetchProfileItem.UID);
        inbox.fetch(all, ids);
        // The library's size of a message is that of its body, and costs a command for each.
        int[] sizes = all.length == 0 ? new int[0] : inbox.getSizes();
        for (Message message : all) {
            String id = inbox.getUID(message);
            if (id != null && message instanceof POP3Message one) {
                messages.put(id, new Listed(one, Math.max(0, sizes[one.getMessageNumber() - 1])));
            }
        }
        if (messages.isEmpty() && all.length > 0) {
            throw new MessagingException("it does not say which messages are which (UIDL)");
        }
        return messages;
    }

    /** The unique ids of all messages, in the server's order: oldest first. */
    public List<String> ids() {
        return new ArrayList<>(messages.keySet());
    }

    /**
     * Fetches the header of a message, to recognise it by.
     *
     * @return empty if there is no message of that id, or the server does not show headers alone (TOP is optional)
     */
    public Optional<byte[]> header(String id) throws MailException {
        Listed listed = messages.get(id);
        if (listed == null) {
            return Optional.empty();
        }
        try (InputStream top = listed.message().top(0)) {
            return top == null ? Optional.empty() : Optional.of(top.readNBytes(MAX_HEADER));
        } catch (MessagingException | IOException e) {
            throw lost("show the header of a message", e);
        }
    }

    /**
     * Fetches a message, or its beginning if it is larger than so many bytes.
     *
     * @return empty if there is no message of that id
     */
    public Optional<byte[]> fetch(String id, int maxBytes) throws MailException {
        Listed listed = messages.get(id);
        if (listed == null) {
            return Optional.empty();
        }
        POP3Message message = listed.message();
        try {
            if (listed.size() == 0) {
                throw new MessagingException("it does not tell its size");
            }
            if (listed.size() > maxBytes) {
                try (InputStream beginning = message.top(maxBytes / LONGEST_LINE)) {
                    if (beginning == null) {
                        throw new MessagingException("it does not show the beginning of a large one");
                    }
                    return Optional.of(beginning.readNBytes(maxBytes));
                }
            }
            ByteArrayOutputStream out = new ByteArrayOutputStream(listed.size());
            message.writeTo(out);
            message.invalidate(true);
            return Optional.of(out.toByteArray());
        } catch (MessagingException | IOException e) {
            throw lost("fetch a message", e);
        }
    }

    /** The size of a message in bytes, as the server says; 0 if it does not. */
    public int size(String id) {
        Listed listed = messages.get(id);
        return listed == null ? 0 : listed.size();
    }

    /** Removes messages from the server for good. They are gone once this returns. */
    public void remove(List<String> ids) throws MailException {
        try {
            for (String id : ids) {
                Listed listed = messages.get(id);
                if (listed != null) {
                    listed.message().setFlag(Flags.Flag.DELETED, true);
                }
            }
            inbox.close(true);
        } catch (MessagingException e) {
            throw lost("remove messages", e);
        }
    }

    private static MailException lost(String what, Exception problem) {
        return new MailException(
                MailException.FailureKind.LOST, "The server could not " + what + ": " + problem.getMessage(), problem);
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
