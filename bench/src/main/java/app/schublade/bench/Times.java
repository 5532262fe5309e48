package app.schublade.bench;

import java.util.ArrayList;
import java.util.List;

/** Durations in nanoseconds, told as milliseconds. */
final class Times {
    private final List<Long> nanos = new ArrayList<>();

    void add(long one) {
        nanos.add(one);
    }

    double millis(double quantile) {
        List<Long> sorted = nanos.stream().sorted().toList();
        return sorted.get((int) Math.min(sorted.size() - 1L, Math.round(quantile * (sorted.size() - 1)))) / 1e6;
    }

    @Override
    public String toString() {
        return "median %.1f ms, p95 %.1f ms, longest %.1f ms (%d times)"
                .formatted(millis(0.5), millis(0.95), millis(1), nanos.size());
    }
}
