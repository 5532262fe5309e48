package app.schublade.sync;

import app.schublade.mail.FolderStatus;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.Opened;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.intake.AsideStore;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Opens folders. One at which the connection breaks again and again is left alone for a while, with the orders that need it,
 * so that the others do not wait behind it. Only the Inbox is always tried: without it there is no account.
 */
final class FolderDoors {
    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;
    private final Set<Long> failedBefore;

    FolderDoors(Account account, WorkerTools tools, ImapConnection imap) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
        failedBefore = tools.aside().foldersKnown(account.id());
    }

    /** Whether a folder is left alone at present. */
    boolean isShut(Mailbox mailbox) {
        return failedBefore.contains(mailbox.id())
                && tools.aside().waiting(mailbox).contains(AsideStore.FOLDER);
    }

    /** Opens a folder, unless it is open. */
    Opened open(Mailbox mailbox) throws MailException {
        return open(mailbox, () -> imap.ensureOpen(mailbox.serverName()));
    }

    /** Opens a folder, and is told what has changed since it stood as given, if the server can. */
    Opened openSince(Mailbox mailbox, @Nullable FolderStatus before) throws MailException {
        return open(mailbox, () -> imap.openSince(mailbox.serverName(), before));
    }

    private interface Opening {
        Opened open() throws MailException;
    }

    private Opened open(Mailbox mailbox, Opening opening) throws MailException {
        try {
            Opened opened = opening.open();
            if (failedBefore.contains(mailbox.id())) {
                tools.aside().settled(mailbox, Set.of(AsideStore.FOLDER));
            }
            return opened;
        } catch (MailException e) {
            if (e.kind() == MailException.FailureKind.LOST
                    && !imap.isClosedHere()
                    && !mailbox.inbox()
                    && tools.aside().failed(mailbox, AsideStore.FOLDER, e.getMessage())) {
                tools.progress()
                        .tell(
                                account,
                                "The folder %s is left alone for a while: %s"
                                        .formatted(mailbox.serverName(), e.getMessage()));
            }
            throw e;
        }
    }
}
