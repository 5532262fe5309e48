package app.schublade.work;

import java.time.Duration;
import java.util.Collection;
import java.util.concurrent.ScheduledFuture;
import java.util.function.Consumer;
import java.util.function.ToLongFunction;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;

/** Goes its round again and again, from the start of the application to its end; what fails waits for the next one. */
public abstract class ScheduledWork implements SmartLifecycle {
    private static final Logger LOG = LoggerFactory.getLogger(ScheduledWork.class);

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

    /**
     * Does something for each user. Where it fails, that is logged and tried again the next time around; the others are not held up.
     *
     * @param user whose number is logged
     */
    protected final <T> void each(Collection<T> all, ToLongFunction<T> user, Consumer<T> work) {
        for (T one : all) {
            try {
                work.accept(one);
            } catch (RuntimeException e) {
                LOG.error("{} failed for user {}; it is tried again", name, user.applyAsLong(one), e);
            }
        }
    }

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
