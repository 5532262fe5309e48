package app.schublade.sync;

import app.schublade.store.cabinet.TicklerStore;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Looks every minute what is to come back from the tickler. Several processes may: who comes second finds nothing left. */
@Component
class TicklerClock extends ScheduledWork {
    private final TicklerStore tickler;

    TicklerClock(TicklerStore tickler, Background background) {
        super(background, "tickler clock", Duration.ofMinutes(1));
        this.tickler = tickler;
    }

    @Override
    protected void go() {
        each(tickler.users(), Long::longValue, tickler::bringBack);
        each(tickler.written(), Long::longValue, tickler::bringBackWritten);
    }
}
