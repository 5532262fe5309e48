package app.schublade.sync;

import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.Opened;
import app.schublade.mail.Sighting;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.filing.ServerLocationStore;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/**
 * Compares a folder that was opened on the server with what is known of it here. Where the server tells what has changed
 * since Schublade last agreed with it (RFC 7162) only that is looked at; otherwise all UIDs, eight bytes each, and the
 * marks of what is known, some thousand messages at a time.
 */
final class FolderComparison {
    private static final int WINDOW = 2000;

    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;

    FolderComparison(Account account, WorkerTools tools, ImapConnection imap) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
    }

    /**
     * What a comparison found. Messages that vanished are strays by then.
     *
     * @param unknown UIDs of messages that are not known here, ascending
     * @param agreed whether everything else is the same on both sides now
     * @param vanished whether messages that were known are there no longer
     */
    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    record FolderDifference(long[] unknown, boolean agreed, boolean vanished) {}

    FolderDifference compare(Mailbox mailbox, Opened opened) throws MailException {
        Opened.MailboxChanges changes = opened.changes();
        if (changes == null) {
            return all(mailbox);
        }
        FolderDifference found = changed(mailbox, changes);
        boolean sumsUp = changes.gone() != null
                || tools.copies().count(mailbox.id()) + found.unknown().length == opened.messages();
        return sumsUp ? found : all(mailbox);
    }

    private FolderDifference all(Mailbox mailbox) throws MailException {
        long[] there = imap.uids();
        long[] known = tools.copies().uids(mailbox.id());
        long[] vanished = without(known, there);
        tools.copies().vanished(mailbox.id(), vanished);
        long[] still = vanished.length == 0 ? known : without(known, vanished);
        return new FolderDifference(without(there, known), marks(mailbox, still), vanished.length > 0);
    }

    /** Compares how messages of the open folder are marked; returns whether both sides agree now. */
    boolean marks(Mailbox mailbox, long[] uids) throws MailException {
        boolean agreed = true;
        for (int i = 0; i < uids.length; i += WINDOW) {
            long first = uids[i];
            long last = uids[Math.min(uids.length, i + WINDOW) - 1];
            agreed &= tools.marks()
                    .compare(
                            account,
                            mailbox,
                            imap.sightings(first, last),
                            tools.copies().copies(mailbox.id(), first, last));
        }
        return agreed;
    }

    private FolderDifference changed(Mailbox mailbox, Opened.MailboxChanges changes) {
        boolean vanished = false;
        for (Opened.Range range : changes.gone() == null ? List.<Opened.Range>of() : changes.gone()) {
            vanished |= tools.copies().vanished(mailbox.id(), range.first(), range.last()) > 0;
        }
        Map<Long, ServerLocationStore.Copy> copies = tools.copies()
                .copies(
                        mailbox.id(),
                        changes.sightings().stream().map(Sighting::uid).toList());
        // A message that is marked as deleted is as good as gone (RFC 3501, section 2.3.2).
        long[] deleted = changes.sightings().stream()
                .filter(one -> one.deleted() && copies.containsKey(one.uid()))
                .mapToLong(Sighting::uid)
                .toArray();
        tools.copies().vanished(mailbox.id(), deleted);
        List<Sighting> there =
                changes.sightings().stream().filter(one -> !one.deleted()).toList();
        boolean agreed = tools.marks().compare(account, mailbox, there, copies);
        long[] unknown = there.stream()
                .mapToLong(Sighting::uid)
                .filter(uid -> !copies.containsKey(uid))
                .sorted()
                .toArray();
        return new FolderDifference(unknown, agreed, vanished || deleted.length > 0);
    }

    /** Those of some numbers that are not among others; both ascending. */
    static long[] without(long[] some, long[] others) {
        return Arrays.stream(some)
                .filter(one -> Arrays.binarySearch(others, one) < 0)
                .toArray();
    }

    /** Those of some numbers that are among others too; both ascending. */
    static long[] among(long[] some, long[] others) {
        return Arrays.stream(some)
                .filter(one -> Arrays.binarySearch(others, one) >= 0)
                .toArray();
    }
}
