package app.schublade.sync;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import org.jspecify.annotations.Nullable;

/** Work beside its owner's: a few pieces at a time. */
final class Sideline {
    private final String name;
    private final int atOnce;
    private final Deque<FutureTask<@Nullable Void>> going = new ArrayDeque<>();

    Sideline(String name, int atOnce) {
        this.name = name;
        this.atOnce = atOnce;
    }

    /** Begins a piece of work, as soon as fewer are going on; throws what an earlier one has failed with. */
    void begin(Runnable work) {
        while (going.size() >= atOnce) {
            awaitFirst();
        }
        FutureTask<@Nullable Void> next = new FutureTask<>(work, null);
        Thread thread = new Thread(next, name);
        thread.setDaemon(true);
        thread.start();
        going.add(next);
    }

    /** Waits for the end of all that was begun; throws what the first that failed has failed with. */
    void join() {
        RuntimeException first = null;
        while (!going.isEmpty()) {
            try {
                awaitFirst();
            } catch (RuntimeException e) {
                first = first == null ? e : first;
            }
        }
        if (first != null) {
            throw first;
        }
    }

    private void awaitFirst() {
        try {
            going.remove().get();
        } catch (ExecutionException e) {
            throw e.getCause() instanceof RuntimeException cause ? cause : new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("Interrupted while waiting for " + name, e);
        }
    }
}
