package app.schublade.sync;

import app.schublade.store.noise.QuietStore;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Shows what waits for the hours at which users look at mail. Several processes may: who comes second finds nothing left. */
@Component
class QuietClock extends ScheduledWork {
    private final QuietStore quiet;

    QuietClock(QuietStore quiet, Background background) {
        super(background, "quiet clock", Duration.ofSeconds(20));
        this.quiet = quiet;
    }

    @Override
    protected void go() {
        each(quiet.due(), Long::longValue, quiet::look);
    }
}
