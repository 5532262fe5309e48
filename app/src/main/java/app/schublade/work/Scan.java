package app.schublade.work;

import java.time.Duration;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * A look through mail in the background. It shows what it has found so far, and can be stopped.
 *
 * @param <T> what it finds; a value that does not change
 */
public final class Scan<T> {
    private static final long SHOWN_NANOS = Duration.ofMillis(150).toNanos();

    private final String id = UUID.randomUUID().toString();
    private final long userId;
    private final int total;
    private final CountDownLatch end = new CountDownLatch(1);
    private long shown = System.nanoTime();
    private int scanned;
    private volatile int seen;
    private volatile boolean stopped;
    private volatile @Nullable T found;
    private volatile @Nullable RuntimeException failure;

    /** @param total how many messages it leads past */
    Scan(long userId, int total) {
        this.userId = userId;
        this.total = total;
    }

    /** What scans. */
    @FunctionalInterface
    public interface Scanning<T> {
        /** Calls {@link Scan#step} for each message, and returns what was found in the end. */
        T scan(Scan<T> scan);
    }

    /** Somebody does not want it any more. */
    private static final class Stopped extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Stopped() {
            super("Stopped", null, false, false);
        }
    }

    /** One message more was looked at. Ends the scan by an exception if it was stopped. */
    public void step(Supplier<T> soFar) {
        scanned++;
        long now = System.nanoTime();
        if (stopped || now - shown > SHOWN_NANOS) {
            shown = now;
            found = soFar.get();
            seen = scanned;
        }
        if (stopped) {
            throw new Stopped();
        }
    }

    public void run(Scanning<T> scanning) {
        try {
            found = scanning.scan(this);
            seen = scanned;
        } catch (Stopped e) {
            seen = scanned;
        } catch (RuntimeException e) {
            failure = e;
        } catch (Error e) {
            failure = new IllegalStateException("A look through mail failed.", e);
        } finally {
            end.countDown();
        }
    }

    /** Waits for its end, but not longer; throws what it failed with. */
    public Scan<T> await(Duration patience) {
        try {
            end.await(patience.toMillis(), TimeUnit.MILLISECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        RuntimeException problem = failure;
        if (problem != null) {
            throw problem;
        }
        return this;
    }

    public void stop() {
        stopped = true;
    }

    public String id() {
        return id;
    }

    public long userId() {
        return userId;
    }

    public int seen() {
        return seen;
    }

    public int total() {
        return total;
    }

    public boolean isRunning() {
        return end.getCount() > 0;
    }

    /** Whether it ended before it had seen everything. */
    public boolean isCutShort() {
        return stopped && !isRunning() && seen < total;
    }

    /** What was found so far; null if nothing can be said yet. */
    public @Nullable T found() {
        return found;
    }
}
