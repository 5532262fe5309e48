package app.schublade.core.filing;

import app.schublade.core.problem.InputProblem;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * A day, and a time of it where one is said, as the user's clock shows it.
 *
 * @param time to the minute; null if the day is meant as a whole
 */
public record DayTime(LocalDate day, @Nullable LocalTime time) implements Comparable<DayTime> {
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.ROOT);
    private static final DateTimeFormatter TYPED = DateTimeFormatter.ofPattern("H:mm[:ss]", Locale.ROOT);
    /** A day as a whole ends after all of its times. */
    private static final Comparator<DayTime> ORDER = Comparator.comparing(DayTime::day)
            .thenComparing(DayTime::time, Comparator.nullsLast(Comparator.naturalOrder()));

    public DayTime {
        time = time == null ? null : time.truncatedTo(ChronoUnit.MINUTES);
    }

    /** A day as a whole. */
    public static DayTime on(LocalDate day) {
        return new DayTime(day, null);
    }

    /** That day and time, or null if there is no day. */
    public static @Nullable DayTime of(@Nullable LocalDate day, @Nullable LocalTime time) {
        return day == null ? null : new DayTime(day, time);
    }

    /**
     * Reads what {@link #toString} wrote, and what a page sends: {@code 2026-12-01}, {@code 2026-12-01 9:00},
     * {@code 2026-12-01T15:00}.
     *
     * @throws InputProblem if it is none of these
     */
    public static DayTime parse(String text) {
        String[] parts = text.strip().split("[ T]", 2);
        try {
            return new DayTime(LocalDate.parse(parts[0]), parts.length == 1 ? null : LocalTime.parse(parts[1], TYPED));
        } catch (DateTimeParseException e) {
            String shown = text.substring(0, Math.min(text.length(), 40));
            throw new InputProblem("“%s” is not a day; write 2026-12-01, or 2026-12-01 15:00.".formatted(shown), e);
        }
    }

    /** Whether it has come: the day has begun, or its time is there. */
    public boolean hasCome(LocalDateTime now) {
        return time == null
                ? !day.isAfter(now.toLocalDate())
                : !day.atTime(time).isAfter(now);
    }

    /** Whether it is over: the day has ended, or its time was there. */
    public boolean isOver(LocalDateTime now) {
        return time == null ? day.isBefore(now.toLocalDate()) : hasCome(now);
    }

    @Override
    public int compareTo(DayTime other) {
        return ORDER.compare(this, other);
    }

    /** {@code 2026-12-01}, or {@code 2026-12-01 15:00}. */
    @Override
    public String toString() {
        return time == null ? day.toString() : day + " " + TIME.format(time);
    }
}
