package app.schublade.sync;

import app.schublade.store.TicklerStore;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;

/** Looks every minute what is to come back from the tickler. Several processes may: who comes second finds nothing left. */
@Component
class TicklerClock implements SmartLifecycle {
    private static final Logger LOG = LoggerFactory.getLogger(TicklerClock.class);
    private static final long LOOK_SECONDS = 60;

    private final TicklerStore tickler;
    private @Nullable ScheduledExecutorService clock;

    TicklerClock(TicklerStore tickler) {
        this.tickler = tickler;
    }

    @Override
    public void start() {
        ScheduledExecutorService timer = Executors.newSingleThreadScheduledExecutor(work -> {
            Thread thread = new Thread(work, "tickler");
            thread.setDaemon(true);
            return thread;
        });
        timer.scheduleWithFixedDelay(this::look, 0, LOOK_SECONDS, TimeUnit.SECONDS);
        clock = timer;
    }

    private void look() {
        try {
            tickler.users().forEach(tickler::bringBack);
        } catch (RuntimeException e) {
            LOG.warn("The tickler is looked at again in a minute: {}", e.getMessage());
        }
    }

    @Override
    public void stop() {
        if (clock != null) {
            clock.shutdownNow();
            clock = null;
        }
    }

    @Override
    public boolean isRunning() {
        return clock != null;
    }
}
