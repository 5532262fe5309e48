package app.schublade.sync;

import app.schublade.mail.Fetched;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * Fetches messages of a folder in sets that suit the line. What has arrived when a set breaks off counts. A message that the
 * server does not give even alone is put aside, so that nothing waits behind it.
 */
final class Fetcher {
    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;
    private final FetchPace pace;

    Fetcher(Account account, WorkerTools tools, ImapConnection imap, FetchPace pace) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
        this.pace = pace;
    }

    /** Those of some messages of a folder that are not put aside. */
    List<Long> wanted(Mailbox mailbox, Collection<Long> uids) {
        Set<String> aside = uids.isEmpty() ? Set.of() : tools.aside().waiting(mailbox);
        return uids.stream().filter(uid -> !aside.contains(uid.toString())).toList();
    }

    /**
     * Fetches messages of the open folder.
     *
     * @param asking for what of them
     * @param taker takes what has arrived, set by set
     * @throws MailException if the connection broke; what had arrived was taken
     */
    void fetch(
            Mailbox mailbox,
            Collection<Long> uids,
            Function<List<Long>, ImapConnection.Given> asking,
            Consumer<List<Fetched>> taker)
            throws MailException {
        List<Long> left = new ArrayList<>(uids);
        Set<String> known = tools.aside().known(mailbox);
        while (!left.isEmpty()) {
            List<Long> set = List.copyOf(left.subList(0, Math.min(left.size(), pace.size())));
            ImapConnection.Given given = asking.apply(set);
            taker.accept(given.messages());
            List<String> came = given.messages().stream()
                    .map(one -> String.valueOf(one.uid()))
                    .filter(known::contains)
                    .toList();
            if (!came.isEmpty()) {
                tools.aside().settled(mailbox, came);
            }
            List<Long> missing = missing(set, given);
            left.removeAll(new HashSet<>(set));
            MailException problem = given.problem();
            if (problem == null) {
                pace.wentWell();
                putAside(mailbox, present(missing), "The server answers for it, and does not give it.");
            } else {
                left.addAll(0, broke(mailbox, missing, given.messages().size(), problem));
            }
        }
    }

    /** The server may leave out what is gone; what is there and was not given must not be forgotten. */
    private Collection<Long> present(List<Long> missing) throws MailException {
        return missing.isEmpty() ? List.of() : imap.present(missing);
    }

    private static List<Long> missing(List<Long> asked, ImapConnection.Given given) {
        Set<Long> came = given.messages().stream().map(Fetched::uid).collect(Collectors.toSet());
        return asked.stream().filter(uid -> !came.contains(uid)).toList();
    }

    /** Returns what is to be asked for again on this connection. */
    private List<Long> broke(Mailbox mailbox, List<Long> missing, int given, MailException problem)
            throws MailException {
        pace.broke(given);
        if (missing.size() == 1 && !imap.isClosedHere() && pace.blame()) {
            putAside(mailbox, missing, problem.getMessage());
        }
        if (problem.kind() != MailException.FailureKind.REFUSED) {
            throw problem;
        }
        return missing.size() == 1 ? List.of() : missing;
    }

    private void putAside(Mailbox mailbox, Collection<Long> uids, String reason) {
        for (long uid : uids) {
            if (tools.aside().failed(mailbox, String.valueOf(uid), reason)) {
                tools.progress()
                        .tell(
                                account,
                                "Message %d in %s is put aside: %s".formatted(uid, mailbox.serverName(), reason));
            }
        }
    }
}
