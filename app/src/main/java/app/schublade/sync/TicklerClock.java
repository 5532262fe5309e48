package app.schublade.sync;

import app.schublade.store.TicklerStore;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Looks every minute what is to come back from the tickler. Several processes may: who comes second finds nothing left. */
@Component
class TicklerClock extends Round {
    private final TicklerStore tickler;

    TicklerClock(TicklerStore tickler) {
        super("tickler clock", Duration.ofMinutes(1));
        this.tickler = tickler;
    }

    @Override
    void go() {
        tickler.users().forEach(tickler::bringBack);
    }
}
