package app.schublade.web.frame;

import app.schublade.store.cabinet.TicklerStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.triage.AwaitingStore;
import app.schublade.store.triage.ReminderStore;
import app.schublade.store.triage.ReminderStore.Reminder;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What is open: written, back from the tickler, not answered, due by now. */
@Component
class OpenCounts {
    private final OutgoingStore outgoing;
    private final TicklerStore tickler;
    private final AwaitingStore awaiting;
    private final ReminderStore reminders;

    OpenCounts(OutgoingStore outgoing, TicklerStore tickler, AwaitingStore awaiting, ReminderStore reminders) {
        this.reminders = reminders;
        this.outgoing = outgoing;
        this.tickler = tickler;
        this.awaiting = awaiting;
    }

    /**
     * How much is open.
     *
     * @param outgoing messages that are being written or on their way
     * @param back messages that came back from the tickler and lie in the Inbox
     * @param awaited questions that nobody answered
     * @param reminders the latest, and one more than are shown if there are more
     */
    public record OpenCount(int outgoing, int back, int awaited, List<Reminder> reminders) {
        /** So many are shown. */
        public static final int SHOWN = 3;
    }

    /** @param account that the view is narrowed to, or null */
    OpenCount of(long userId, @Nullable Long account) {
        return new OpenCount(
                outgoing.count(userId),
                tickler.back(userId, account),
                awaiting.count(userId),
                reminders.open(userId, OpenCount.SHOWN + 1));
    }
}
