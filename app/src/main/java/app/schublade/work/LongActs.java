package app.schublade.work;

import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.TakenBack;
import app.schublade.store.base.Transactions;
import app.schublade.store.work.UnfinishedActStore;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Acts that take longer than a page should: done in the background, while the page asks how far they are. */
@Component
public class LongActs {
    /** More messages than these are changed in parts, while the page shows how far it is. */
    public static final int CHUNK = Transactions.MOST;

    /** So many long acts of some users do not keep others waiting. */
    private static final int THREADS = 8;

    private static final int REMEMBERED = 200;
    private static final Logger LOG = LoggerFactory.getLogger(LongActs.class);

    private final Map<String, LongAct> all = new ConcurrentHashMap<>();
    private final UnfinishedActStore unfinished;
    private final ExecutorService executor;

    LongActs(UnfinishedActStore unfinished, Background background) {
        this.unfinished = unfinished;
        executor = background.pool("long-act", THREADS);
    }

    /** What takes long. */
    @FunctionalInterface
    public interface Job {
        ActEnding carryOut(ProgressWatch watch);
    }

    /**
     * What is to be said at the end.
     *
     * @param undoable whether it can be taken back
     * @param problem whether something did not work
     */
    public record ActEnding(String text, boolean undoable, boolean problem) {
        public static ActEnding done(String text) {
            return new ActEnding(text, true, false);
        }

        public static ActEnding told(String text) {
            return new ActEnding(text, false, false);
        }

        static ActEnding problem(String text) {
            return new ActEnding(text, false, true);
        }
    }

    /** Is told how far a job is. */
    @FunctionalInterface
    public interface ProgressWatch {
        void at(int done, int total);
    }

    /** What is done to some of the messages. */
    @FunctionalInterface
    public interface ActPart {
        ActOutcome on(List<Long> messages);
    }

    /**
     * Does an act that was begun in parts, for no transaction should hold very many messages.
     *
     * @param messages those that are left
     * @param before how many were done before
     * @return how many were changed
     */
    public int inParts(long batch, List<Long> messages, int before, ProgressWatch watch, ActPart work) {
        int total = before + messages.size();
        int changed = 0;
        try {
            int done = before;
            for (List<Long> part : Transactions.parts(messages)) {
                watch.at(done, total);
                changed += unfinished
                        .part(batch, part.size(), () -> work.on(part))
                        .changed()
                        .size();
                done += part.size();
            }
        } catch (RuntimeException | Error e) {
            unfinished.standsStill(batch);
            throw e;
        }
        unfinished.end(batch, before == 0 && changed == 0);
        return changed;
    }

    /** How far an act is. */
    public static final class LongAct {
        private final String id;
        private final long userId;
        private final String title;
        private final CountDownLatch end = new CountDownLatch(1);
        private volatile int done;
        private volatile int total;
        private volatile @Nullable ActEnding said;

        LongAct(String id, long userId, String title, int total) {
            this.id = id;
            this.userId = userId;
            this.title = title;
            this.total = total;
        }

        public String id() {
            return id;
        }

        public String title() {
            return title;
        }

        public int done() {
            return done;
        }

        public int total() {
            return total;
        }

        /** What is to be said now that it is over; null while it is not. */
        public @Nullable ActEnding said() {
            return said;
        }

        /** Waits for its end, but not longer. */
        public LongAct await(Duration patience) {
            try {
                end.await(patience.toMillis(), TimeUnit.MILLISECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            return this;
        }

        private void at(int number, int ofAll) {
            done = number;
            total = ofAll;
        }

        private void end(ActEnding ending) {
            said = ending;
            end.countDown();
        }
    }

    /** Begins what other processes know nothing of. */
    public LongAct begin(long userId, String title, int total, Job job) {
        return begin(UUID.randomUUID().toString(), userId, title, total, job);
    }

    /** Begins an act that has a batch, or goes on with it. */
    public LongAct begin(long batch, long userId, String title, int total, Job job) {
        return begin(String.valueOf(batch), userId, title, total, job);
    }

    private LongAct begin(String id, long userId, String title, int total, Job job) {
        if (all.size() > REMEMBERED) {
            all.values().removeIf(one -> one.said() != null);
        }
        LongAct begun = new LongAct(id, userId, title, total);
        all.put(begun.id(), begun);
        executor.execute(() -> carryOut(begun, job));
        return begun;
    }

    private static void carryOut(LongAct progress, Job job) {
        try {
            progress.end(job.carryOut(progress::at));
        } catch (TakenBack e) {
            progress.end(ActEnding.told("%s: undone before it had ended.".formatted(progress.title())));
        } catch (UnfinishedActStore.Stopped e) {
            progress.end(ActEnding.told("%s: stopped after %,d of %,d. Z takes back what was done, H goes on with it."
                    .formatted(progress.title(), progress.done(), progress.total())));
        } catch (InputProblem e) {
            progress.end(ActEnding.problem(String.valueOf(e.getMessage())));
        } catch (RuntimeException | Error e) {
            LOG.error("A long act stopped: {}", progress.title(), e);
            progress.end(ActEnding.problem(
                    "%s: it stopped after %,d of %,d. Z takes back what was done, and H goes on with it."
                            .formatted(progress.title(), progress.done(), progress.total())));
        }
    }

    /** Null if this process knows nothing of it. */
    public @Nullable LongAct progress(long userId, String id) {
        LongAct progress = all.get(id);
        return progress == null || progress.userId != userId ? null : progress;
    }

    @PreDestroy
    void stop() {
        executor.shutdownNow();
    }
}
