package app.schublade.testing;

import java.time.Duration;
import java.util.concurrent.Callable;

/** Waits for a state, never for a time. */
public final class Await {
    private static final Duration PATIENCE = Duration.ofSeconds(30);

    private Await() {}

    /** Returns as soon as the condition holds; fails with what was waited for when patience ends. */
    public static void until(String what, Callable<Boolean> condition) {
        long end = System.nanoTime() + PATIENCE.toNanos();
        try {
            while (!condition.call()) {
                if (System.nanoTime() > end) {
                    throw new AssertionError("Waited in vain: " + what);
                }
                Thread.sleep(20);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new AssertionError("Interrupted while waiting: " + what, e);
        } catch (Exception e) {
            throw new AssertionError("Waiting failed: " + what, e);
        }
    }
}
