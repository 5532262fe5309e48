package app.schublade.sync;

import app.schublade.core.format.Identity;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.Credentials;
import app.schublade.mail.Fetched;
import app.schublade.mail.FolderStatus;
import app.schublade.mail.MailException;
import app.schublade.mail.Opened;
import app.schublade.mail.PopConnection;
import app.schublade.mail.RemoteFolder;
import app.schublade.mail.Sighting;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.intake.PopStore;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Fetches what has come to a POP3 account. The server knows neither folders nor marks, so all filing is ours and there is
 * nothing to tell it.
 *
 * <p>Mail is removed there, if the user wants that, only when all of it is stored here for certain: what was not wanted, is
 * too large to be kept whole, or is listed under an id whose message is another than the one that is known, stays.
 */
final class PopLook {
    private static final int BATCH = 20;
    /** A batch ends when it holds so much. */
    private static final int BATCH_BYTES = 8 * 1024 * 1024;

    private final Account account;
    private final WorkerTools tools;
    private final int maxBytes;
    private final Runnable progressed;
    private final Set<String> fetchedNow = new HashSet<>();
    /** Ids that are known and no longer listed. */
    private List<String> vanished = List.of();

    /**
     * @param maxBytes of a larger message only the beginning is kept here
     * @param progressed called when something has been stored
     */
    PopLook(Account account, WorkerTools tools, int maxBytes, Runnable progressed) {
        this.account = account;
        this.tools = tools;
        this.maxBytes = maxBytes;
        this.progressed = progressed;
    }

    void look(Credentials credentials, Duration patience) throws MailException {
        tools.orders().dropAll(account.id());
        fetchedNow.clear();
        try (PopConnection pop = PopConnection.open(account.host(), credentials, patience)) {
            List<String> listed = pop.ids();
            Mailbox inbox = inbox(listed.size());
            Map<String, PopStore.KnownMessage> known = tools.pop().known(account.id());
            tools.pop().forget(account.id(), gone(known, listed));
            fetch(pop, inbox, unknown(pop, known, listed), known.size());
            if (!account.settings().keepOnServer()) {
                remove(pop, listed);
            }
        }
    }

    /** Rules act on what comes after the first look. */
    private Mailbox inbox(int there) {
        FolderPath path = FolderPath.parse("INBOX");
        Mailbox inbox = tools.mailboxes()
                .mailbox(account, new RemoteFolder("INBOX", path, Optional.of(SpecialUse.INBOX), true));
        return inbox.uidValidity() != null
                ? inbox
                : tools.mailboxes()
                        .openedFirst(inbox, new Opened("INBOX", new FolderStatus(1, there + 1L, there, 0), false));
    }

    /** Ids that the server was told to remove and no longer lists; it may give them to others (RFC 1939, section 7). */
    private static List<String> gone(Map<String, PopStore.KnownMessage> known, List<String> listed) {
        Set<String> there = Set.copyOf(listed);
        return known.entrySet().stream()
                .filter(one -> one.getValue().removed() && !there.contains(one.getKey()))
                .map(Map.Entry::getKey)
                .toList();
    }

    /** What is to be fetched: not what is known, under this id or another that the server no longer lists. */
    private List<String> unknown(PopConnection pop, Map<String, PopStore.KnownMessage> known, List<String> listed)
            throws MailException {
        Set<String> there = Set.copyOf(listed);
        vanished = known.entrySet().stream()
                .filter(one -> one.getValue().wanted() && !one.getValue().removed() && !there.contains(one.getKey()))
                .map(Map.Entry::getKey)
                .toList();
        List<String> unknown = new ArrayList<>();
        for (String id : listed) {
            PopStore.KnownMessage one = known.get(id);
            boolean isKnown = one == null
                    ? !vanished.isEmpty() && recognise(pop, id, vanished)
                    : !one.removed() || isSame(pop, id, one);
            if (!isKnown) {
                unknown.add(id);
            }
        }
        return unknown;
    }

    private boolean recognise(PopConnection pop, String id, List<String> vanished) throws MailException {
        Optional<byte[]> header = pop.header(id);
        return header.isPresent()
                && tools.pop().recognise(account.id(), id, Identity.of(header.get()), pop.size(id), vanished);
    }

    /** Whether an id still stands for the message that it is known for. */
    private static boolean isSame(PopConnection pop, String id, PopStore.KnownMessage known) throws MailException {
        Optional<byte[]> header = pop.header(id);
        return header.isPresent() && known.is(Identity.of(header.get()), pop.size(id));
    }

