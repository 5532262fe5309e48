package app.schublade.sync;

import app.schublade.core.format.ParsedMail;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.base.MailChanged;
import app.schublade.store.intake.KeptStore;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.intake.ReadingStore;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/**
 * After an update that reads messages better, reads those that are here already again, some at a time, behind everything else.
 * They stay where they lie, with all their marks; rules do not act on them.
 */
@Component
class BetterReading {
    private static final Logger LOG = LoggerFactory.getLogger(BetterReading.class);
    private static final int SOME = 100;

    private final ReadingStore readings;
    private final KeptStore kept;
    private final MessageReader reader;
    private final MailboxStore mailboxes;
    private final AccountReports reports;
    private final ApplicationEventPublisher events;

    BetterReading(
            ReadingStore readings,
            KeptStore kept,
            MessageReader reader,
            MailboxStore mailboxes,
            AccountReports reports,
            ApplicationEventPublisher events) {
        this.readings = readings;
        this.kept = kept;
        this.reader = reader;
        this.mailboxes = mailboxes;
        this.reports = reports;
        this.events = events;
    }

    /** Returns whether all is read. */
    boolean readSome(Account account) {
        Optional<Long> before = readings.readUpTo(account.id());
        Optional<Mailbox> inbox = mailboxes.inbox(account.id());
        if (before.isEmpty() || inbox.isEmpty()) {
            return true;
        }
        List<Long> some = readings.behind(account.id(), before.get(), SOME);
        if (before.get() == 0 && some.size() == SOME) {
            reports.tell(account, "Messages are read better than before: those that are here are read again.");
        }
        if (some.stream().filter(id -> read(account, inbox.get(), id)).count() > 0) {
            events.publishEvent(new MailChanged(account.userId(), Set.of(account.id())));
        }
        if (some.size() < SOME) {
            readings.haveReadAll(account.id());
            if (before.get() > 0) {
                reports.tell(account, "All messages that were here have been read again.");
            }
            return true;
        }
        readings.haveRead(account.id(), some.get(SOME - 1));
        return false;
    }

    /** Returns whether it reads better. One that cannot be read now stays as it was read before. */
    private boolean read(Account account, Mailbox inbox, long id) {
        AtomicBoolean better = new AtomicBoolean();
        Throwable failure = Storing.tryTo(() -> kept.source(id).ifPresent(source -> {
            FetchedMessage message = FetchedMessage.again(source.source(), source.size());
            ParsedMail mail = message.mail();
            if (message.problem() == null && readings.isBetter(id, mail)) {
                kept.read(account, id, reader.withoutRules(account, inbox, message));
                better.set(true);
            }
        }));
        if (failure != null) {
            LOG.warn("Message {} is not read better than before: {}", id, failure.toString());
        }
        return better.get();
    }
}
