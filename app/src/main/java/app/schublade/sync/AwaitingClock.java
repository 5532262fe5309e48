package app.schublade.sync;

import app.schublade.store.triage.AwaitingStore;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Looks through what was sent for what was asked. */
@Component
class AwaitingClock extends ScheduledWork {
    private static final int AT_ONCE = 200;

    private final AwaitingStore awaiting;

    AwaitingClock(AwaitingStore awaiting, Background background) {
        super(background, "awaiting clock", Duration.ofSeconds(20));
        this.awaiting = awaiting;
    }

    @Override
    protected void go() {
        each(awaiting.users(), Long::longValue, this::look);
    }

    private void look(long user) {
        int looked;
        do {
            looked = awaiting.look(user, AT_ONCE);
        } while (looked == AT_ONCE);
        awaiting.tidy(user);
    }
}
