package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AccountWorkerTest {
    /** Twice as long after each failure, up to some minutes; and never the same for all that failed together. */
    @ParameterizedTest
    @CsvSource({"1, 1000", "2, 2000", "5, 16000", "9, 150000", "40, 150000", "2000000000, 150000"})
    void theMoreOftenItFailsTheLongerItWaitsAndNotAsLongAsOthers(int failures, long least) {
        assertThat(Stream.generate(() -> AccountWorker.pause(failures)).limit(200))
                .allMatch(pause -> pause.toMillis() >= least && pause.toMillis() < 2 * least)
                .satisfies(pauses -> assertThat(pauses.stream().distinct()).hasSizeGreaterThan(50))
                .anyMatch(pause -> pause.compareTo(Duration.ofMillis(least * 5 / 4)) < 0)
                .anyMatch(pause -> pause.compareTo(Duration.ofMillis(least * 7 / 4)) > 0);
    }
}
