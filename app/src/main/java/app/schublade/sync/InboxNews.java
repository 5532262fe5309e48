package app.schublade.sync;

import app.schublade.mail.FolderStatus;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.Opened;
import app.schublade.mail.Sighting;
import app.schublade.store.account.Mailbox;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Looks at the Inbox alone, often: what has come, and, where the server tells it cheaply, what was changed. */
final class InboxNews {
    private final WorkerTools tools;
    private final ImapConnection imap;
    private final FolderComparison comparison;
    private final Intake intake;
    private @Nullable Mailbox inbox;
    private @Nullable FolderStatus seen;

    InboxNews(WorkerTools tools, ImapConnection imap, FolderComparison comparison, Intake intake) {
        this.tools = tools;
        this.imap = imap;
        this.comparison = comparison;
        this.intake = intake;
    }

    /** A look at everything has seen the Inbox so. */
    void saw(Mailbox mailbox, FolderStatus status) {
        if (mailbox.inbox()) {
            inbox = mailbox;
            seen = status;
        }
    }

    /**
     * Fetches what has come to the Inbox since the last look.
     *
     * @return false if only a look at everything can tell what happened: the folder was renumbered, messages left it, or
     *     a message that is known in another folder turned up
     */
    boolean look() throws MailException {
        Mailbox mailbox = inbox;
        FolderStatus before = seen;
        if (mailbox == null || before == null) {
            return true;
        }
        Opened opened = imap.openSince(mailbox.serverName(), before);
        if (opened.uidValidity() != before.uidValidity()) {
            return false;
        }
        return opened.changes() == null ? arrived(mailbox, before, opened) : changed(mailbox, opened);
    }

    private boolean arrived(Mailbox mailbox, FolderStatus before, Opened opened) throws MailException {
        if (opened.uidNext() <= before.uidNext()) {
            return true;
        }
        List<Long> uids = imap.sightings(before.uidNext()).stream()
                .filter(sighting -> !sighting.deleted())
                .map(Sighting::uid)
                .toList();
        boolean clear = intake.takeNews(mailbox, uids);
        seen = opened.status();
        return clear;
    }

    private boolean changed(Mailbox mailbox, Opened opened) throws MailException {
        FolderComparison.FolderDifference found = comparison.compare(mailbox, opened);
        boolean clear = intake.takeNews(mailbox, newMail(mailbox, found));
        if (found.agreed()) {
            seen = opened.status();
        }
        return clear && !found.vanished();
    }

    /** An import may be far from having fetched the older mail; it needs no second hand. */
    private static List<Long> newMail(Mailbox mailbox, FolderComparison.FolderDifference found) {
        return FolderLook.boxed(found.unknown()).stream()
                .filter(uid -> uid >= mailbox.newFromUid())
                .toList();
    }

    /** Compares all marks of the Inbox, for servers that do not tell what was changed. */
    void marks() throws MailException {
        Mailbox mailbox = inbox;
        FolderStatus before = seen;
        if (mailbox != null && before != null && before.modSeq() == 0) {
            imap.ensureOpen(mailbox.serverName());
            comparison.marks(mailbox, tools.copies().uids(mailbox.id()));
        }
    }
}
