package app.schublade.web.desk;

import jakarta.annotation.PreDestroy;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Acts on so many messages that they take a while. They are carried out a part after the other, each part in a transaction
 * of its own and all of them one batch, so that they can be left running and one undo takes back what was done by then.
 */
@Component
class LongActs {
    /** Messages of one part. */
    static final int CHUNK = 5_000;

    private static final int THREADS = 2;
    private static final int REMEMBERED = 200;
    private static final Logger LOG = LoggerFactory.getLogger(LongActs.class);

    private final Map<String, Progress> all = new ConcurrentHashMap<>();
    private final ExecutorService executor = Executors.newFixedThreadPool(THREADS, task -> {
        Thread thread = new Thread(task, "long-act");
        thread.setDaemon(true);
        return thread;
    });

    /** Whether an act goes on. */
    enum Stage {
        RUNNING,
        DONE,
        STOPPED
    }

    /** How far an act is. */
    public record Progress(String id, long userId, String title, int done, int total, Stage stage) implements HowFar {
        @Override
        public String address() {
            return "/act/" + id;
        }

        Progress after(int messages) {
            return new Progress(id, userId, title, messages, total, stage);
        }

        Progress ended(Stage how) {
            return new Progress(id, userId, title, done, total, how);
        }

        boolean isOver() {
            return stage != Stage.RUNNING;
        }
    }

    /** Begins an act; returns the id to ask for its progress by. */
    String begin(long userId, String title, List<Long> messages, Deeds.Work work) {
        String id = UUID.randomUUID().toString();
        if (all.size() > REMEMBERED) {
            all.values().removeIf(Progress::isOver);
        }
        Progress begun = new Progress(id, userId, title, 0, messages.size(), Stage.RUNNING);
        all.put(id, begun);
        executor.execute(() -> carryOut(begun, messages, work));
        return id;
    }

    private void carryOut(Progress begun, List<Long> messages, Deeds.Work work) {
        Progress progress = begun;
        try {
            long batch = 0;
            for (int from = 0; from < messages.size(); from += CHUNK) {
                List<Long> part = messages.subList(from, Math.min(messages.size(), from + CHUNK));
                batch = Math.max(batch, work.on(begun.title(), part, batch).batch());
                progress = progress.after(from + part.size());
                all.put(begun.id(), progress);
            }
            all.put(begun.id(), progress.ended(Stage.DONE));
        } catch (RuntimeException e) {
            LOG.error("An act on many messages stopped: {}", begun.title(), e);
            all.put(begun.id(), progress.ended(Stage.STOPPED));
        }
    }

    /** Null if this process knows nothing of it. */
    @Nullable
    Progress progress(long userId, String id) {
        Progress progress = all.get(id);
        return progress == null || progress.userId() != userId ? null : progress;
    }

    @PreDestroy
    void stop() {
        executor.shutdownNow();
    }
}
