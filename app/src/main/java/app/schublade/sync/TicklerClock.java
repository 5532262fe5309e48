package app.schublade.sync;

import app.schublade.store.cabinet.TicklerStore;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Duration;
import java.util.List;
import java.util.function.LongConsumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Looks every minute what is to come back from the tickler. Several processes may: who comes second finds nothing left. */
@Component
class TicklerClock extends ScheduledWork {
    private static final Logger LOG = LoggerFactory.getLogger(TicklerClock.class);

    private final TicklerStore tickler;

    TicklerClock(TicklerStore tickler, Background background) {
        super(background, "tickler clock", Duration.ofMinutes(1));
        this.tickler = tickler;
    }

    @Override
    protected void go() {
        each(tickler.users(), tickler::bringBack);
        each(tickler.written(), tickler::bringBackWritten);
    }

    private static void each(List<Long> users, LongConsumer work) {
        for (long user : users) {
            try {
                work.accept(user);
            } catch (RuntimeException e) {
                LOG.error("The tickler of user {} failed; it is tried again", user, e); // The others' days come too.
            }
        }
    }
}
