package app.schublade.work;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;

/** Work beside its owner's: a few pieces at a time. */
public final class ParallelWork {
    private final Background background;
    private final String name;
    private final int atOnce;
    private final Deque<Future<?>> going = new ArrayDeque<>();

    public ParallelWork(Background background, String name, int atOnce) {
        this.background = background;
        this.name = name;
        this.atOnce = atOnce;
    }

    /** Begins a piece of work, as soon as fewer are going on; throws what an earlier one has failed with. */
    public void begin(Runnable work) {
        while (going.size() >= atOnce) {
            awaitFirst();
        }
        going.add(background.begin(name, () -> {
            work.run();
            return true;
        }));
    }

    /** Waits for the end of all that was begun; throws what the first that failed has failed with. */
    public void join() {
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
