package app.schublade.sync;

import app.schublade.store.triage.AwaitingStore;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Duration;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Looks through what was sent for what was asked. */
@Component
class AwaitingClock extends ScheduledWork {
    private static final Logger LOG = LoggerFactory.getLogger(AwaitingClock.class);
    private static final int AT_ONCE = 200;

    private final AwaitingStore awaiting;

    AwaitingClock(AwaitingStore awaiting, Background background) {
        super(background, "awaiting clock", Duration.ofSeconds(20));
        this.awaiting = awaiting;
    }

    @Override
    protected void go() {
        for (long user : awaiting.users()) {
            try {
                int looked;
                do {
                    looked = awaiting.look(user, AT_ONCE);
                } while (looked == AT_ONCE);
                awaiting.tidy(user);
            } catch (RuntimeException e) {
                LOG.error("What user {} asked could not be looked for; it is tried again", user, e);
            }
        }
    }
}
