package app.schublade.standin;

import com.icegreen.greenmail.imap.AuthorizationException;
import com.icegreen.greenmail.mail.MailAddress;
import com.icegreen.greenmail.mail.MovingMessage;
import com.icegreen.greenmail.store.FolderException;
import com.icegreen.greenmail.store.MailFolder;
import com.icegreen.greenmail.user.GreenMailUser;
import com.icegreen.greenmail.user.UserException;
import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.mail.Flags;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.util.Date;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** One IMAP host for each account of the demo world, and one SMTP host that delivers to all of them. */
final class MailHosts implements AutoCloseable {
    private static final List<String> FOLDERS = List.of("Sent", "Drafts", "Archive", "Junk", "Trash");

    private static final String ELSEWHERE = "everybody@elsewhere.example";

    private final GreenMail server;
    private final Map<String, Gate> gates = new LinkedHashMap<>();
    private final Gate smtp;

    /** @param firstPort SMTP listens there, the IMAP hosts on the ports after it; 0 for any free ones */
    MailHosts(int firstPort) throws IOException {
        server =
                new GreenMail(new ServerSetup[] {inside(ServerSetup.PROTOCOL_IMAP), inside(ServerSetup.PROTOCOL_SMTP)});
        server.start();
        for (DemoAccount account : DemoAccount.ALL) {
            server.setUser(account.address(), account.address(), DemoAccount.PASSWORD);
            FOLDERS.forEach(name -> folder(account, name));
        }
        server.setUser(ELSEWHERE, ELSEWHERE, DemoAccount.PASSWORD);
        server.getUserManager().setMessageDeliveryHandler(this::receive);
        smtp = new Gate(firstPort, server.getSmtp().getPort());
        int port = firstPort;
        for (DemoAccount account : DemoAccount.ALL) {
            port = port == 0 ? 0 : port + 1;
            gates.put(account.code(), new Gate(port, server.getImap().getPort()));
        }
    }

    private static ServerSetup inside(String protocol) {
        ServerSetup setup = new ServerSetup(0, "127.0.0.1", protocol);
        setup.setServerStartupTimeout(30_000);
        return setup;
    }

    int smtpPort() {
        return smtp.port();
    }

    Gate gate(String code) {
        Gate gate = gates.get(code);
        if (gate == null) {
            throw new IllegalArgumentException("No account has the code " + code + "; there are " + gates.keySet());
        }
        return gate;
    }

    /** A folder of an account by its path with slashes; made if it is not there. */
    MailFolder folder(DemoAccount account, String path) {
        try {
            GreenMailUser user = user(account);
            String name = path.replace('/', '.');
            MailFolder folder = server.getManagers().getImapHostManager().getFolder(user, name);
            return folder != null
                    ? folder
                    : server.getManagers().getImapHostManager().createMailbox(user, name);
        } catch (AuthorizationException | FolderException e) {
            throw new IllegalStateException("Cannot make the folder " + path + " of " + account.code(), e);
        }
    }

    /** All folders of an account by their path with slashes. */
    Map<String, MailFolder> folders(DemoAccount account) {
        try {
            Map<String, MailFolder> all = new LinkedHashMap<>();
            String inbox = server.getManagers()
                    .getImapHostManager()
                    .getInbox(user(account))
                    .getFullName();
            int root = inbox.length() - "INBOX".length();
            for (MailFolder folder : server.getManagers().getImapHostManager().listMailboxes(user(account), "*")) {
                all.put(folder.getFullName().substring(root).replace('.', '/'), folder);
            }
            return all;
        } catch (FolderException e) {
            throw new IllegalStateException("Cannot list the folders of " + account.code(), e);
        }
    }

    void put(DemoAccount account, String path, MimeMessage message, Flags flags, Date received) {
        folder(account, path).appendMessage(message, flags, received);
    }

    private GreenMailUser user(DemoAccount account) {
        return server.getUserManager().getUserByEmail(account.address());
    }

    /** Notes on the message which address it was delivered to, as a host does that knows aliases. */
    private GreenMailUser receive(MovingMessage moving, MailAddress recipient)
            throws MessagingException, UserException {
        DemoAccount account = DemoAccount.receiving(recipient.getEmail()).orElse(null);
        if (recipient.getEmail().startsWith("nobody@")) {
            throw new UserException("Nobody here is called " + recipient.getEmail());
        }
        MimeMessage copy = new MimeMessage(moving.getMessage());
        copy.setHeader("Delivered-To", recipient.getEmail());
        moving.setMimeMessage(copy);
        return account == null ? elsewhere() : user(account);
    }

    /** Everybody who has no account here: mail to them leaves the demo world, and can be looked at. */
    private GreenMailUser elsewhere() {
        return server.getUserManager().getUserByEmail(ELSEWHERE);
    }

    /** What was sent to people who have no account here, the oldest first. */
    List<MimeMessage> sentElsewhere() {
        try {
            return server.getManagers().getImapHostManager().getInbox(elsewhere()).getNonDeletedMessages().stream()
                    .map(stored -> stored.getMimeMessage())
                    .toList();
        } catch (FolderException e) {
            throw new IllegalStateException("The outside world has no inbox", e);
        }
    }

    @Override
    public void close() {
        gates.values().forEach(Gate::close);
        smtp.close();
        server.stop();
    }
}
