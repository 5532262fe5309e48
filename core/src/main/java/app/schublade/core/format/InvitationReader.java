package app.schublade.core.format;

import app.schublade.core.message.Address;
import biweekly.ICalendar;
import biweekly.component.RawComponent;
import biweekly.component.VEvent;
import biweekly.io.TimezoneAssignment;
import biweekly.io.scribe.component.ICalComponentScribe;
import biweekly.io.text.ICalReader;
import biweekly.parameter.ParticipationStatus;
import biweekly.property.Attendee;
import biweekly.property.DateOrDateTimeProperty;
import biweekly.property.DurationProperty;
import biweekly.property.Method;
import biweekly.property.Organizer;
import biweekly.property.RecurrenceRule;
import biweekly.property.TextProperty;
import biweekly.property.TimezoneId;
import biweekly.util.DateTimeComponents;
import biweekly.util.Frequency;
import biweekly.util.ICalDate;
import biweekly.util.Recurrence;
import com.google.re2j.Pattern;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TimeZone;
import org.jspecify.annotations.Nullable;

/** Reads what a calendar part says of its first event. Nothing is computed from rules of recurrence but words. */
final class InvitationReader {
    /** Of a longer calendar the beginning is read. */
    static final int MOST_CHARS = 256 * 1024;

    private static final int MOST_INVITED = 200;
    private static final int LONGEST = 500;
    private static final String TIME_ZONE = "VTIMEZONE";
    private static final Pattern METHOD = Pattern.compile("(?im)^METHOD:");

    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMMM yyyy", Locale.ENGLISH);

    private InvitationReader() {}

    /** Whether a calendar is about an invitation, and not just a file. */
    static boolean saysMethod(String calendar) {
        return METHOD.matcher(calendar).find();
    }

    /** Empty if there is no event in it. */
    static Optional<Invitation> read(String calendar) {
        try (ICalReader reader = new ICalReader(MimeReader.limit(calendar, MOST_CHARS))) {
            reader.setDefaultTimezone(TimeZone.getTimeZone("UTC"));
            reader.registerScribe(new TimeZoneAsItStands());
            ICalendar read = reader.readNext();
            return read == null || read.getEvents().isEmpty() ? Optional.empty() : Optional.of(invitation(read));
        } catch (IOException | RuntimeException | AssertionError | StackOverflowError e) {
            return Optional.empty(); // The library throws unchecked errors on some broken calendars.
        }
    }

    /** A time zone as it is written. By itself the library follows its rules, for ever if they say so. */
    private static final class TimeZoneAsItStands extends ICalComponentScribe<RawComponent> {
        TimeZoneAsItStands() {
            super(RawComponent.class, TIME_ZONE);
        }

        @Override
        protected RawComponent _newInstance() {
            return new RawComponent(TIME_ZONE);
        }
    }

    private static Invitation invitation(ICalendar calendar) {
        VEvent event = calendar.getEvents().get(0);
        Invitation.Kind kind = kind(calendar.getMethod(), event);
        List<Attendee> attendees =
                event.getAttendees().stream().limit(MOST_INVITED).toList();
        return new Invitation(
                kind,
                text(event.getSummary()),
                time(event.getDateStart(), calendar, false),
                end(event, calendar),
                text(event.getLocation()),
                organizer(event.getOrganizer()),
                attendees.stream()
                        .map(one -> address(one.getCommonName(), one.getEmail(), one.getUri()))
                        .toList(),
                kind == Invitation.Kind.ANSWER && !attendees.isEmpty() ? answer(attendees.get(0)) : "",
                repeats(event.getRecurrenceRule()),
                calendar.getEvents().size() - 1);
    }

    private static Invitation.Kind kind(@Nullable Method method, VEvent event) {
        if (method == null) {
            return Invitation.Kind.ENTRY;
        }
        if (method.isCancel() || (event.getStatus() != null && event.getStatus().isCancelled())) {
            return Invitation.Kind.CANCELLATION;
        }
        if (method.isReply()) {
            return Invitation.Kind.ANSWER;
        }
        return method.isCounter()
                ? Invitation.Kind.OTHER_TIME_WANTED
                : method.isRequest() ? Invitation.Kind.REQUEST : Invitation.Kind.ENTRY;
    }

    private static String text(@Nullable TextProperty property) {
        String value = property == null ? null : property.getValue();
        return value == null
                ? ""
                : MimeReader.limit(
                        value.replace("\0", "").replaceAll("\\s+", " ").strip(), LONGEST);
    }

