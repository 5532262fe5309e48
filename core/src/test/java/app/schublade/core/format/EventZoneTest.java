package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDateTime;
import java.time.ZoneId;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A zone that a calendar describes tells the same as the zone that it describes. */
class EventZoneTest {
    private static String observance(String kind, String from, String to, String start, String rule) {
        return """
                BEGIN:%1$s
                DTSTART:%4$s
                TZOFFSETFROM:%2$s
                TZOFFSETTO:%3$s
                RRULE:FREQ=YEARLY;%5$s
                END:%1$s
                """.formatted(kind, from, to, start, rule);
    }

    @ParameterizedTest
    @CsvSource({
        "Europe/Berlin, +0100, +0200, 19961027T030000, BYMONTH=10;BYDAY=-1SU, 19810329T020000, BYMONTH=3;BYDAY=-1SU",
        "America/New_York, -0500, -0400, 20071104T020000, BYMONTH=11;BYDAY=1SU, 20070311T020000, BYMONTH=3;BYDAY=2SU",
        "America/New_York, -0500, -0400, 20071104T020000, 'BYMONTH=11;BYMONTHDAY=1,2,3,4,5,6,7;BYDAY=SU', 20070311T020000, 'BYMONTH=3;BYMONTHDAY=8,9,10,11,12,13,14;BYDAY=SU'",
        "Australia/Sydney, +1000, +1100, 20080406T030000, BYMONTH=4;BYDAY=1SU, 20081005T020000, BYMONTH=10;BYDAY=1SU"
    })
    void tellsWhatTheZoneTells(
            String zone, String usual, String summer, String autumn, String ends, String spring, String begins) {
        String calendar = "BEGIN:VTIMEZONE\nTZID:Some zone of ours\n"
                + observance("STANDARD", summer, usual, autumn, ends)
                + observance("DAYLIGHT", usual, summer, spring, begins)
                + "END:VTIMEZONE\n";
        for (LocalDateTime time = LocalDateTime.parse("2010-01-01T12:00");
                time.getYear() < 2031;
                time = time.plusDays(3)) {
            String local = time.toString().replace("-", "").replace(":", "") + "00";
            Invitation read = InvitationReader.read(
                            "BEGIN:VCALENDAR\nVERSION:2.0\nMETHOD:REQUEST\n%sBEGIN:VEVENT\nDTSTART;TZID=Some zone of ours:%s\nEND:VEVENT\nEND:VCALENDAR\n"
                                    .formatted(calendar, local))
                    .orElseThrow();
            assertThat(read.from())
                    .as("%s at %s", zone, time)
                    .isEqualTo(new Invitation.EventTime(
                            time, time.atZone(ZoneId.of(zone)).toInstant(), false));
        }
    }
}
