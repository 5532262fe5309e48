package app.schublade.core.filing;

import app.schublade.core.problem.InputProblem;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Understands addresses, sizes, days and hours as people type them. */
final class TypedValues {
    private static final Pattern ANGLED = Pattern.compile(".*<\\s*([^<>\\s]+@[^<>\\s]+)\\s*>\\s*");
    private static final Pattern SIZE = Pattern.compile(
            "(\\d{1,12})(?:[.,](\\d{1,3}))?\\s*(bytes|byte|b|kb|k|mb|m|gb|g)?", Pattern.CASE_INSENSITIVE);
    private static final Pattern HOURS = Pattern.compile(
            "%1$s\\s*(?:to|until|and|-|–)\\s*%1$s".formatted("(\\d{1,2})(?:[:.](\\d\\d))?\\s*(?:h|o’clock)?"),
            Pattern.CASE_INSENSITIVE);
    private static final Pattern RANGE = Pattern.compile("\\s*(?:\\bto\\b|–|\\s-\\s)\\s*");
    private static final Pattern DAY_MONTH = Pattern.compile("(\\d{1,2})\\.\\s?(\\d{1,2})\\.(?:\\s?(\\d{4}))?");
    private static final Pattern YEAR = Pattern.compile("(?:19|20)\\d\\d");
    private static final int MINUTES = 60;

    private TypedValues() {}

    /**
     * Addresses and domains without what stands around them: {@code "Anna Grebe <anna@wharf.example>"}, several with semicolons
     * between. A name that a comma cut off goes.
     *
     * @param patterns whether {@code *@domain} is something else than the domain
     */
    static List<String> addresses(List<String> values, boolean patterns) {
        List<String> all = new ArrayList<>();
        for (String value : values) {
            for (String piece : value.split(";", -1)) {
                all.add(address(piece.strip(), patterns));
            }
        }
        boolean named = values.stream().anyMatch(value -> value.contains("<"));
        all.removeIf(one -> one.isEmpty() || (named && !one.contains("@") && !one.contains(".")));
        return all;
    }

    private static String address(String typed, boolean patterns) {
        Matcher angled = ANGLED.matcher(typed);
        String address = angled.matches() ? angled.group(1) : typed;
        if (address.regionMatches(true, 0, "mailto:", 0, "mailto:".length())) {
            address = address.substring("mailto:".length());
        }
        return !patterns && address.startsWith("*@") ? address.substring(2) : address;
    }

    /** {@code "2 MB"}, {@code "2,5 MB"}, {@code "1 GB"}: in bytes. */
    static long bytes(String typed) {
        Matcher matcher = SIZE.matcher(typed.strip());
        if (!matcher.matches()) {
            throw new InputProblem("“%s” is not a size; write it like 2 MB or 500 KB.".formatted(typed));
        }
        String unit = matcher.group(3) == null ? "b" : matcher.group(3).toLowerCase(Locale.ROOT);
        double factor = switch (unit.charAt(0)) {
            case 'g' -> 1e9;
            case 'm' -> 1e6;
            case 'k' -> 1e3;
            default -> 1;
        };
        String fraction = matcher.group(2) == null ? "0" : matcher.group(2);
        return Math.round(Double.parseDouble(matcher.group(1) + "." + fraction) * factor);
    }

    /** {@code "18 to 8"}, {@code "7:15-18:00"}. */
    static ReceivedAt hours(String typed) {
        Matcher matcher = HOURS.matcher(typed.strip());
        if (!matcher.matches()) {
            throw new InputProblem(
                    "“%s” is not a time of the day; write it like 18 to 8, or 7:15 to 18:00.".formatted(typed));
        }
        return ReceivedAt.between(
                minute(matcher.group(1), matcher.group(2)), minute(matcher.group(3), matcher.group(4)));
    }

    /** Of a day; out of its bounds where there is no such minute. */
    private static int minute(String hours, @Nullable String minutes) {
        int minute = minutes == null ? 0 : Integer.parseInt(minutes);
        return minute < MINUTES ? Integer.parseInt(hours) * MINUTES + minute : -1;
    }

    /** {@code "Saturday"}, {@code "Mon"}, {@code "Monday to Friday"}, {@code "weekend"}, {@code "working days"}. */
    static Set<DayOfWeek> weekdays(List<String> typed) {
        Set<DayOfWeek> days = EnumSet.noneOf(DayOfWeek.class);
        for (String value : typed) {
            days.addAll(weekdays(value));
        }
        return days;
    }

