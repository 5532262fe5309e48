package app.schublade.work;

import java.time.Duration;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.FutureTask;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.ThreadFactory;
import java.util.concurrent.atomic.AtomicLong;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.scheduling.concurrent.ThreadPoolTaskScheduler;
import org.springframework.stereotype.Component;

/**
 * Everything that is done beside answering pages is done through here: again and again, later, or at length. Whatever work
 * throws, an {@link Error} included, is logged with its trace, and nothing else ends by it.
 */
@Component
public class Background implements DisposableBean {
    private static final Logger LOG = LoggerFactory.getLogger(Background.class);
    private static final int CLOCK_THREADS = 8;

    private final ThreadPoolTaskScheduler clock = new ThreadPoolTaskScheduler();

    public Background() {
        clock.setPoolSize(CLOCK_THREADS);
        clock.setThreadNamePrefix("clock-");
        clock.setDaemon(true);
        clock.setErrorHandler(problem -> LOG.error("Work that is done again and again failed; it goes on", problem));
        clock.initialize();
    }

    /** Does something again and again, with a pause between an end and the next beginning, until it is cancelled. */
    public ScheduledFuture<?> every(String name, Duration pause, Runnable work) {
        return clock.scheduleWithFixedDelay(
                named(name, work), clock.getClock().instant().plus(pause), pause);
    }

    /** Does something once, after a while. */
    public void later(String name, Duration wait, Runnable work) {
        clock.schedule(named(name, work), clock.getClock().instant().plus(wait));
    }

    /** Does something in a thread of its own, for as long as it takes. */
    public Thread start(String name, Runnable work) {
        Thread thread = threads(name).newThread(named(name, work));
        thread.start();
        return thread;
    }

    /** Does something in a thread of its own whose result, or failure, somebody waits for. */
    public <T> Future<T> begin(String name, Callable<T> work) {
        FutureTask<T> task = new FutureTask<>(work);
        threads(name).newThread(task).start();
        return task;
    }

    /** Does so many things at a time, one after the other. Whoever asked for it shuts it down. */
    public ExecutorService pool(String name, int atOnce) {
        return Executors.newFixedThreadPool(atOnce, threads(name));
    }

    private static ThreadFactory threads(String name) {
        AtomicLong count = new AtomicLong();
        return work -> {
            long number = count.incrementAndGet();
            Thread thread = new Thread(work, number == 1 ? name : name + "-" + number);
            thread.setDaemon(true);
            thread.setUncaughtExceptionHandler(
                    (of, problem) -> LOG.error("The thread {} ended", of.getName(), problem));
            return thread;
        };
    }

    private static Runnable named(String name, Runnable work) {
        return () -> {
            try {
                work.run();
            } catch (RuntimeException | Error e) {
                LOG.error("{} failed", name, e);
            }
        };
    }

    @Override
    public void destroy() {
        clock.shutdown();
    }
}
