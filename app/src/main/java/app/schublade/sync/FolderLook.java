package app.schublade.sync;

import app.schublade.core.format.MimeReader;
import app.schublade.mail.Fetched;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.Opened;
import app.schublade.mail.RemoteFolder;
import app.schublade.mail.Sighting;
import app.schublade.store.Account;
import app.schublade.store.Mailbox;
import app.schublade.store.MailboxStore;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Looks at an account's folders on its server and brings Schublade into agreement with them.
 *
 * <p>A look at everything goes in two steps, so that a message that another mail program moved keeps its id: first
 * every folder is compared, and what vanished becomes a stray; then what is unknown is fetched, and strays are
 * recognised among it by Message-ID and size. A stray that a whole look later is nowhere still was deleted.
 */
final class FolderLook {
    private static final int BATCH = 100;
    /** Of a larger message only the beginning is fetched. */
    private static final int MAX_BYTES = 20 * 1024 * 1024;

    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;
    private @Nullable Mailbox inbox;
    private long inboxNext = 1;

    FolderLook(Account account, WorkerTools tools, ImapConnection imap) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
    }

    /** What can be done between two batches, so that neither new mail nor orders wait for an import. */
    interface Between {
        void act() throws MailException;
    }

    /** Messages of one folder that are not known yet, newest first. */
    private record Unknown(Mailbox mailbox, List<Long> uids) {}

    /**
     * Compares all folders, fetches what is not known, takes out what is gone.
     *
     * @return false if messages are missing that only the next look can tell moved from deleted
     */
    boolean everything(Between between) throws MailException {
        List<Long> straysBefore = tools.mailboxes().strays(account.id());
        List<Unknown> unknown = new ArrayList<>();
        int known = 0;
        for (Mailbox mailbox : mailboxes()) {
            Mailbox current = current(mailbox, imap.open(mailbox.serverName()));
            Map<Long, MailboxStore.Copy> copies = tools.mailboxes().copies(current.id());
            known += copies.size();
            unknown.add(new Unknown(current, compare(current, copies)));
        }
        fetch(unknown, known, between);
        Set<Long> missing = new HashSet<>(tools.mailboxes().strays(account.id()));
        Set<Long> gone = new HashSet<>(missing);
        gone.retainAll(straysBefore);
        tools.intake().remove(account, gone);
        return gone.size() == missing.size();
    }

    /** The Inbox first: it is what people wait for. */
    private List<Mailbox> mailboxes() throws MailException {
        List<Mailbox> found = new ArrayList<>();
        for (RemoteFolder remote : imap.folders()) {
            if (remote.selectable()) {
                found.add(tools.mailboxes().mailbox(account, remote));
            }
        }
        found.sort(Comparator.comparing((Mailbox mailbox) -> !mailbox.inbox()).thenComparing(Mailbox::serverName));
        return found;
    }

    /** Takes note of how the server opened a folder; the first time, and when it has renumbered its messages. */
    private Mailbox current(Mailbox mailbox, Opened opened) throws MailException {
        Long before = mailbox.uidValidity();
        Mailbox current = mailbox;
        if (before == null || before != opened.uidValidity()) {
            current = tools.mailboxes().opened(mailbox, opened, firstAfter(account.addedAt(), opened));
        }
        if (mailbox.inbox()) {
            inbox = current;
            inboxNext = opened.uidNext();
        }
        return current;
    }

    /** The UID of the first message of the open folder that arrived after a time. UIDs ascend as mail arrives. */
    private long firstAfter(Instant time, Opened opened) throws MailException {
        long first = opened.uidNext();
        List<Long> uids = opened.messages() == 0 ? List.of() : uids(imap.sightings(1));
        for (int end = uids.size(); end > 0; end -= BATCH) {
            List<Fetched> some = imap.fetchIds(uids.subList(Math.max(0, end - BATCH), end));
            List<Long> later = some.stream()
                    .filter(one -> one.received().isAfter(time))
                    .map(Fetched::uid)
                    .toList();
            first = later.stream().reduce(first, Math::min);
            if (later.size() < some.size()) {
                break;
            }
        }
        return first;
    }

    private static List<Long> uids(Collection<Sighting> sightings) {
        return sightings.stream().map(Sighting::uid).sorted().toList();
    }

    private List<Long> compare(Mailbox mailbox, Map<Long, MailboxStore.Copy> copies) throws MailException {
        List<Sighting> sightings = imap.sightings(1).stream()
                .filter(sighting -> !sighting.deleted())
                .toList();
        Set<Long> there = sightings.stream().map(Sighting::uid).collect(Collectors.toSet());
        List<Long> vanished = copies.values().stream()
                .filter(copy -> !there.contains(copy.uid()))
                .map(MailboxStore.Copy::messageId)
                .toList();
        if (!vanished.isEmpty()) {
            tools.mailboxes().vanished(vanished);
        }
        tools.marks().compare(account, mailbox, sightings, copies);
        return there.stream()
                .filter(uid -> !copies.containsKey(uid))
                .sorted(Comparator.reverseOrder())
                .toList();
    }

    private void fetch(List<Unknown> unknown, int known, Between between) throws MailException {
        int missing = unknown.stream().mapToInt(one -> one.uids().size()).sum();
        boolean isImport = missing > BATCH;
        int done = 0;
        for (Unknown one : unknown) {
            for (int i = 0; i < one.uids().size(); i += BATCH) {
                if (isImport) {
                    tools.progress().importing(account, known + done, known + missing);
                    between.act();
                }
                List<Long> batch = one.uids().subList(i, Math.min(one.uids().size(), i + BATCH));
                take(one.mailbox(), batch);
                done += batch.size();
            }
        }
        if (isImport) {
            tools.progress().importing(account, known + done, known + missing);
            tools.progress().state(account, Account.State.CONNECTED, null);
        }
    }

    private void take(Mailbox mailbox, List<Long> uids) throws MailException {
        imap.ensureOpen(mailbox.serverName());
        List<Long> unknown = recogniseStrays(mailbox, uids);
        tools.intake().store(account, mailbox, tools.opener().open(account, mailbox, imap.fetch(unknown, MAX_BYTES)));
    }

    /** Returns those that are no strays. */
    private List<Long> recogniseStrays(Mailbox mailbox, List<Long> uids) throws MailException {
        if (tools.mailboxes().strays(account.id()).isEmpty()) {
            return uids;
        }
        List<Long> others = new ArrayList<>();
        for (Fetched glance : imap.fetchIds(uids)) {
            String id = MimeReader.read(glance.source()).messageId();
            List<Long> strays = tools.intake().straysLike(account.id(), id, glance.size());
            if (strays.isEmpty()) {
                others.add(glance.uid());
            } else {
                tools.mailboxes().locate(strays.get(0), mailbox.id(), glance.uid());
                tools.marks().moved(account, strays.get(0), mailbox);
            }
        }
        return others;
    }

    /**
     * Fetches what has come to the Inbox since the last look.
     *
     * @return false if only a look at everything can tell what happened: the folder was renumbered, or a message that
     *     is known in another folder turned up
     */
    boolean inboxNews() throws MailException {
        Mailbox mailbox = inbox;
        if (mailbox == null) {
            return true;
        }
        Opened opened = imap.open(mailbox.serverName());
        Long validity = mailbox.uidValidity();
        if (validity == null || validity != opened.uidValidity()) {
            return false;
        }
        if (opened.uidNext() <= inboxNext) {
            return true;
        }
        List<Fetched> news = imap.fetch(uids(imap.sightings(inboxNext)), MAX_BYTES);
        List<Fetched> unknown = news.stream()
                .filter(one -> !tools.intake()
                        .liesElsewhere(mailbox, MimeReader.read(one.source()).messageId(), one.size()))
                .toList();
        tools.intake().store(account, mailbox, tools.opener().open(account, mailbox, unknown));
        inboxNext = opened.uidNext();
        return unknown.size() == news.size();
    }

    /** Compares the marks of the Inbox, where other mail programs change most. */
    void inboxMarks() throws MailException {
        Mailbox mailbox = inbox;
        if (mailbox != null) {
            imap.ensureOpen(mailbox.serverName());
            Map<Long, MailboxStore.Copy> copies = tools.mailboxes().copies(mailbox.id());
            tools.marks().compare(account, mailbox, imap.sightings(1), copies);
        }
    }
}
