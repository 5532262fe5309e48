package app.schublade.core.triage;

import app.schublade.core.problem.InputProblem;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * The times of day at which new mail is looked at; in between it waits. Where clocks are put forward over one of them, it comes
 * as much later; where they are put back, it comes once.
 *
 * @param times in order, each once; none where mail is shown as it comes
 */
public record LookHours(List<LocalTime> times) {
    public static final LookHours NONE = new LookHours(List.of());

    private static final int MOST = 12;
    private static final Pattern TIME =
            Pattern.compile("(\\d{1,2})(?:[:.](\\d{2}))?\\s*(am|pm)?(?:\\s*h)?", Pattern.CASE_INSENSITIVE);

    public LookHours {
        times = List.copyOf(new TreeSet<>(times));
    }

    /**
     * Reads times as people type them: {@code "9, 13:00, 4.30 pm"}.
     *
     * @throws InputProblem that names what is no time, or that there are more than twelve
     */
    public static LookHours parse(String text) {
        List<LocalTime> times = Arrays.stream(text.split("[,;]|\\band\\b"))
                .map(String::strip)
                .filter(Predicate.not(String::isEmpty))
                .map(LookHours::time)
                .toList();
        if (times.size() > MOST) {
            throw new InputProblem("%d times a day at most.".formatted(MOST));
        }
        return new LookHours(times);
    }

    /** From minutes after midnight. */
    public static LookHours ofMinutes(Collection<Integer> minutes) {
        return new LookHours(minutes.stream()
                .map(minute -> LocalTime.ofSecondOfDay(minute * 60L))
                .toList());
    }

    /** As minutes after midnight. */
    public List<Integer> minutes() {
        return times.stream().map(time -> time.toSecondOfDay() / 60).toList();
    }

    private static LocalTime time(String text) {
        Matcher parts = TIME.matcher(text);
        if (parts.matches()) {
            int hour = Integer.parseInt(parts.group(1));
            int minute = parts.group(2) == null ? 0 : Integer.parseInt(parts.group(2));
            String half = parts.group(3);
            boolean fits = half == null ? hour < 24 : hour >= 1 && hour <= 12;
            if (fits && minute < 60) {
                int of24 = half == null ? hour : hour % 12 + (half.equalsIgnoreCase("pm") ? 12 : 0);
                return LocalTime.of(of24, minute);
            }
        }
        throw new InputProblem("“%s” is not a time of day; write 9, 13:00 or 4 pm.".formatted(text));
    }

    public boolean isEmpty() {
        return times.isEmpty();
    }

    /** The last look at this moment or before; there must be times. */
    public ZonedDateTime last(ZonedDateTime now) {
        List<ZonedDateTime> passed =
                around(now).filter(look -> !look.isAfter(now)).toList();
        return passed.get(passed.size() - 1);
    }

    /** The first look after this moment; there must be times. */
    public ZonedDateTime next(ZonedDateTime now) {
        return around(now).filter(look -> look.isAfter(now)).findFirst().orElseThrow();
    }

    private Stream<ZonedDateTime> around(ZonedDateTime now) {
        List<ZonedDateTime> looks = new ArrayList<>();
        for (int day = -1; day <= 1; day++) {
            LocalDate date = now.toLocalDate().plusDays(day);
            times.forEach(time -> looks.add(ZonedDateTime.of(date, time, now.getZone())));
        }
        return looks.stream().sorted();
    }

    /** {@code "9:00, 13:00"} */
    public String shown() {
        return times.stream()
                .map(time -> "%d:%02d".formatted(time.getHour(), time.getMinute()))
                .collect(Collectors.joining(", "));
    }
}
