package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.problem.InputProblem;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class DayTimeTest {
    private static final LocalDateTime NOW = LocalDateTime.of(2026, 11, 30, 15, 0, 30);

    private static DayTime any(Random random) {
        LocalDate day = LocalDate.of(2026, 11, 28).plusDays(random.nextInt(5));
        return new DayTime(day, random.nextInt(3) == 0 ? null : LocalTime.ofSecondOfDay(random.nextInt(86_400)));
    }

    @Test
    void itIsReadAsItIsWritten() {
        Random random = new Random(1);
        for (int i = 0; i < 2000; i++) {
            DayTime one = any(random);
            assertThat(DayTime.parse(one.toString())).isEqualTo(one);
            assertThat(DayTime.parse(" " + one.toString().replace(' ', 'T') + " "))
                    .isEqualTo(one);
        }
    }

    /** What is over has come, what comes later is over later; a day as a whole lasts until its end. */
    @Test
    void whatComesFirstIsOverFirst() {
        Random random = new Random(2);
        List<DayTime> all = new ArrayList<>();
        for (int i = 0; i < 300; i++) {
            all.add(any(random));
        }
        all.sort(null);
        boolean over = true;
        for (DayTime one : all) {
            assertThat(one.isOver(NOW)).as("%s after what is not over", one).isIn(over, false);
            over = one.isOver(NOW);
            assertThat(!over || one.hasCome(NOW)).as("%s", one).isTrue();
        }
        assertThat(DayTime.parse("2026-11-30").hasCome(NOW)).isTrue();
        assertThat(DayTime.parse("2026-11-30").isOver(NOW)).isFalse();
        assertThat(DayTime.parse("2026-11-30 15:00").isOver(NOW)).isTrue();
        assertThat(DayTime.parse("2026-11-30 15:01").hasCome(NOW)).isFalse();
        assertThat(DayTime.parse("2026-12-01 00:00").hasCome(NOW)).isFalse();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"", " ", "tomorrow", "2026-13-01", "2026-12-01  15:00", "2026-12-01 24:30", "1.12.2026", "\0"})
    void whatIsNoDayIsRefusedWithTheWayOut(String text) {
        assertThatThrownBy(() -> DayTime.parse(text))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining("write 2026-12-01, or 2026-12-01 15:00");
        assertThatThrownBy(() -> DayTime.parse("9".repeat(100_000)))
                .isInstanceOf(InputProblem.class)
                .satisfies(problem -> assertThat(problem.getMessage()).hasSizeLessThan(120));
    }
}