    private static Invitation.@Nullable EventTime time(
            @Nullable DateOrDateTimeProperty property, ICalendar calendar, boolean isEnd) {
        ICalDate value = property == null ? null : property.getValue();
        DateTimeComponents raw = value == null ? null : value.getRawComponents();
        if (property == null || value == null || raw == null) {
            return null;
        }
        if (!value.hasTime()) {
            LocalDate day = LocalDate.of(raw.getYear(), raw.getMonth(), raw.getDate());
            return new Invitation.EventTime(day.minusDays(isEnd ? 1 : 0).atStartOfDay(), null, true);
        }
        LocalDateTime local = EventZone.local(raw);
        return local == null ? null : new Invitation.EventTime(local, instant(property, raw, local, calendar), false);
    }

    /** Null for a time that is so wherever one is, and in a zone that nobody knows. */
    private static @Nullable Instant instant(
            DateOrDateTimeProperty property, DateTimeComponents raw, LocalDateTime local, ICalendar calendar) {
        if (raw.isUtc()) {
            return local.toInstant(ZoneOffset.UTC);
        }
        String name = property.getParameter("TZID");
        TimezoneAssignment known = calendar.getTimezoneInfo().getTimezone(property);
        if (known != null) {
            return local.atZone(known.getTimeZone().toZoneId()).toInstant();
        }
        for (RawComponent zone : calendar.getExperimentalComponents(TIME_ZONE)) {
            TimezoneId id = zone.getProperty(TimezoneId.class);
            if (name != null && id != null && name.equals(id.getValue())) {
                ZoneOffset offset = EventZone.offset(zone.getComponents().values(), local);
                return offset == null ? null : local.toInstant(offset);
            }
        }
        return null;
    }

    private static Invitation.@Nullable EventTime end(VEvent event, ICalendar calendar) {
        Invitation.EventTime told = time(event.getDateEnd(), calendar, true);
        Invitation.EventTime from = time(event.getDateStart(), calendar, false);
        DurationProperty duration = event.getDuration();
        if (told != null || from == null || duration == null || duration.getValue() == null) {
            return told;
        }
        long seconds = duration.getValue().toMillis() / 1000;
        LocalDateTime local = from.local().plusSeconds(seconds);
        Instant instant = from.instant();
        return new Invitation.EventTime(
                from.wholeDay() ? local.minusDays(1) : local,
                instant == null ? null : instant.plusSeconds(seconds),
                from.wholeDay());
    }

    private static @Nullable Address organizer(@Nullable Organizer organizer) {
        return organizer == null ? null : address(organizer.getCommonName(), organizer.getEmail(), organizer.getUri());
    }

    private static Address address(@Nullable String name, @Nullable String email, @Nullable String uri) {
        String told = email != null ? email : uri == null ? "" : uri;
        return new Address(
                name == null ? "" : MimeReader.limit(name.strip(), LONGEST), MimeReader.limit(told.strip(), LONGEST));
    }

    private static String answer(Attendee attendee) {
        ParticipationStatus status = attendee.getParticipationStatus();
        if (ParticipationStatus.ACCEPTED.equals(status)) {
            return "accepts";
        }
        if (ParticipationStatus.DECLINED.equals(status)) {
            return "declines";
        }
        if (ParticipationStatus.TENTATIVE.equals(status)) {
            return "accepts provisionally";
        }
        return ParticipationStatus.DELEGATED.equals(status) ? "hands the invitation on" : "has answered";
    }

    private static String repeats(@Nullable RecurrenceRule rule) {
        Recurrence value = rule == null ? null : rule.getValue();
        Frequency frequency = value == null ? null : value.getFrequency();
        if (value == null || frequency == null) {
            return "";
        }
        String unit = switch (frequency) {
            case SECONDLY -> "second";
            case MINUTELY -> "minute";
            case HOURLY -> "hour";
            case DAILY -> "day";
            case WEEKLY -> "week";
            case MONTHLY -> "month";
            case YEARLY -> "year";
        };
        Integer interval = value.getInterval();
        String often = interval == null || interval < 2 ? "every " + unit : "every %,d %ss".formatted(interval, unit);
        Integer count = value.getCount();
        ICalDate until = value.getUntil();
        DateTimeComponents last = until == null ? null : until.getRawComponents();
        String ends = last == null
                ? ""
                : ", until " + DAY.format(LocalDate.of(last.getYear(), last.getMonth(), last.getDate()));
        return count == null ? often + ends : often + ", %,d times".formatted(count);
    }
}
