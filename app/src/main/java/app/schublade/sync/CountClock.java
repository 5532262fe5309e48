package app.schublade.sync;

import app.schublade.store.filing.CountStore;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Checks the counts of one user after the other; what is wrong is mended, and stands in the log. */
@Component
class CountClock extends ScheduledWork {
    private final CountStore counts;
    private long last;

    CountClock(CountStore counts, Background background) {
        super(background, "count clock", Duration.ofMinutes(10));
        this.counts = counts;
    }

    @Override
    protected void go() {
        counts.next(last).ifPresent(user -> {
            last = user;
            if (!counts.wrong(user).isEmpty()) {
                counts.mend(user); // Looked at again, with nobody changing anything meanwhile.
            }
        });
    }
}
