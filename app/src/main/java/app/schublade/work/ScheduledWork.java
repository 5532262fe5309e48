package app.schublade.work;

import java.time.Duration;
import java.util.concurrent.ScheduledFuture;
import org.jspecify.annotations.Nullable;
import org.springframework.context.SmartLifecycle;

/** Goes its round again and again, from the start of the application to its end; what fails waits for the next one. */
public abstract class ScheduledWork implements SmartLifecycle {
    private final Background background;
    private final String name;
    private final Duration pause;
    private @Nullable ScheduledFuture<?> going;

    /** @param pause between the end of a round and the beginning of the next one */
    public ScheduledWork(Background background, String name, Duration pause) {
        this.background = background;
        this.name = name;
        this.pause = pause;
    }

    /** Once around. */
    protected abstract void go();

    @Override
    public void start() {
        going = background.every(name, pause, this::go);
    }

    @Override
    public void stop() {
        if (going != null) {
            going.cancel(true);
            going = null;
        }
    }

    @Override
    public boolean isRunning() {
        return going != null;
    }
}
