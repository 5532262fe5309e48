package app.schublade.standin.world;

import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.Map;

/** An invitation to a meeting as calendars read it (RFC 5545, RFC 5546). */
final class InvitationFile {
    private static final DateTimeFormatter INSTANT = DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss'Z'");

    private InvitationFile() {}

    /** From lines {@code Summary}, {@code Day} (ISO), {@code Time}, {@code Minutes}, {@code Where}, {@code Who}. */
    static String calendar(Enclosure.File file) {
        Map<String, String> lines = new LinkedHashMap<>();
        file.lines().lines().forEach(line -> {
            String[] sides = line.split(": ", 2);
            lines.put(sides[0], sides.length > 1 ? sides[1] : "");
        });
        ZonedDateTime begin = LocalDate.parse(lines.getOrDefault("Day", ""))
                .atTime(LocalTime.parse(lines.getOrDefault("Time", "10:00")))
                .atZone(World.ZONE);
        ZonedDateTime end = begin.plusMinutes(Long.parseLong(lines.getOrDefault("Minutes", "60")));
        return """
                BEGIN:VCALENDAR
                VERSION:2.0
                PRODID:-//%s//Meetings//EN
                METHOD:REQUEST
                BEGIN:VEVENT
                UID:%s-%s@%s
                DTSTAMP:%s
                DTSTART:%s
                DTEND:%s
                SUMMARY:%s
                LOCATION:%s
                ORGANIZER;CN="%s":mailto:%s
                ATTENDEE;PARTSTAT=NEEDS-ACTION;RSVP=TRUE:mailto:%s
                END:VEVENT
                END:VCALENDAR""".formatted(
                        file.from().domain(),
                        utc(begin),
                        Integer.toHexString(file.lines().hashCode()),
                        file.from().domain(),
                        utc(begin.minusDays(7)),
                        utc(begin),
                        utc(end),
                        escaped(lines.getOrDefault("Summary", "")),
                        escaped(lines.getOrDefault("Where", "")),
                        file.from().name(),
                        file.from().address(),
                        lines.getOrDefault("Who", ""));
    }

    private static String utc(ZonedDateTime time) {
        return INSTANT.format(time.withZoneSameInstant(ZoneOffset.UTC));
    }

    /** RFC 5545, section 3.3.11. */
    private static String escaped(String text) {
        return text.replace("\\", "\\\\").replace(";", "\\;").replace(",", "\\,");
    }
}
