package app.schublade.web.triage;

import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.message.Address;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.triage.ReminderStore;
import app.schublade.store.triage.ReminderStore.Reminder;
import app.schublade.store.triage.ReminderStore.ReminderMail;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.springframework.stereotype.Component;

/** Reminds users of what is due at a time of day, whether or not a browser is open. */
@Component
class ReminderClock extends ScheduledWork {
    private final ReminderStore reminders;
    private final AccountStore accounts;
    private final OutgoingStore outgoing;
    private final Clock clock;

    ReminderClock(
            ReminderStore reminders,
            AccountStore accounts,
            OutgoingStore outgoing,
            Clock clock,
            Background background) {
        super(background, "reminders", Duration.ofSeconds(20));
        this.reminders = reminders;
        this.accounts = accounts;
        this.outgoing = outgoing;
        this.clock = clock;
    }

    @Override
    protected void go() {
        each(reminders.users(), Long::longValue, reminders::remind);
        each(reminders.toMail(), ReminderMail::userId, one -> reminders.once(one, () -> send(one)));
    }

    private void send(ReminderMail mail) {
        accounts.byId(mail.userId(), mail.account()).ifPresent(account -> send(account, mail.reminder()));
    }

    private void send(Account account, Reminder reminder) {
        String subject = reminder.subject().isBlank() ? "(no subject)" : reminder.subject();
        OutgoingMessage message =
                OutgoingMessage.toSelf(new Address("Schublade", account.address()), "Due: " + subject, """
                Due %s: %s
                From %s

                The message is flagged in Schublade. Clear its flag when it is done.
                """.formatted(
                                reminder.due(), subject, reminder.sender().shown()));
        Instant now = clock.instant();
        long id = outgoing.begin(account.userId(), account.id(), message, null);
        outgoing.send(account.userId(), id, message, now, now);
    }
}
