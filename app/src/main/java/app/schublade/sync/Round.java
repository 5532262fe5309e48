package app.schublade.sync;

import java.time.Duration;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;

/** Goes its round again and again, from the start of the application to its end; what fails waits for the next one. */
abstract class Round implements SmartLifecycle {
    private static final Logger LOG = LoggerFactory.getLogger(Round.class);

    private final String name;
    private final Duration pause;
    private @Nullable ScheduledExecutorService clock;

    /** @param pause between the end of a round and the beginning of the next one */
    Round(String name, Duration pause) {
        this.name = name;
        this.pause = pause;
    }

    /** Once around. */
    abstract void go();

    @Override
    public void start() {
        ScheduledExecutorService timer = Executors.newSingleThreadScheduledExecutor(work -> {
            Thread thread = new Thread(work, name);
            thread.setDaemon(true);
            return thread;
        });
        timer.scheduleWithFixedDelay(this::tryToGo, pause.toMillis(), pause.toMillis(), TimeUnit.MILLISECONDS);
        clock = timer;
    }

    private void tryToGo() {
        try {
            go();
        } catch (RuntimeException e) {
            LOG.warn("The {} comes again: {}", name, e.getMessage());
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
