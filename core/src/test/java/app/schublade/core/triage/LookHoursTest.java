package app.schublade.core.triage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.problem.InputProblem;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.Collections;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class LookHoursTest {
    private static final ZoneId LISBON = ZoneId.of("Europe/Lisbon");

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "9, 13:00, 16.30 | 9:00, 13:00, 16:30",
                "16:30;9 ;9:00 | 9:00, 16:30",
                "9 and 4 PM | 9:00, 16:00",
                "12 am, 12 pm, 12.05pm | 0:00, 12:00, 12:05",
                "18 h | 18:00",
                "'' | ''",
                "' , ' | ''"
            })
    void readsTimesAsTheyAreTyped(String typed, String shown) {
        LookHours hours = LookHours.parse(typed);
        assertThat(hours.shown()).isEqualTo(shown);
        assertThat(LookHours.parse(hours.shown())).isEqualTo(hours);
        assertThat(LookHours.ofMinutes(hours.minutes())).isEqualTo(hours);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"24", "9:60", "13 pm", "0 am", "noon", "9-10", "1,2,3,4,5,6,7,8,9,10,11,12,13", "999999999999"})
    void saysWhatIsNoTime(String typed) {
        assertThatThrownBy(() -> LookHours.parse(typed)).isInstanceOf(InputProblem.class);
    }

    /** From any moment, in days of 23, 24 and 25 hours: what is next is ahead, what was last is not, and nothing lies between. */
    @Test
    void nothingLiesBetweenTheLastLookAndTheNext() {
        Random random = new Random(7);
        for (ZoneId zone : new ZoneId[] {LISBON, ZoneId.of("America/New_York"), ZoneId.of("Pacific/Apia")}) {
            for (int round = 0; round < 2_000; round++) {
                LookHours hours = LookHours.ofMinutes(Stream.generate(() -> random.nextInt(24 * 60))
                        .limit(1 + random.nextInt(4))
                        .toList());
                ZonedDateTime now = Instant.parse("2026-01-01T00:00:00Z")
                        .plus(Duration.ofMinutes(random.nextInt(366 * 24 * 60)))
                        .atZone(zone);
                ZonedDateTime last = hours.last(now);
                ZonedDateTime next = hours.next(now);
                assertThat(last).isBeforeOrEqualTo(now);
                assertThat(next).isAfter(now);
                assertThat(hours.next(last)).isEqualTo(next);
                assertThat(hours.last(next)).isEqualTo(next);
                assertThat(Duration.between(last, next)).isLessThanOrEqualTo(Duration.ofHours(25));
            }
        }
    }

    @Test
    void aTimeThatClocksPassOverComesLater() {
        LookHours hours = LookHours.parse("1:30");
        ZonedDateTime night = ZonedDateTime.of(2026, 3, 28, 23, 0, 0, 0, LISBON);
        assertThat(hours.next(night)).isEqualTo(ZonedDateTime.of(2026, 3, 29, 2, 30, 0, 0, LISBON));
        ZonedDateTime autumn = ZonedDateTime.of(2026, 10, 25, 0, 0, 0, 0, LISBON);
        ZonedDateTime first = hours.next(autumn);
        assertThat(hours.next(first)).isEqualTo(first.plusDays(1));
        assertThat(Collections.frequency(hours.times(), first.toLocalTime())).isEqualTo(1);
    }
}