    private static Set<DayOfWeek> weekdays(String typed) {
        String value = typed.strip().toLowerCase(Locale.ROOT);
        if (value.equals("weekend") || value.equals("the weekend")) {
            return EnumSet.of(DayOfWeek.SATURDAY, DayOfWeek.SUNDAY);
        }
        if (value.equals("working days") || value.equals("weekdays")) {
            return EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY);
        }
        String[] ends = value.split("\\s*(?:\\bto\\b|-|–)\\s*", -1);
        if (ends.length > 2) {
            throw noWeekday(typed);
        }
        Set<DayOfWeek> days = EnumSet.noneOf(DayOfWeek.class);
        DayOfWeek last = weekday(ends[ends.length - 1], typed);
        DayOfWeek day = weekday(ends[0], typed);
        for (; day != last; day = day.plus(1)) {
            days.add(day);
        }
        days.add(last);
        return days;
    }

    private static DayOfWeek weekday(String name, String typed) {
        String start = name.strip().toUpperCase(Locale.ROOT);
        return Arrays.stream(DayOfWeek.values())
                .filter(day -> start.length() >= 2 && (day.name().startsWith(start) || start.equals(day.name() + "S")))
                .findFirst()
                .orElseThrow(() -> noWeekday(typed));
    }

    private static InputProblem noWeekday(String typed) {
        return new InputProblem("“%s” is not a day of the week; write Monday, Tuesday, …".formatted(typed));
    }

    /** {@code "2026-12-20 to 2027-01-06"}, {@code "from 2026"}, {@code "until 1.9.2026"}, {@code "1.9. to 15.10.2026"}, one day, years. */
    static ReceivedAt dates(String typed) {
        String text = typed.strip().toLowerCase(Locale.ROOT);
        try {
            if (text.startsWith("from ") && !RANGE.matcher(text).find()) {
                return received(first(text.substring("from ".length()), null), null);
            }
            if (text.startsWith("until ")) {
                return received(null, last(text.substring("until ".length()), null));
            }
            String[] ends = RANGE.split(text.startsWith("from ") ? text.substring("from ".length()) : text, -1);
            if (ends.length > 2) {
                throw noDates(typed);
            }
            LocalDate last = last(ends[ends.length - 1], null);
            return received(first(ends[0], last), last);
        } catch (DateTimeException e) {
            throw DAY_MONTH.matcher(text).find() || text.matches(".*\\d{4}-\\d\\d-\\d\\d.*")
                    ? new InputProblem("“%s”: there is no such day.".formatted(typed), e)
                    : noDates(typed);
        }
    }

    private static ReceivedAt received(@Nullable LocalDate first, @Nullable LocalDate last) {
        return ReceivedAt.days(first, last);
    }

    private static LocalDate first(String typed, @Nullable LocalDate other) {
        String text = typed.strip();
        return YEAR.matcher(text).matches() ? LocalDate.of(Integer.parseInt(text), 1, 1) : date(text, other);
    }

    private static LocalDate last(String typed, @Nullable LocalDate other) {
        String text = typed.strip();
        return YEAR.matcher(text).matches() ? LocalDate.of(Integer.parseInt(text), 12, 31) : date(text, other);
    }

    /** @param other a date whose year it has if it tells none */
    private static LocalDate date(String text, @Nullable LocalDate other) {
        Matcher matcher = DAY_MONTH.matcher(text);
        if (!matcher.matches()) {
            return LocalDate.parse(text);
        }
        if (matcher.group(3) == null && other == null) {
            throw new DateTimeException("no year");
        }
        int year = matcher.group(3) != null ? Integer.parseInt(matcher.group(3)) : other == null ? 0 : other.getYear();
        LocalDate date = LocalDate.of(year, Integer.parseInt(matcher.group(2)), Integer.parseInt(matcher.group(1)));
        return matcher.group(3) == null && other != null && date.isAfter(other) ? date.minusYears(1) : date;
    }

    private static InputProblem noDates(String typed) {
        return new InputProblem(
                "“%s” are not dates; write 2026-12-20 to 2027-01-06, from 2026-12-20, until 6.1.2027, or 2026."
                        .formatted(typed));
    }
}
