package app.schublade.sync;

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
import app.schublade.store.Account;
import app.schublade.store.Mailbox;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Fetches what has come to a POP3 account. The server knows neither folders nor marks, so all filing is ours and there is
 * nothing to tell it; mail is removed there, if the user wants that, only when it is stored here for certain.
 */
final class PopLook {
    private static final int BATCH = 20;
    private static final int MAX_BYTES = 20 * 1024 * 1024;
    /** A batch ends when it holds so much. */
    private static final int BATCH_BYTES = 8 * 1024 * 1024;

    private final Account account;
    private final WorkerTools tools;

    PopLook(Account account, WorkerTools tools) {
        this.account = account;
        this.tools = tools;
    }

    void look(Credentials credentials, Duration patience) throws MailException {
        tools.orders().dropAll(account.id());
        try (PopConnection pop = PopConnection.open(account.host(), credentials, patience)) {
            List<String> ids = pop.ids();
            Mailbox inbox = inbox(ids.size());
            Set<String> fetched = tools.pop().fetched(account.id());
            List<String> unknown =
                    ids.stream().filter(id -> !fetched.contains(id)).toList();
            fetch(pop, inbox, unknown, fetched.size());
            if (!account.settings().keepOnServer()) {
                pop.remove(ids);
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
                        .opened(
                                inbox,
                                new Opened("INBOX", new FolderStatus(1, there + 1L, there, 0), false),
                                there + 1L);
    }

    private void fetch(PopConnection pop, Mailbox inbox, List<String> unknown, int known) throws MailException {
        long number = tools.pop().nextNumber(inbox);
        for (int i = 0; i < unknown.size(); ) {
            List<Letter> batch = new ArrayList<>();
            List<String> ids = new ArrayList<>();
            for (int bytes = 0; i < unknown.size() && ids.size() < BATCH && bytes < BATCH_BYTES; i++) {
                String id = unknown.get(i);
                Optional<byte[]> source = pop.fetch(id, MAX_BYTES);
                ids.add(id);
                if (source.isPresent()) {
                    bytes += source.get().length;
                    batch.add(letter(inbox, number++, pop.size(id), source.get()));
                }
            }
            batch.removeIf(one -> !isWanted(one));
            tools.pop().store(account, inbox, tools.opener().open(account, inbox, batch, one -> false), ids);
            if (unknown.size() > BATCH) {
                tools.progress().importing(account, known + i, known + unknown.size());
            }
        }
    }

    private static Letter letter(Mailbox inbox, long number, int size, byte[] source) {
        boolean wasThere = number < inbox.newFromUid();
        Sighting sighting = new Sighting(number, wasThere, false, false, Set.of());
        Instant now = Instant.now();
        Letter letter = Letter.read(new Fetched(sighting, now, Math.max(size, source.length), source));
        Instant sent = letter.mail().sent();
        return sent == null || sent.isAfter(now) ? letter : letter.received(sent);
    }

    private boolean isWanted(Letter one) {
        LocalDate since = account.settings().importSince();
        return since == null
                || !one.fetched()
                        .received()
                        .isBefore(since.atStartOfDay(ZoneId.systemDefault()).toInstant());
    }
}
