package app.schublade.core.filing;

import app.schublade.core.problem.InputProblem;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** When something must be done about a message: on a date, so many days after it arrived, or on a day that is asked for. */
public sealed interface DueDate {

    /** When that is, for a message that arrived on a day. */
    DayTime after(LocalDate arrival);

    /** Flags with it; if it is not known when the message arrived, only a fixed date can be told. */
    State flag(State state);

    /** As the end of a sentence: {@code "on 2026-12-01"}, {@code "after 5 working days"}. */
    String words();

    /** On that day, at a time of it if one is said. */
    record On(DayTime at) implements DueDate {
        public On(LocalDate day) {
            this(DayTime.on(day));
        }

        @Override
        public DayTime after(LocalDate arrival) {
            return at;
        }

        @Override
        public State flag(State state) {
            return state.due(at);
        }

        @Override
        public String words() {
            return "on " + at;
        }
    }

    /**
     * So many days after the arrival.
     *
     * @param working whether Saturdays and Sundays do not count
     * @param time at which of that day, or null for the day as a whole
     */
    record After(int days, boolean working, @Nullable LocalTime time) implements DueDate {
        private static final Set<DayOfWeek> WEEKEND = Set.of(DayOfWeek.SATURDAY, DayOfWeek.SUNDAY);

        public After(int days, boolean working) {
            this(days, working, null);
        }

        @Override
        public DayTime after(LocalDate arrival) {
            if (!working) {
                return new DayTime(arrival.plusDays(days), time);
            }
            LocalDate date = arrival;
            for (int left = days; left > 0; ) {
                date = date.plusDays(1);
                left -= WEEKEND.contains(date.getDayOfWeek()) ? 0 : 1;
            }
            return new DayTime(date, time);
        }

        @Override
        public State flag(State state) {
            return state.flagged(true);
        }

        @Override
        public String words() {
            String day = days == 0
                    ? SAME_DAY
                    : "after " + days + (working ? " working" : "") + (days == 1 ? " day" : " days");
            return time == null ? day : day + " at " + time;
        }
    }

    /** On a day that is asked for each time; until it is known, it is a flag without a date. */
    record Asked() implements DueDate {
        @Override
        public DayTime after(LocalDate arrival) {
            return DayTime.on(arrival);
        }

        @Override
        public State flag(State state) {
            return state.flagged(true);
        }

        @Override
        public String words() {
            return ASKED;
        }
    }

    /** The day itself on which something arrives, or is done. */
    String SAME_DAY = "the same day";

    /** A day that is asked for. */
    String ASKED = "on a day that you are asked for";

    /** The longest time after which something can be due, in days. */
    int MAX_DAYS = 1000;

    Pattern AFTER = Pattern.compile(
            "(?:(?:the )?(?<same>same day|today)|(?:after\\s+)?(?<days>\\d{1,4})\\s*(?<working>working\\s+)?days?)"
                    + "(?:(?:\\s+at)?\\s+(?<hour>\\d{1,2}):(?<minute>\\d\\d))?");

    /**
     * Reads what a person typed, and what {@link #words} wrote: {@code "3 days"}, {@code "5 working days"},
     * {@code "3 days 15:00"}, {@code "today"}, {@code "2026-12-01"}, {@code "2026-12-01 15:00"}, {@code "ask"}.
     *
     * @throws InputProblem with a sentence for the user if it is none of these
     */
    static DueDate parse(String typed) {
        String text = typed.strip();
        if (text.equals(ASKED) || text.equalsIgnoreCase("ask")) {
            return new Asked();
        }
        Matcher after = AFTER.matcher(text.toLowerCase(Locale.ROOT));
        if (after.matches() && (after.group("days") == null || Integer.parseInt(after.group("days")) <= MAX_DAYS)) {
            String days = after.group("days");
            return new After(
                    days == null ? 0 : Integer.parseInt(days), after.group("working") != null, time(after, text));
        }
        try {
            return new On(DayTime.parse(text.startsWith("on ") ? text.substring(3) : text));
        } catch (InputProblem e) {
            throw new InputProblem(
                    "“%s” is not a due date; write 3 days, 5 working days (up to %,d), 3 days 15:00, 2026-12-01, or 2026-12-01 15:00."
                            .formatted(text, MAX_DAYS),
                    e);
        }
    }

    private static @Nullable LocalTime time(Matcher after, String text) {
        if (after.group("hour") == null) {
            return null;
        }
        try {
            return LocalTime.of(Integer.parseInt(after.group("hour")), Integer.parseInt(after.group("minute")));
        } catch (DateTimeException e) {
            throw new InputProblem(
                    "“%s” has no such time of day; write 3 days, 5 working days, or 3 days 15:00.".formatted(text), e);
        }
    }
}
