package app.schublade.core.format;

import biweekly.component.ICalComponent;
import biweekly.component.Observance;
import biweekly.property.RecurrenceRule;
import biweekly.property.UtcOffsetProperty;
import biweekly.util.ByDay;
import biweekly.util.DateTimeComponents;
import biweekly.util.Frequency;
import biweekly.util.ICalDate;
import biweekly.util.Recurrence;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.temporal.TemporalAdjusters;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The offset of a time zone that a calendar describes (RFC 5545, section 3.6.5), for one time. Each of its rules is asked for two
 * years only, and only if it is one of a day in every year: whoever follows a rule that others wrote can be kept busy for ever.
 */
final class EventZone {
    private EventZone() {}

    /** Null where the zone says nothing that can be used. */
    static @Nullable ZoneOffset offset(List<ICalComponent> observances, LocalDateTime local) {
        LocalDateTime latest = null;
        ZoneOffset offset = null;
        for (ICalComponent one : observances) {
            if (!(one instanceof Observance observance)) {
                continue;
            }
            LocalDateTime onset = onsetBefore(observance, local);
            ZoneOffset to = offset(observance.getTimezoneOffsetTo());
            if (onset != null && to != null && (latest == null || onset.isAfter(latest))) {
                latest = onset;
                offset = to;
            }
        }
        return offset;
    }

    private static @Nullable ZoneOffset offset(@Nullable UtcOffsetProperty property) {
        try {
            return property == null || property.getValue() == null
                    ? null
                    : ZoneOffset.ofTotalSeconds((int) (property.getValue().getMillis() / 1000));
        } catch (DateTimeException e) {
            return null; // More than 18 hours.
        }
    }

    private static @Nullable LocalDateTime onsetBefore(Observance observance, LocalDateTime local) {
        ICalDate value = observance.getDateStart() == null
                ? null
                : observance.getDateStart().getValue();
        LocalDateTime start = value == null ? null : local(value.getRawComponents());
        if (start == null || start.isAfter(local)) {
            return null;
        }
        RecurrenceRule property = observance.getRecurrenceRule();
        Recurrence rule = property == null ? null : property.getValue();
        if (rule == null || rule.getFrequency() != Frequency.YEARLY) {
            return start;
        }
        LocalDateTime thisYear = inYear(rule, start, local.getYear());
        LocalDateTime onset = thisYear.isAfter(local) ? inYear(rule, start, local.getYear() - 1) : thisYear;
        LocalDateTime until =
                rule.getUntil() == null ? null : local(rule.getUntil().getRawComponents());
        return until != null && onset.isAfter(until) ? inYear(rule, start, until.getYear()) : onset;
    }

    /** When a rule such as “the last Sunday of March” holds in a year. */
    private static LocalDateTime inYear(Recurrence rule, LocalDateTime start, int year) {
        int month = rule.getByMonth().isEmpty()
                ? start.getMonthValue()
                : rule.getByMonth().get(0);
        if (rule.getByDay().isEmpty()) {
            int day = rule.getByMonthDay().isEmpty()
                    ? start.getDayOfMonth()
                    : rule.getByMonthDay().get(0);
            return LocalDate.of(year, month, 1).plusDays(day - 1L).atTime(start.toLocalTime());
        }
        ByDay wanted = rule.getByDay().get(0);
        DayOfWeek weekday = DayOfWeek.valueOf(wanted.getDay().name());
        Integer number = wanted.getNum();
        LocalDate day = number != null
                ? LocalDate.of(year, month, 1).with(TemporalAdjusters.dayOfWeekInMonth(number, weekday))
                : LocalDate.of(year, month, 1)
                        .plusDays(
                                rule.getByMonthDay().isEmpty()
                                        ? 0
                                        : rule.getByMonthDay().get(0) - 1L)
                        .with(TemporalAdjusters.nextOrSame(weekday));
        return day.atTime(start.toLocalTime());
    }

    static @Nullable LocalDateTime local(@Nullable DateTimeComponents raw) {
        return raw == null
                ? null
                : LocalDateTime.of(
                        raw.getYear(), raw.getMonth(), raw.getDate(), raw.getHour(), raw.getMinute(), raw.getSecond());
    }
}
