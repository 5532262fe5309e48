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
 * When the message arrived, by the user's clock. What is left open does not matter.
 *
 * @param first the first day, or null
 * @param last the last day, or null
 * @param days on which days of the week; empty for all
 * @param fromHour from this hour on, 0 to 23
 * @param toHour until this hour, 1 to 24; if it is not after the first one, until that hour of the next morning
 */
public record ReceivedAt(
        @Nullable LocalDate first, @Nullable LocalDate last, Set<DayOfWeek> days, int fromHour, int toHour)
        implements Condition {
    private static final int DAY = 24;

    public ReceivedAt {
        days = Set.copyOf(days);
        if (fromHour < 0 || fromHour >= DAY || toHour < 1 || toHour > DAY) {
            throw new InputProblem("Hours go from 0 to 24.");
        }
        if (first != null && last != null && last.isBefore(first)) {
            throw new InputProblem("The last day, %s, is before the first, %s.".formatted(last, first));
        }
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        LocalDateTime received = matter.message().received();
        LocalDate day = received.toLocalDate();
        boolean holds = (first == null || !day.isBefore(first))
                && (last == null || !day.isAfter(last))
                && (days.isEmpty() || days.contains(day.getDayOfWeek()))
                && isWithin(received.getHour());
        return holds ? "received " + sentenceOfTime() : null;
    }

    boolean isWithin(int hour) {
        return fromHour < toHour ? hour >= fromHour && hour < toHour : hour >= fromHour || hour < toHour;
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
        if (fromHour != 0 || toHour != DAY) {
            parts.add("between %d:00 and %d:00".formatted(fromHour, toHour));
        }
        return parts.isEmpty() ? "at any time" : String.join(" ", parts);
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.receivedAt(this);
    }
}
