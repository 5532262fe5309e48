package app.schublade.sync;

import app.schublade.core.format.Identity;
import app.schublade.mail.Fetched;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.Opened;
import app.schublade.store.Account;
import app.schublade.store.Mailbox;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Fetches messages that are not known and stores them. Strays are recognised among them and not fetched again. */
final class Intake {
    /** So much of every message is fetched at once with others. */
    private static final int SMALL_BYTES = 256 * 1024;
    /** Of a larger message only the beginning is fetched. */
    private static final int MAX_BYTES = 20 * 1024 * 1024;

    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;

    Intake(Account account, WorkerTools tools, ImapConnection imap) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
    }

    /**
     * Takes in a batch of one folder.
     *
     * @return false if the folder was renumbered meanwhile, so that its UIDs are void
     */
    boolean take(Mailbox mailbox, List<Long> uids) throws MailException {
        Opened opened = imap.ensureOpen(mailbox.serverName());
        Long validity = mailbox.uidValidity();
        if (validity == null || validity != opened.uidValidity()) {
            return false;
        }
        List<Long> unknown = tools.copies().hasStrays(account.id()) ? recogniseStrays(mailbox, opened, uids) : uids;
        store(mailbox, fetch(unknown), true);
        return true;
    }

    /**
     * Takes in what has just come to the Inbox.
     *
     * @return false if some of it is known in another folder, so that only a look at all folders can tell whether it was
     *     moved or copied; it is left for that
     */
    boolean takeNews(Mailbox inbox, List<Long> uids) throws MailException {
        List<Fetched> news = fetch(uids);
        List<Fetched> unknown =
                news.stream().filter(one -> !isKnownElsewhere(inbox, one)).toList();
        store(inbox, unknown, false);
        return unknown.size() == news.size();
    }

    private void store(Mailbox mailbox, List<Fetched> fetched, boolean afterLook) {
        tools.intake()
                .store(
                        account,
                        mailbox,
                        tools.opener()
                                .open(
                                        account,
                                        mailbox,
                                        fetched,
                                        // What lies in another folder too after all were compared is a copy.
                                        one -> afterLook && isKnownElsewhere(mailbox, one)));
    }

    private boolean isKnownElsewhere(Mailbox mailbox, Fetched one) {
        return tools.intake().liesElsewhere(mailbox, Identity.of(one.source()), one.size());
    }

    /** Large messages come one by one, so that memory holds at most one of them. */
    private List<Fetched> fetch(List<Long> uids) throws MailException {
        List<Fetched> all = new ArrayList<>();
        for (Fetched one : imap.fetch(uids, SMALL_BYTES)) {
            if (one.sighting().deleted()) {
                continue;
            }
            all.addAll(one.isWhole() ? List.of(one) : imap.fetch(List.of(one.uid()), MAX_BYTES));
        }
        return all;
    }

    /** Returns those that are no strays. */
    private List<Long> recogniseStrays(Mailbox mailbox, Opened opened, List<Long> uids) throws MailException {
        List<Long> others = new ArrayList<>();
        Map<Long, Fetched> located = new HashMap<>();
        for (Fetched glance : glances(uids)) {
            List<Long> strays = tools.intake().straysLike(account.id(), Identity.of(glance.source()), glance.size());
            if (strays.isEmpty()) {
                others.add(glance.uid());
            } else {
                tools.copies().locate(strays.get(0), mailbox.id(), glance.uid());
                located.put(strays.get(0), glance);
            }
        }
        located.forEach((message, glance) ->
                tools.marks().found(account, message, mailbox, opened.keywords(), glance.sighting()));
        return others;
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
