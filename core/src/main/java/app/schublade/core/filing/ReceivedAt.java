package app.schublade.core.filing;

import app.schublade.core.problem.InputProblem;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * When the message arrived, by the user's clock, to the minute. What is left open does not matter.
 *
 * @param first the first day, or null
 * @param last the last day, or null
 * @param days on which days of the week; empty for all
 * @param from from this minute of the day on, from 0 to before {@link #DAY}
 * @param to until before this minute, 1 to {@link #DAY}; if it is not after the first one, until that of the next morning
 */
public record ReceivedAt(
        @Nullable LocalDate first, @Nullable LocalDate last, Set<DayOfWeek> days, int from, int to)
        implements Condition {
    /** The minutes of a day. */
    public static final int DAY = 24 * 60;

    private static final int HOUR = 60;

    public ReceivedAt {
        days = Set.copyOf(days);
        if (from < 0 || from >= DAY || to < 1 || to > DAY) {
            throw new InputProblem("Hours go from 0 to 24, minutes to 59.");
        }
        if (first != null && last != null && last.isBefore(first)) {
            throw new InputProblem("The last day, %s, is before the first, %s.".formatted(last, first));
        }
    }

    /** From one day to another, both included; null for ever. */
    public static ReceivedAt days(@Nullable LocalDate first, @Nullable LocalDate last) {
        return new ReceivedAt(first, last, Set.of(), 0, DAY);
    }

    /** On one of these days of the week. */
    public static ReceivedAt on(Set<DayOfWeek> days) {
        return new ReceivedAt(null, null, days, 0, DAY);
    }

    /** From one minute of the day until before another. */
    public static ReceivedAt between(int from, int to) {
        return new ReceivedAt(null, null, Set.of(), from, to);
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        LocalDateTime received = matter.message().received();
        LocalDate day = received.toLocalDate();
        boolean holds = (first == null || !day.isBefore(first))
                && (last == null || !day.isAfter(last))
                && (days.isEmpty() || days.contains(day.getDayOfWeek()))
                && isWithin(received.getHour() * HOUR + received.getMinute());
        return holds ? "received " + sentenceOfTime() : null;
    }

    boolean isWithin(int minute) {
        return from < to ? minute >= from && minute < to : minute >= from || minute < to;
    }

    /** Whether it matters at what time of the day. */
    public boolean asksForTime() {
        return from != 0 || to != DAY;
    }

    /** As people type it: {@code 18 to 8}, {@code 7:15 to 18:00}. */
    String hours() {
        return from % HOUR == 0 && to % HOUR == 0
                ? "%d to %d".formatted(from / HOUR, to / HOUR)
                : clock(from) + " to " + clock(to);
    }

    private static String clock(int minute) {
        return "%d:%02d".formatted(minute / HOUR, minute % HOUR);
    }

    @Override
    public String sentence() {
        return "received " + sentenceOfTime();
    }

    private String sentenceOfTime() {
        List<String> parts = new ArrayList<>();
        if (first != null && last != null) {
            parts.add("from %s to %s".formatted(first, last));
        } else if (first != null) {
            parts.add("from %s on".formatted(first));
        } else if (last != null) {
            parts.add("until " + last);
        }
        if (!days.isEmpty()) {
            parts.add(new TreeSet<>(days)
                    .stream()
                            .map(day -> day.getDisplayName(TextStyle.FULL, Locale.ENGLISH))
                            .collect(Collectors.joining(" or ", "on ", "")));
        }
        if (asksForTime()) {
            parts.add("between %s and %s".formatted(clock(from), clock(to)));
        }
        return parts.isEmpty() ? "at any time" : String.join(" ", parts);
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.receivedAt(this);
    }
}
