package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.problem.InputProblem;
import java.time.LocalDate;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class DueDateTest {
    /** Arrived on a Wednesday. */
    private static final LocalDate ARRIVAL = LocalDate.of(2026, 11, 25);

    @ParameterizedTest
    @CsvSource({
        "0 days, 2026-11-25, the same day",
        "the same day, 2026-11-25, the same day",
        "today, 2026-11-25, the same day",
        "1 day, 2026-11-26, after 1 day",
        "after 10 days, 2026-12-05, after 10 days",
        "2 working days, 2026-11-27, after 2 working days",
        "3 working days, 2026-11-30, after 3 working days",
        "after 8 working days, 2026-12-07, after 8 working days",
        "3 days 15:00, 2026-11-28 15:00, after 3 days at 15:00",
        "after 3 days at 15:00, 2026-11-28 15:00, after 3 days at 15:00",
        "2 working days 8:05, 2026-11-27 08:05, after 2 working days at 08:05",
        "today 18:00, 2026-11-25 18:00, the same day at 18:00",
        "2026-12-24, 2026-12-24, on 2026-12-24",
        "on 2026-12-24, 2026-12-24, on 2026-12-24",
        "2026-12-24 9:05, 2026-12-24 09:05, on 2026-12-24 09:05",
        "on 2026-12-24 15:00, 2026-12-24 15:00, on 2026-12-24 15:00"
    })
    void datesAreReadCountedAndWritten(String typed, String date, String words) {
        DueDate due = DueDate.parse(typed);
        assertThat(due.after(ARRIVAL)).hasToString(date);
        assertThat(due.words()).isEqualTo(words);
        assertThat(DueDate.parse(words)).isEqualTo(due);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "soon",
                "1001 days",
                "99999 days",
                "2026-02-30",
                "-3 days",
                "2026-12-24 25:00",
                "2026-12-24 noon",
                "15:00",
                "3 days 25:00",
                "3 days noon"
            })
    void whatIsNoDateIsRefusedWithTheWayOut(String typed) {
        assertThatThrownBy(() -> DueDate.parse(typed))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining("write 3 days, 5 working days");
    }

    @Test
    void aDayThatIsAskedForIsNoneUntilItIsKnown() {
        Effect due = new Effect.Due(DueDate.parse("ask"));
        assertThat(DueDate.parse(DueDate.parse("Ask").words())).isEqualTo(new DueDate.Asked());
        assertThat(due.asksForDay()).isTrue();
        Effect known = due.onDay(DayTime.parse("2026-12-24 15:00"));
        assertThat(known.asksForDay()).isFalse();
        assertThat(known.arriving(ARRIVAL).sentence()).isEqualTo("flag, due on 2026-12-24 15:00");
        Effect other = new Effect.Due(DueDate.parse("3 days"));
        assertThat(other.onDay(DayTime.parse("2026-12-24"))).isEqualTo(other);
    }

    @Test
    void aRuleCountsFromTheDayOfArrival() {
        Effect due = new Effect.Due(DueDate.parse("3 working days"));
        State state = due.arriving(ARRIVAL).on(new State(1, true, false, null, Set.of()));
        assertThat(state.flagged()).isTrue();
        assertThat(state.due()).hasToString("2026-11-30");
        assertThat(due.sentence()).isEqualTo("flag, due after 3 working days");
    }
}
