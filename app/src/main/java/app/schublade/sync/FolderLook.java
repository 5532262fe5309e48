package app.schublade.sync;

import app.schublade.core.message.Amount;
import app.schublade.mail.FolderStatus;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.Opened;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Looks at an account's folders on its server and brings Schublade into agreement with them.
 *
 * <p>A look at everything goes in two steps, so that a message that another mail program moved keeps its id: first
 * every folder is compared, and what vanished becomes a stray; then what is unknown is fetched, and strays are
 * recognised among it. A stray that a whole look later is nowhere still was deleted. Where a folder stands is noted only
 * when all of it is known here, so that a look can be cut off anywhere.
 */
final class FolderLook {
    private static final int BATCH = 100;
    private static final Duration TELL_EVERY = Duration.ofMillis(500);
    /** An import stands still meanwhile, so this is not done as often as telling. */
    private static final Duration PAUSE_EVERY = Duration.ofSeconds(2);

    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;
    private final FolderList list;
    private final FolderComparison comparison;
    private final Intake intake;
    private final InboxNews news;
    private final FolderDoors doors;
    private final Set<String> toldOf = new HashSet<>();
    private boolean complete = true;

    FolderLook(Account account, WorkerTools tools, ImapConnection imap, FetchPace pace) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
        list = new FolderList(account, tools, imap);
        comparison = new FolderComparison(account, tools, imap);
        intake = new Intake(account, tools, imap, pace);
        doors = new FolderDoors(account, tools, imap);
        news = new InboxNews(tools, imap, comparison, intake);
    }

    /** What can be done between two batches, so that neither new mail nor orders wait for an import. */
    interface Between {
        void act() throws MailException;
    }

    /** What a folder holds that is not known here, and where it stood then. */
    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    private record Unknown(Mailbox mailbox, FolderStatus status, long[] uids, boolean agreed) {}

    InboxNews inbox() {
        return news;
    }

    /**
     * Compares all folders, fetches what is not known, takes out what is gone.
     *
     * @return false if messages are missing that only the next look can tell moved from deleted
     */
    boolean everything(Between between) throws MailException {
        Set<Long> straysBefore = new HashSet<>(tools.copies().strays(account.id()));
        List<Unknown> unknown = new ArrayList<>();
        complete = true;
        int known = 0;
        for (FolderList.FolderEntry listed : list.look()) {
            Mailbox mailbox = listed.mailbox();
            FolderStatus agreed = mailbox.agreed();
            if (doors.isShut(mailbox)) {
                complete = false;
                known += tools.copies().count(mailbox.id());
            } else if (agreed != null && listed.isUnchanged()) {
                known += agreed.messages();
                news.saw(mailbox, agreed);
            } else {
                passOver(mailbox, () -> unknown.add(compare(mailbox)));
                known += tools.copies().count(mailbox.id());
            }
        }
        fetch(unknown, known, between);
        List<Long> missing = tools.copies().strays(account.id());
        if (complete) {
            straysBefore.retainAll(missing);
            // A folder that is gone from the server goes from here with its last message.
            tools.removal().remove(account.userId(), straysBefore).forEach(tools.mailboxes()::tidy);
        }
        return !complete || missing.size() == straysBefore.size();
    }

    /** A folder that the server does not open must not keep the others waiting. */
    private void passOver(Mailbox mailbox, Between look) throws MailException {
        try {
            look.act();
        } catch (MailException e) {
            if (e.kind() != MailException.FailureKind.REFUSED) {
                throw e;
            }
            complete = false;
            if (toldOf.add(mailbox.serverName())) {
                tools.progress().tell(account, e.getMessage());
            }
        }
    }

    private Unknown compare(Mailbox mailbox) throws MailException {
        Opened opened = doors.openSince(mailbox, mailbox.agreed());
        Mailbox current = current(mailbox, opened);
        FolderComparison.FolderDifference found = comparison.compare(current, opened);
        if (current.inbox()) {
            news.saw(current, opened.status());
        }
        long[] wanted = found.unknown().length == 0 ? found.unknown() : wanted(found.unknown());
        return new Unknown(current, opened.status(), wanted, found.agreed());
    }

    /** Mail from before the day that the user chose stays on the server only. */
    private long[] wanted(long[] unknown) throws MailException {
        LocalDate since = account.settings().importSince();
        return since == null ? unknown : FolderComparison.among(unknown, imap.uidsSince(since));
    }

    /** Takes note of how the server opened a folder; the first time, and when it has renumbered its messages. */
    private Mailbox current(Mailbox mailbox, Opened opened) throws MailException {
        Long before = mailbox.uidValidity();
        if (before != null && before == opened.uidValidity()) {
            return tools.mailboxes().permits(mailbox, opened);
        }
        if (before != null) {
            tools.progress()
                    .tell(
                            account,
                            "The server has renumbered the folder %s; its messages are compared one by one."
                                    .formatted(mailbox.serverName()));
        }
        long firstNew = mailbox.inbox() ? firstAfter(account.addedAt(), opened) : opened.uidNext();
        return tools.mailboxes().opened(mailbox, opened, firstNew);
    }

    /** The UID of the first message of the open folder that arrived after a time. UIDs ascend as mail arrives. */
    private long firstAfter(Instant time, Opened opened) throws MailException {
        long first = opened.uidNext();
        List<Long> uids = boxed(opened.messages() == 0 ? new long[0] : imap.uids());
        for (int end = uids.size(); end > 0; end -= BATCH) {
            Map<Long, Instant> some = imap.received(uids.get(Math.max(0, end - BATCH)), uids.get(end - 1));
            List<Long> later = some.entrySet().stream()
                    .filter(one -> one.getValue().isAfter(time))
                    .map(Map.Entry::getKey)
                    .toList();
            first = later.stream().reduce(first, Math::min);
            if (later.size() < some.size()) {
                break;
            }
        }
        return first;
    }

    private void fetch(List<Unknown> unknown, int known, Between between) throws MailException {
        int missing = unknown.stream().mapToInt(one -> one.uids().length).sum();
        Import running = new Import(known, missing, between);
        try {
            for (Unknown one : unknown) {
                passOver(one.mailbox(), () -> fetch(one, running));
            }
        } finally {
            intake.settle();
        }
        if (missing > BATCH) {
            running.tell();
            tools.progress().tell(account, "Imported %s.".formatted(Amount.messages(running.done)));
            tools.progress().connected(account);
        }
    }

    /** Tells from time to time how far it has come, and does meanwhile what must not wait. */
    private final class Import {
        private final int known;
        private final int missing;
        private final Between between;
        private int done;
        private long told = System.nanoTime() - TELL_EVERY.toNanos();
        private long paused = System.nanoTime();

        Import(int known, int missing, Between between) {
            this.known = known;
            this.missing = missing;
            this.between = between;
        }

        void pause() throws MailException {
            if (missing > BATCH && AccountWorker.isOver(told, TELL_EVERY)) {
                tell();
                told = System.nanoTime();
            }
            if (AccountWorker.isOver(paused, PAUSE_EVERY)) {
                intake.settle(); // What is being stored must not look new to others.
                between.act();
                paused = System.nanoTime();
            }
        }

        void tell() {
            tools.progress().importing(account, known + done, known + missing);
        }
    }

    private void fetch(Unknown one, Import running) throws MailException {
        boolean agreed = one.agreed();
        for (int end = one.uids().length; end > 0; end -= BATCH) {
            running.pause();
            long[] newestFirst = Arrays.copyOfRange(one.uids(), Math.max(0, end - BATCH), end);
            Intake.Taken taken = intake.take(one.mailbox(), boxed(newestFirst));
            if (taken == Intake.Taken.NOT) {
                complete = false;
                return;
            }
            agreed &= taken == Intake.Taken.WHOLLY;
            running.done += newestFirst.length;
        }
        intake.settle();
        if (agreed) {
            tools.mailboxes().agreed(account, one.mailbox().id(), one.status());
        }
    }

    static List<Long> boxed(long[] numbers) {
        return Arrays.stream(numbers).boxed().toList();
    }
}
