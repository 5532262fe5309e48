package app.schublade.sync;

import app.schublade.core.format.Identity;
import app.schublade.core.format.MailWriter;
import app.schublade.core.message.Address;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.Credentials;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.SmtpConnection;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.base.MailChanged;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.OutgoingStore.OutgoingState;
import app.schublade.store.outgoing.SendingStore;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/**
 * Hands messages in to the servers of their accounts and puts a copy of each into Sent. What a server refuses waits for
 * the user; what cannot be handed in now is tried again, later and later. A message whose server took it and whose
 * process died before it could write that down is handed in once more, under the same Message-ID.
 */
@Component
class Postman extends ScheduledWork {
    private static final Duration PATIENCE = Duration.ofSeconds(60);
    private static final Duration LONGEST_PAUSE = Duration.ofMinutes(30);
    private static final int FIRST_PAUSE_SECONDS = 20;
    private static final int MAX_DOUBLINGS = 10;
    private static final int AT_ONCE = 20;

    private final SendingStore outgoing;
    private final AccountStore accounts;
    private final MailboxStore mailboxes;
    private final Keyring keyring;
    private final Synchroniser synchroniser;
    private final ApplicationEventPublisher events;
    private final Background background;
    /** Accounts whose server is being spoken to. */
    private final Set<Long> busy = ConcurrentHashMap.newKeySet();

    Postman(
            SendingStore outgoing,
            AccountStore accounts,
            MailboxStore mailboxes,
            Keyring keyring,
            Synchroniser synchroniser,
            ApplicationEventPublisher events,
            Background background) {
        super(background, "postman", Duration.ofSeconds(1));
        this.outgoing = outgoing;
        this.accounts = accounts;
        this.mailboxes = mailboxes;
        this.keyring = keyring;
        this.synchroniser = synchroniser;
        this.events = events;
        this.background = background;
    }

    @Override
    protected void go() {
        for (Optional<Outgoing> next = claim(); next.isPresent(); next = claim()) {
            Outgoing one = next.get();
            long account = one.text().accountId();
            busy.add(account);
            // Each in a thread of its own: a server that takes its time holds up its own account alone.
            background.start("postman-" + account, () -> {
                try {
                    carry(one);
                } finally {
                    busy.remove(account);
                }
            });
        }
    }

    private Optional<Outgoing> claim() {
        return busy.size() >= AT_ONCE ? Optional.empty() : outgoing.claim(busy);
    }

    private void carry(Outgoing one) {
        Account account = accounts.byId(one.text().accountId()).orElse(null);
        byte[] source = outgoing.source(one.id()).orElse(null);
        if (account == null || source == null) {
            outgoing.refused(one.id(), "Its account is gone. Please choose another sender.");
            return;
        }
        try {
            Credentials credentials = keyring.of(account);
            if (one.state() == OutgoingState.WAITING) {
                handIn(account, credentials, one, source);
                outgoing.handedIn(one.id());
            }
            if (one.toSelf()) {
                outgoing.done(one.id());
            } else if (putIntoSent(account, credentials, one, source)) {
                outgoing.done(one.id());
                synchroniser.lookEverywhere(account.id());
            } else {
                outgoing.keptHere(one.id());
            }
        } catch (MailException e) {
            failed(one, e);
        }
        events.publishEvent(new MailChanged(account.userId(), Set.of(account.id())));
    }

    private void handIn(Account account, Credentials credentials, Outgoing one, byte[] source) throws MailException {
        MailHost host = account.hosts().sending();
        if (host == null) {
            throw MailException.cannotSend(account.name());
        }
        List<Address> all = new ArrayList<>(MailWriter.addresses(one.text().to()));
        all.addAll(MailWriter.addresses(one.text().cc()));
        all.addAll(MailWriter.addresses(one.text().bcc()));
        OptionalLong limit = SmtpConnection.send(
                host,
                credentials,
                PATIENCE,
                source,
                all.stream().map(Address::email).distinct().toList());
        accounts.sendsUpTo(account.id(), limit);
    }

    /**
     * Puts the copy into Sent, unless it lies there already: from a try that was cut off before it could be written down, or
     * because the server keeps what it sends; and into the folder of what it answers, if its writer likes that. Returns false
     * where mail is only fetched: there is no Sent.
     */
    private boolean putIntoSent(Account account, Credentials credentials, Outgoing one, byte[] source)
            throws MailException {
        if (account.hosts().protocol() != Account.Protocol.IMAP) {
            return false;
        }
        try (ImapConnection imap = ImapConnection.open(account.host(), credentials, PATIENCE)) {
            put(source, OwnFolders.of(account, SpecialUse.SENT, mailboxes, imap), imap);
            Optional<String> beside = outgoing.folderBeside(one.id());
            if (beside.isPresent()) {
                put(source, beside.get(), imap);
            }
        }
        return true;
    }

    private static void put(byte[] source, String folder, ImapConnection imap) throws MailException {
        imap.open(folder);
        if (imap.withMessageId(Identity.of(source)).isEmpty()) {
            imap.appendSent(folder, source, Instant.now());
        }
    }

    private void failed(Outgoing one, MailException problem) {
        String sentence = String.valueOf(problem.getMessage());
        boolean mayBeTakenLater = !problem.kind().needsUser() && problem.kind() != MailException.FailureKind.REFUSED;
        if (mayBeTakenLater || one.state() == OutgoingState.SENT) {
            outgoing.later(one.id(), sentence, pause(one.tries()));
        } else {
            outgoing.refused(one.id(), sentence);
        }
    }

    private static Duration pause(int tries) {
        Duration pause = Duration.ofSeconds((long) FIRST_PAUSE_SECONDS << Math.min(tries, MAX_DOUBLINGS));
        return pause.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : pause;
    }
}
