package app.schublade.sync;

import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import org.jspecify.annotations.Nullable;

/** Work beside its owner's, one piece at a time: a new piece begins when the one before has ended. */
final class Sideline {
    private final String name;
    private @Nullable FutureTask<@Nullable Void> current;

    Sideline(String name) {
        this.name = name;
    }

    /** Begins a piece of work when the one before is done; throws what that one failed with. */
    void begin(Runnable work) {
        join();
        FutureTask<@Nullable Void> next = new FutureTask<>(work, null);
        Thread thread = new Thread(next, name);
        thread.setDaemon(true);
        thread.start();
        current = next;
    }

    /** Waits for the end of what was begun; throws what it failed with. */
    void join() {
        FutureTask<@Nullable Void> last = current;
        current = null;
        if (last == null) {
            return;
        }
        try {
            last.get();
        } catch (ExecutionException e) {
            throw e.getCause() instanceof RuntimeException cause ? cause : new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("Interrupted while waiting for " + name, e);
        }
    }
}
