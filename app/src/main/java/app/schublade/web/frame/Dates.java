package app.schublade.web.frame;

import app.schublade.core.filing.DayTime;
import app.schublade.core.problem.InputProblem;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.springframework.context.i18n.LocaleContextHolder;
import org.springframework.context.i18n.TimeZoneAwareLocaleContext;
import org.springframework.stereotype.Component;

/** Dates as people say them. */
@Component("dates")
public class Dates {
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter WEEKDAY = DateTimeFormatter.ofPattern("EEE", Locale.ENGLISH);
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM", Locale.ENGLISH);
    private static final DateTimeFormatter YEAR = DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);
    private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("MMMM yyyy", Locale.ENGLISH);
    private static final DateTimeFormatter LONG_DAY = DateTimeFormatter.ofPattern("EEEE d MMMM yyyy", Locale.ENGLISH);
    private static final DateTimeFormatter EXACT =
            DateTimeFormatter.ofPattern("EEEE d MMMM yyyy, HH:mm", Locale.ENGLISH);

    private static final String IN_AN_HOUR = "in an hour";
    private static final String TOMORROW = "tomorrow";

    private final Clock clock;

    private static final LocalTime MORNING = LocalTime.of(8, 0);
    private static final LocalTime EVENING = LocalTime.of(20, 0);

    public Dates(Clock clock) {
        this.clock = clock;
    }

    public Instant now() {
        return clock.instant();
    }

    /** As short as can be understood today: {@code 09:12}, {@code Mon}, {@code 12 Nov}, {@code 12 Nov 2024}. */
    public String brief(Instant instant) {
        ZonedDateTime time = instant.atZone(zone());
        LocalDate today = today();
        long days = ChronoUnit.DAYS.between(time.toLocalDate(), today);
        if (days == 0) {
            return TIME.format(time);
        }
        if (days > 0 && days < 7) {
            return WEEKDAY.format(time);
        }
        return (time.getYear() == today.getYear() ? DAY : YEAR).format(time);
    }

    /** Brief, with the time of day for the last week: {@code today, 09:12}, {@code Mon, 17:40}. */
    public String spoken(Instant instant) {
        ZonedDateTime time = instant.atZone(zone());
        long days = ChronoUnit.DAYS.between(time.toLocalDate(), today());
        String day = days == 0 ? "today" : days == 1 ? "yesterday" : brief(instant);
        return day + ", " + TIME.format(time);
    }

    /** A time of day; with the day if it is not today: {@code 09:12}, {@code Mon, 17:40}. */
    public String time(Instant instant) {
        ZonedDateTime time = instant.atZone(zone());
        boolean today = time.toLocalDate().equals(today());
        return (today ? "" : brief(instant) + ", ") + TIME.format(time);
    }

    /** A time that is ahead, within a sentence: {@code at 13:00}, {@code tomorrow at 09:00}. */
    public String look(ZonedDateTime time) {
        LocalDate day = time.toLocalDate();
        return (day.equals(today()) ? "at " : due(day) + " at ") + TIME.format(time);
    }

    /** The time of day alone: {@code 09:12}. */
    public String clock(Instant instant) {
        return clock(local(instant));
    }

    /** A day as a heading: {@code Today}, {@code Monday 23 November 2026}. */
    public String day(Instant instant) {
        LocalDate day = dayOf(instant);
        long days = ChronoUnit.DAYS.between(day, today());
        return days == 0 ? "Today" : days == 1 ? "Yesterday" : LONG_DAY.format(day);
    }

    public String exact(Instant instant) {
        return exact(local(instant));
    }

    /** To the minute: {@code Monday 23 November 2026, 09:12}. */
    public String exact(LocalDateTime time) {
        return EXACT.format(time);
    }

    /** The time of day alone: {@code 09:12}. */
    public String clock(LocalDateTime time) {
        return TIME.format(time);
    }

    /** {@code Monday 23 November 2026}. */
    public String longDay(LocalDate day) {
        return LONG_DAY.format(day);
    }

    /** What the reader's clock shows then. */
    public LocalDateTime local(Instant instant) {
        return LocalDateTime.ofInstant(instant, zone());
    }

    /** The heading that a list puts over messages of that time. */
    public String heading(Instant instant) {
        LocalDate day = dayOf(instant);
        long days = ChronoUnit.DAYS.between(day, today());
        if (days <= 0) {
            return "Today";
        }
        return days == 1 ? "Yesterday" : days < 7 ? "Last seven days" : MONTH.format(day);
    }

    /** A day until which something must be done: {@code today}, {@code tomorrow}, {@code Mon}, {@code 12 Nov}. */
    public String due(LocalDate day) {
        LocalDate today = today();
        long days = ChronoUnit.DAYS.between(today, day);
        if (days >= -1 && days <= 1) {
            return days == 0 ? "today" : days == 1 ? "tomorrow" : "yesterday";
        }
        if (days > 0 && days < 7) {
            return WEEKDAY.format(day);
        }
        return (day.getYear() == today.getYear() ? DAY : YEAR).format(day);
    }

    /** The same with the time, if one is said: {@code today 15:00}. */
    public String due(DayTime at) {
        LocalTime time = at.time();
        return due(at.day()) + (time == null ? "" : " " + TIME.format(time));
    }

    /**
     * A time that a page asks for: {@code in an hour} and {@code tomorrow 15:00} count from when it asks, however long ago the
     * page was made; everything else is as {@link DayTime#parse} reads it.
     *
     * @throws InputProblem if it is none of these
     */
    public DayTime when(String asked) {
        if (asked.equals(IN_AN_HOUR)) {
            LocalDateTime then = local(clock.instant()).plusHours(1);
            return new DayTime(then.toLocalDate(), then.toLocalTime());
        }
        return DayTime.parse(
                asked.startsWith(TOMORROW) ? today().plusDays(1) + asked.substring(TOMORROW.length()) : asked);
    }

    public boolean isOver(DayTime at) {
        return at.isOver(local(clock.instant()));
    }

    /** The heading that a list puts over what is due then. */
    public String dueHeading(DayTime at) {
        return isOver(at) ? "Overdue" : heading("Due", at.day());
    }

    /** The heading that the tickler puts over what comes back then. */
    public String backHeading(DayTime at) {
        return at.hasCome(local(clock.instant())) ? "Back in the Inbox" : heading("Back", at.day());
    }

    private String heading(String word, LocalDate day) {
        long days = ChronoUnit.DAYS.between(today(), day);
        return word + (days == 0 ? " today" : days == 1 ? " tomorrow" : days < 7 ? " within a week" : " later");
    }

    /** The day that it is where the reader is. */
    public LocalDate today() {
        return dayOf(clock.instant());
    }

    /** The day of a time, where the reader is. */
    public LocalDate dayOf(Instant instant) {
        return instant.atZone(zone()).toLocalDate();
    }

    /** The reader's, if somebody reads; that of this machine else. */
    private ZoneId zone() {
        return LocaleContextHolder.getLocaleContext() instanceof TimeZoneAwareLocaleContext reader
                        && reader.getTimeZone() != null
                ? reader.getTimeZone().toZoneId()
                : clock.getZone();
    }

    /** When it is what a clock shows where the reader is; an hour that is left out in spring is the next one. */
    public Instant instant(LocalDateTime time) {
        return time.atZone(zone()).toInstant();
    }

    /**
     * A time to come that one often means.
     *
     * @param at as the page sends it
     */
    public record TimeChoice(String name, String date, LocalDateTime at) {}

    /** Evenings and mornings to come, the soonest first. */
    public List<TimeChoice> laterChoices() {
        LocalDateTime now = local(clock.instant());
        LocalDate today = now.toLocalDate();
        Map<String, LocalDateTime> times = new LinkedHashMap<>();
        times.put("Tonight", today.atTime(EVENING));
        times.put("Tomorrow morning", today.plusDays(1).atTime(MORNING));
        times.put(
                "Monday morning",
                today.with(TemporalAdjusters.next(DayOfWeek.MONDAY)).atTime(MORNING));
        return times.entrySet().stream()
                .filter(entry -> entry.getValue().isAfter(now))
                .map(entry -> new TimeChoice(
                        entry.getKey(),
                        WEEKDAY.format(entry.getValue()) + " " + DAY.format(entry.getValue()) + ", "
                                + TIME.format(entry.getValue()),
                        entry.getValue()))
                .toList();
    }

    /** A day that one often means, or a time of it. */
    public record DueChoice(String name, String date, DayTime day) {}

    /**
     * Days that something is often due on, the soonest first; and the user's own.
     *
     * @param own by their names
     */
    public List<DueChoice> dueChoices(Map<String, DayTime> own) {
        LocalDate today = today();
        Map<String, LocalDate> days = new LinkedHashMap<>();
        days.put("Today", today);
        days.put("Tomorrow", today.plusDays(1));
        LocalDate friday = today.with(TemporalAdjusters.nextOrSame(DayOfWeek.FRIDAY));
        boolean thisWeek = today.getDayOfWeek().compareTo(DayOfWeek.FRIDAY) <= 0;
        days.put(thisWeek ? "This Friday" : "Next Friday", friday);
        days.put("Next Monday", today.with(TemporalAdjusters.next(DayOfWeek.MONDAY)));
        days.put("In two weeks", today.plusWeeks(2));
        Set<LocalDate> named = new HashSet<>();
        days.values().removeIf(day -> !named.add(day));
        Map<String, DayTime> all = new LinkedHashMap<>();
        days.forEach((name, day) -> all.put(name, DayTime.on(day)));
        all.putAll(own);
        return all.entrySet().stream()
                .map(entry -> new DueChoice(entry.getKey(), shortly(entry.getValue()), entry.getValue()))
                .toList();
    }

    /** {@code "Sat 5 Dec, 09:00"}. */
    private static String shortly(DayTime at) {
        String day = WEEKDAY.format(at.day()) + " " + DAY.format(at.day());
        LocalTime time = at.time();
        return time == null ? day : day + ", " + TIME.format(time);
    }
}
