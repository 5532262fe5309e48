package app.schublade.core.filing;

import app.schublade.core.problem.InputProblem;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** When something must be done about a message: on a date, or so many days after it arrived. */
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
     */
    record After(int days, boolean working) implements DueDate {
        private static final Set<DayOfWeek> WEEKEND = Set.of(DayOfWeek.SATURDAY, DayOfWeek.SUNDAY);

        @Override
        public DayTime after(LocalDate arrival) {
            if (!working) {
                return DayTime.on(arrival.plusDays(days));
            }
            LocalDate date = arrival;
            for (int left = days; left > 0; ) {
                date = date.plusDays(1);
                left -= WEEKEND.contains(date.getDayOfWeek()) ? 0 : 1;
            }
            return DayTime.on(date);
        }

        @Override
        public State flag(State state) {
            return state.flagged(true);
        }

        @Override
        public String words() {
            if (days == 0) {
                return SAME_DAY;
            }
            return "after " + days + (working ? " working" : "") + (days == 1 ? " day" : " days");
        }
    }

    /** The day itself on which something arrives, or is done. */
    String SAME_DAY = "the same day";

    /** The longest time after which something can be due, in days. */
    int MAX_DAYS = 1000;

    Pattern AFTER = Pattern.compile("(?:after\\s+)?(\\d{1,4})\\s*(working\\s+)?days?");

    /**
     * Reads what a person typed, and what {@link #words} wrote: {@code "3 days"}, {@code "5 working days"}, {@code "2026-12-01"},
     * {@code "2026-12-01 15:00"}.
     *
     * @throws InputProblem with a sentence for the user if it is none of these
     */
    static DueDate parse(String typed) {
        String text = typed.strip();
        if (text.equals(SAME_DAY) || text.equalsIgnoreCase("today")) {
            return new After(0, false);
        }
        Matcher after = AFTER.matcher(text);
        if (after.matches() && Integer.parseInt(after.group(1)) <= MAX_DAYS) {
            return new After(Integer.parseInt(after.group(1)), after.group(2) != null);
        }
        try {
            return new On(DayTime.parse(text.startsWith("on ") ? text.substring(3) : text));
        } catch (InputProblem e) {
            throw new InputProblem(
                    "“%s” is not a due date; write 3 days, 5 working days (up to %,d), 2026-12-01, or 2026-12-01 15:00."
                            .formatted(text, MAX_DAYS),
                    e);
        }
    }
}
