package app.schublade.sync;

import app.schublade.core.format.Identity;
import app.schublade.mail.Fetched;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.Opened;
import app.schublade.mail.Sighting;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.work.ParallelWork;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.ToIntFunction;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Fetches messages that are not known and stores them. Strays are recognised among them and not fetched again. */
final class Intake {
    /** So much of every message is fetched at once with others. */
    private static final int SMALL_BYTES = 256 * 1024;
    /** Of a larger message only the beginning is fetched. */
    static final int MAX_BYTES = 20 * 1024 * 1024;
    /** So many messages, or so many bytes of them, are stored at once. */
    private static final int STORED = 500;

    private static final int STORED_BYTES = 8 * 1024 * 1024;

    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;
    /** While some messages are stored and the next are made ready for it, others are fetched and read. */
    private final ParallelWork sideline;

    private final Fetcher fetcher;
    private final FetchPace pace;

    private Gathered gathered = Gathered.NOTHING;

    Intake(Account account, WorkerTools tools, ImapConnection imap, FetchPace pace) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
        this.pace = pace;
        sideline = new ParallelWork(tools.background(), "storing", 2);
        fetcher = new Fetcher(account, tools, imap, pace);
    }

    /** How a batch was taken in. */
    enum Taken {
        /** Both sides agree. */
        WHOLLY,
        /** The server has not been told yet what the user did with some of it, or does not give some of it. */
        PARTLY,
        /** The folder was renumbered meanwhile, so that its UIDs are void. */
        NOT
    }

    /** Takes in a batch of one folder. It is stored for certain only when all that was taken is {@linkplain #settle settled}. */
    Taken take(Mailbox mailbox, List<Long> uids) throws MailException {
        Opened opened = imap.ensureOpen(mailbox.serverName());
        Long validity = mailbox.uidValidity();
        if (validity == null || validity != opened.uidValidity()) {
            return Taken.NOT;
        }
        Map<Long, Sighting> strays = tools.copies().hasStrays(account.id()) ? strays(mailbox, uids) : Map.of();
        Set<Long> known = strays.values().stream().map(Sighting::uid).collect(Collectors.toSet());
        List<Long> unknown = uids.stream().filter(uid -> !known.contains(uid)).toList();
        boolean agreed = tools.marks().found(account, mailbox, strays);
        int taken = read(mailbox, fetcher.wanted(mailbox, unknown), letters -> gather(mailbox, notPutByUs(letters)));
        return agreed && taken == unknown.size() ? Taken.WHOLLY : Taken.PARTLY;
    }

    /** Waits until everything that was taken in is stored. */
    void settle() {
        try {
            storeGathered();
        } finally {
            sideline.join();
        }
    }

    /** Letters of one folder that wait to be stored together. */
    private record Gathered(@Nullable Mailbox mailbox, List<FetchedMessage> letters) {
        static final Gathered NOTHING = new Gathered(null, List.of());

        boolean isEnough() {
            return letters.size() >= STORED
                    || letters.stream()
                                    .mapToLong(one -> one.fetched().source().length)
                                    .sum()
                            >= STORED_BYTES;
        }
    }

    /** Returns how many there are. */
    private int gather(Mailbox mailbox, List<FetchedMessage> letters) {
        if (!mailbox.equals(gathered.mailbox())) {
            storeGathered();
            gathered = new Gathered(mailbox, new ArrayList<>());
        }
        gathered.letters().addAll(letters);
        if (gathered.isEnough()) {
            storeGathered();
        }
        return letters.size();
    }

    private void storeGathered() {
        Mailbox mailbox = gathered.mailbox();
        List<FetchedMessage> letters = gathered.letters();
        gathered = Gathered.NOTHING;
        if (mailbox != null && !letters.isEmpty()) {
            // What lies in another folder too after all were compared is a copy.
            sideline.begin(() -> store(mailbox, letters, true));
        }
    }

    /**
     * Takes in what has just come to the Inbox.
     *
     * @return false if some of it was not to be had, or is known in another folder, so that only a look at all folders can
     *     tell whether it was moved or copied; it is left for that
     */
    boolean takeNews(Mailbox inbox, List<Long> uids) throws MailException {
        List<Long> wanted = fetcher.wanted(inbox, uids);
        int taken = read(inbox, wanted, news -> {
            List<FetchedMessage> unknown = notPutByUs(news).stream()
                    .filter(one -> !isKnownElsewhere(inbox, one))
                    .toList();
            store(inbox, unknown, false);
            return unknown.size();
        });
        return taken == wanted.size();
    }

    private void store(Mailbox mailbox, List<FetchedMessage> letters, boolean afterLook) {
        tools.storing().store(account, mailbox, letters, one -> afterLook && isKnownElsewhere(mailbox, one));
        pace.stored();
    }

    /** Without what an order that was cut off may have put there; the order finds it when its turn comes. */
    private List<FetchedMessage> notPutByUs(List<FetchedMessage> letters) {
        Set<String> begun = tools.orders().identitiesBegun(account.id());
        return begun.isEmpty()
                ? letters
                : letters.stream()
                        .filter(one -> !begun.contains(one.identity()))
                        .toList();
    }

    private boolean isKnownElsewhere(Mailbox mailbox, FetchedMessage one) {
        return tools.intake()
                .liesElsewhere(mailbox, one.identity(), one.fetched().size());
    }

    /**
     * Fetches and reads messages of the open folder: first all small ones together, then each large one, so that memory
     * holds few of those.
     *
     * @param taker takes them, and returns of how many it is sure
     * @return of how many of them all the taker is sure, and how many are marked as deleted
     */
    private int read(Mailbox mailbox, List<Long> uids, ToIntFunction<List<FetchedMessage>> taker) throws MailException {
        AtomicInteger sure = new AtomicInteger();
        List<Long> large = new ArrayList<>();
        fetcher.fetch(mailbox, uids, set -> imap.fetchSome(set, SMALL_BYTES), given -> {
            List<FetchedMessage> small = new ArrayList<>();
            for (Fetched one : given) {
                if (one.sighting().deleted()) {
                    sure.incrementAndGet();
                } else if (one.isWhole()) {
                    small.add(FetchedMessage.read(one));
                } else {
                    large.add(one.uid());
                }
            }
            sure.addAndGet(taker.applyAsInt(small));
        });
        for (long uid : large) {
            fetcher.fetch(
                    mailbox,
                    List.of(uid),
                    set -> imap.fetchSome(set, MAX_BYTES),
                    given -> sure.addAndGet(taker.applyAsInt(
                            given.stream().map(FetchedMessage::read).toList())));
        }
        return sure.get();
    }

    /** Recognises strays among messages of the open folder and notes that they lie there; by id. */
    private Map<Long, Sighting> strays(Mailbox mailbox, List<Long> uids) throws MailException {
        Map<Long, Sighting> located = new HashMap<>();
        for (Fetched glance : glances(mailbox, fetcher.wanted(mailbox, uids))) {
            List<Long> strays = tools.intake().straysLike(account.id(), Identity.of(glance.source()), glance.size());
            if (!strays.isEmpty()) {
                tools.copies().locate(strays.get(0), mailbox.id(), glance.uid());
                located.put(strays.get(0), glance.sighting());
            }
        }
        return located;
    }

    private List<Fetched> glances(Mailbox mailbox, List<Long> uids) throws MailException {
        List<Fetched> glances = new ArrayList<>();
        List<Long> withoutId = new ArrayList<>();
        fetcher.fetch(
                mailbox,
                uids,
                imap::fetchSomeIds,
                given -> given.forEach(glance -> {
                    if (Identity.isDigest(Identity.of(glance.source()))) {
                        withoutId.add(glance.uid());
                    } else {
                        glances.add(glance);
                    }
                }));
        fetcher.fetch(mailbox, withoutId, imap::fetchSomeHeaders, glances::addAll);
        return glances;
    }
}
