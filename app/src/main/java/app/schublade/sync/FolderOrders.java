package app.schublade.sync;

import app.schublade.core.place.FolderPath;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.store.Account;
import app.schublade.store.Mailbox;
import java.util.List;

/**
 * Renames and deletes folders on the server as the user did here. Both are safe to repeat: a folder that was renamed
 * already is recognised under its new name by the next {@link FolderList}, one that was deleted is missed there.
 */
final class FolderOrders {
    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;

    FolderOrders(Account account, WorkerTools tools, ImapConnection imap) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
    }

    void run() throws MailException {
        List<Mailbox> toRename = tools.mailboxes().toRename(account.id());
        List<Mailbox> toDelete = tools.mailboxes().toDelete(account.id());
        if (!toRename.isEmpty() || !toDelete.isEmpty()) {
            imap.folders(); // The server's delimiter, for the names; and a folder that is open cannot always be
            // renamed.
            imap.open("INBOX");
        }
        for (Mailbox mailbox : toRename) {
            rename(mailbox);
        }
        for (Mailbox mailbox : toDelete) {
            delete(mailbox);
        }
    }

    private void rename(Mailbox listed) throws MailException {
        Mailbox mailbox = tools.mailboxes().byId(listed.id()).orElseThrow();
        FolderPath wanted = tools.mailboxes().wantedPath(mailbox.id());
        if (mailbox.serverName().equals(imap.serverName(wanted))) {
            tools.mailboxes().isCalled(mailbox.id(), mailbox.serverName(), wanted.toString()); // With its parent.
            return;
        }
        try {
            String name = imap.rename(mailbox.serverName(), wanted);
            renamed(mailbox, name, wanted);
            tools.progress().tell(account, "The folder %s is called %s now.".formatted(mailbox.serverName(), name));
        } catch (MailException e) {
            if (e.kind() != MailException.Kind.REFUSED) {
                throw e;
            }
            tools.mailboxes().isCalled(mailbox.id(), mailbox.serverName(), mailbox.path());
            tools.progress().tell(account, e.getMessage() + " It keeps that name there.");
        }
    }

    /** A server renames all below a folder with it (RFC 3501, section 6.3.5). */
    private void renamed(Mailbox mailbox, String name, FolderPath path) {
        String below = mailbox.path() + "/";
        for (Mailbox one : tools.mailboxes().of(account.id())) {
            if (one.path().startsWith(below)) {
                FolderPath moved = FolderPath.parse(path + "/" + one.path().substring(below.length()));
                tools.mailboxes().moved(one.id(), imap.serverName(moved), moved.toString());
            }
        }
        tools.mailboxes().isCalled(mailbox.id(), name, path.toString());
    }

    private void delete(Mailbox mailbox) throws MailException {
        try {
            // Something may have come that is not known here yet; it must not go with the folder.
            if (imap.open(mailbox.serverName()).messages() == 0) {
                imap.open("INBOX");
                imap.delete(mailbox.serverName());
                tools.mailboxes().gone(mailbox);
                tools.progress().tell(account, "Deleted the folder %s.".formatted(mailbox.serverName()));
            }
        } catch (MailException e) {
            if (e.kind() != MailException.Kind.REFUSED) {
                throw e;
            }
            tools.progress().tell(account, e.getMessage());
        }
    }
}
