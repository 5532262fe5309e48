package app.schublade.web.frame;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DatesTest {
    private static final ZoneId BERLIN = ZoneId.of("Europe/Berlin");
    /** A Tuesday, half past ten in the morning there. */
    private static final Dates DATES = new Dates(Clock.fixed(Instant.parse("2026-11-24T09:30:00Z"), BERLIN));

    @ParameterizedTest
    @CsvSource({
        "2026-11-24T08:12:00Z, 09:12, 'today, 09:12', Today",
        "2026-11-23T23:30:00Z, 00:30, 'today, 00:30', Today",
        "2026-11-23T22:30:00Z, Mon, 'yesterday, 23:30', Yesterday",
        "2026-11-18T12:00:00Z, Wed, 'Wed, 13:00', Last seven days",
        "2026-11-17T12:00:00Z, 17 Nov, '17 Nov, 13:00', November 2026",
        "2026-01-02T12:00:00Z, 2 Jan, '2 Jan, 13:00', January 2026",
        "2025-11-24T12:00:00Z, 24 Nov 2025, '24 Nov 2025, 13:00', November 2025",
        "2026-12-01T12:00:00Z, 1 Dec, '1 Dec, 13:00', Today",
        "1970-01-01T00:00:00Z, 1 Jan 1970, '1 Jan 1970, 01:00', January 1970"
    })
    void datesAreSaidAsPeopleSayThem(Instant instant, String brief, String spoken, String heading) {
        assertThat(DATES.brief(instant)).isEqualTo(brief);
        assertThat(DATES.spoken(instant)).isEqualTo(spoken);
        assertThat(DATES.heading(instant)).isEqualTo(heading);
    }

    @Test
    void theExactOneIsThereToo() {
        assertThat(DATES.exact(Instant.parse("2026-11-12T08:05:00Z"))).isEqualTo("Thursday 12 November 2026, 09:05");
    }
}