    private void fetch(PopConnection pop, Mailbox inbox, List<String> unknown, int known) throws MailException {
        Set<String> aside = tools.aside().waiting(inbox);
        List<String> wanted = unknown.stream().filter(id -> !aside.contains(id)).toList();
        long number = tools.pop().nextNumber(inbox);
        for (int i = 0; i < wanted.size(); ) {
            Batch batch = new Batch(inbox, number);
            try {
                for (; i < wanted.size() && !batch.isFull(); i++) {
                    batch.take(pop, wanted.get(i));
                }
            } finally {
                batch.store(); // What has arrived counts, whatever became of the rest.
            }
            number = batch.next;
            if (wanted.size() > BATCH) {
                tools.progress().importing(account, known + i, known + wanted.size());
            }
        }
    }

    /** Some messages that are stored together. */
    private final class Batch {
        private final Mailbox inbox;
        private final List<FetchedMessage> letters = new ArrayList<>();
        private final List<PopStore.ListedMessage> listed = new ArrayList<>();
        private long next;
        private int bytes;

        Batch(Mailbox inbox, long next) {
            this.inbox = inbox;
            this.next = next;
        }

        boolean isFull() {
            return listed.size() >= BATCH || bytes >= BATCH_BYTES;
        }

        void take(PopConnection pop, String id) throws MailException {
            Optional<byte[]> source = fetch(pop, id);
            if (source.isPresent()) {
                int size = pop.size(id);
                FetchedMessage letter = letter(inbox, next, size, source.get());
                if (isKnown(id, letter, size)) {
                    return;
                }
                boolean wanted = isWanted(letter);
                if (wanted) {
                    letters.add(letter);
                    bytes += source.get().length;
                }
                listed.add(new PopStore.ListedMessage(id, next++, size, wanted));
            }
        }

        /** Where a server does not show headers alone, only the message itself tells. */
        private boolean isKnown(String id, FetchedMessage letter, int size) {
            return !vanished.isEmpty() && tools.pop().recognise(account.id(), id, letter.identity(), size, vanished);
        }

        private Optional<byte[]> fetch(PopConnection pop, String id) throws MailException {
            try {
                return pop.fetch(id, maxBytes);
            } catch (MailException e) {
                if (tools.aside().failed(inbox, id, e.getMessage())) {
                    tools.progress()
                            .tell(account, "The server does not give one message; it is put aside. " + e.getMessage());
                }
                throw e;
            }
        }

        void store() {
            if (listed.isEmpty()) {
                return;
            }
            tools.storing()
                    .store(
                            account,
                            inbox,
                            letters,
                            one -> false,
                            opened -> tools.pop().store(account, inbox, opened, listed, next));
            List<String> ids = listed.stream().map(PopStore.ListedMessage::id).toList();
            tools.aside().settled(inbox, ids);
            fetchedNow.addAll(ids);
            progressed.run();
        }
    }

    private static FetchedMessage letter(Mailbox inbox, long number, int size, byte[] source) {
        boolean wasThere = number < inbox.newFromUid();
        Sighting sighting = new Sighting(number, wasThere, false, false, false, Set.of());
        Instant now = Instant.now();
        FetchedMessage letter = FetchedMessage.read(new Fetched(sighting, now, Math.max(size, source.length), source));
        Instant sent = letter.mail().sent();
        return sent == null || sent.isAfter(now) ? letter : letter.received(sent);
    }

    private boolean isWanted(FetchedMessage one) {
        LocalDate since = account.settings().importSince();
        return since == null
                || !one.fetched()
                        .received()
                        .isBefore(since.atStartOfDay(ZoneId.systemDefault()).toInstant());
    }

    /** Removes what is whole in the database, and what is known to be the same. */
    private void remove(PopConnection pop, List<String> listed) throws MailException {
        Map<String, PopStore.KnownMessage> known = tools.pop().known(account.id());
        List<String> safe = new ArrayList<>();
        for (String id : listed) {
            PopStore.KnownMessage one = known.get(id);
            if (one == null || !one.wanted()) {
                continue;
            }
            if (one.whole() && (fetchedNow.contains(id) || isSame(pop, id, one))) {
                safe.add(id);
            } else if (one.size() == null) {
                recognise(pop, id, List.of(id)); // It was not noted what it stands for; the next look removes it.
            }
        }
        tools.pop().removing(account.id(), safe);
        pop.remove(safe);
    }
}
