package app.schublade.web.frame;

import app.schublade.store.cabinet.TicklerStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.triage.AwaitingStore;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Counts what is open: written, back from the tickler, not answered. */
@Component
class OpenCounts {
    private final OutgoingStore outgoing;
    private final TicklerStore tickler;
    private final AwaitingStore awaiting;

    OpenCounts(OutgoingStore outgoing, TicklerStore tickler, AwaitingStore awaiting) {
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
     */
    public record OpenCount(int outgoing, int back, int awaited) {}

    /** @param account that the view is narrowed to, or null */
    OpenCount of(long userId, @Nullable Long account) {
        return new OpenCount(outgoing.count(userId), tickler.back(userId, account), awaiting.count(userId));
    }
}
