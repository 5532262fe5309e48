package app.schublade.work;

import jakarta.annotation.PreDestroy;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Map;
import java.util.Optional;
import java.util.TimeZone;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import org.jspecify.annotations.Nullable;
import org.springframework.context.i18n.LocaleContextHolder;
import org.springframework.stereotype.Component;

/** The scans that go on, and the last ones that ended. */
@Component
public class Scans {
    private static final int THREADS = 3;
    /** More than these of one user are stopped, the oldest first: nobody looks at them any more. */
    private static final int MOST_OF_ONE = 4;

    private final Map<Long, Deque<Scan<?>>> all = new ConcurrentHashMap<>();
    private final ExecutorService executor;

    Scans(Background background) {
        executor = background.pool("scan", THREADS);
    }

    /**
     * Begins a scan; times that it finds are told in the zone of whoever asks.
     *
     * @param instead of the scan with this id, which is stopped; or null
     */
    public <T> Scan<T> begin(long userId, int total, @Nullable String instead, Scan.Scanning<T> scanning) {
        Scan<T> scan = new Scan<>(userId, total);
        find(userId, instead).ifPresent(Scan::stop);
        all.compute(userId, (user, before) -> {
            Deque<Scan<?>> scans = before == null ? new ArrayDeque<>() : new ArrayDeque<>(before);
            scans.addLast(scan);
            while (scans.size() > MOST_OF_ONE) {
                scans.removeFirst().stop();
            }
            return scans;
        });
        TimeZone zone = LocaleContextHolder.getTimeZone();
        executor.execute(() -> {
            LocaleContextHolder.setTimeZone(zone);
            scan.run(scanning);
        });
        return scan;
    }

    /** Empty if it is of another user, or too long ago, or was begun by another process. */
    public Optional<Scan<?>> find(long userId, @Nullable String id) {
        return all.getOrDefault(userId, new ArrayDeque<>()).stream()
                .filter(scan -> scan.id().equals(id))
                .findFirst();
    }

    @PreDestroy
    void stop() {
        all.values().forEach(scans -> scans.forEach(Scan::stop));
        executor.shutdownNow();
    }
}
