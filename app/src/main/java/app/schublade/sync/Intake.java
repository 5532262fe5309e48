package app.schublade.sync;

import app.schublade.core.format.Identity;
import app.schublade.mail.Fetched;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.Opened;
import app.schublade.mail.Sighting;
import app.schublade.store.Account;
import app.schublade.store.Incoming;
import app.schublade.store.Mailbox;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
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
    private final Sideline sideline = new Sideline("storing", 2);

    private Gathered gathered = Gathered.NOTHING;

    Intake(Account account, WorkerTools tools, ImapConnection imap) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
    }

    /** How a batch was taken in. */
    enum Taken {
        /** Both sides agree. */
        WHOLLY,
        /** All of it is known, but the server has not been told yet what the user did with some of it. */
        USER_IS_AHEAD,
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
        read(unknown, letters -> gather(mailbox, letters));
        return agreed ? Taken.WHOLLY : Taken.USER_IS_AHEAD;
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
    private record Gathered(@Nullable Mailbox mailbox, List<Letter> letters) {
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
    private int gather(Mailbox mailbox, List<Letter> letters) {
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
        List<Letter> letters = gathered.letters();
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
        int taken = read(uids, news -> {
            List<Letter> unknown =
                    news.stream().filter(one -> !isKnownElsewhere(inbox, one)).toList();
            store(inbox, unknown, false);
            return unknown.size();
        });
        return taken == uids.size();
    }

    private void store(Mailbox mailbox, List<Letter> letters, boolean afterLook) {
        List<Incoming> opened =
                tools.opener().open(account, mailbox, letters, one -> afterLook && isKnownElsewhere(mailbox, one));
        tools.intake().store(account, mailbox, opened);
    }

    private boolean isKnownElsewhere(Mailbox mailbox, Letter one) {
        return tools.intake()
                .liesElsewhere(mailbox, one.identity(), one.fetched().size());
    }

    /**
     * Fetches and reads messages of the open folder: first all small ones together, then each large one, so that memory
     * holds few of those.
     *
     * @param taker takes them, and returns of how many it is sure
     * @return of how many of them all the taker is sure
     */
    private int read(List<Long> uids, ToIntFunction<List<Letter>> taker) throws MailException {
        List<Letter> small = new ArrayList<>();
        List<Long> large = new ArrayList<>();
        for (Fetched one : imap.fetch(uids, SMALL_BYTES)) {
            if (one.isWhole() && !one.sighting().deleted()) {
                small.add(Letter.read(one));
            } else if (!one.sighting().deleted()) {
                large.add(one.uid());
            }
        }
        int sure = taker.applyAsInt(small);
        for (long uid : large) {
            sure += taker.applyAsInt(imap.fetch(List.of(uid), MAX_BYTES).stream()
                    .map(Letter::read)
                    .toList());
        }
        return sure;
    }

    /** Recognises strays among messages of the open folder and notes that they lie there; by id. */
    private Map<Long, Sighting> strays(Mailbox mailbox, List<Long> uids) throws MailException {
        Map<Long, Sighting> located = new HashMap<>();
        for (Fetched glance : glances(uids)) {
            List<Long> strays = tools.intake().straysLike(account.id(), Identity.of(glance.source()), glance.size());
            if (!strays.isEmpty()) {
                tools.copies().locate(strays.get(0), mailbox.id(), glance.uid());
                located.put(strays.get(0), glance.sighting());
            }
        }
        return located;
    }

    private List<Fetched> glances(List<Long> uids) throws MailException {
        List<Fetched> glances = new ArrayList<>();
        List<Long> withoutId = new ArrayList<>();
        for (Fetched glance : imap.fetchIds(uids)) {
            if (Identity.isDigest(Identity.of(glance.source()))) {
                withoutId.add(glance.uid());
            } else {
                glances.add(glance);
            }
        }
        if (!withoutId.isEmpty()) {
            glances.addAll(imap.fetchHeaders(withoutId));
        }
        return glances;
    }
}
