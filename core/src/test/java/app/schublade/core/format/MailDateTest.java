package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import jakarta.mail.internet.MailDateFormat;
import java.text.ParseException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class MailDateTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Fri, 28 Nov 2025 10:18:05 +0100 | 2025-11-28T09:18:05Z",
                "28 Nov 2025 10:18:05 +0100 | 2025-11-28T09:18:05Z",
                "Fri, 28 Nov 2025 10:18 +0100 | 2025-11-28T09:18:00Z",
                "Fri,  3 Nov 2025 10:18:05 +0100 | 2025-11-03T09:18:05Z",
                "Fri,28 Nov 2025 10:18:05 GMT | 2025-11-28T10:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 -0000 | 2025-11-28T10:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 +0100 (CET) | 2025-11-28T09:18:05Z",
                "Fri (a day), 28 (the last) Nov 2025 10:18:05 +0100 | 2025-11-28T09:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 EST | 2025-11-28T15:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 CDT | 2025-11-28T15:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 PDT | 2025-11-28T17:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 CEST | 2025-11-28T08:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 UT | 2025-11-28T10:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 Z | 2025-11-28T10:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 XYZ | 2025-11-28T10:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 -600 | 2025-11-28T16:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 +01:00 | 2025-11-28T09:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 GMT+1 | 2025-11-28T09:18:05Z",
                "Fri, 28 Nov 2025 10:18:05+0100 | 2025-11-28T09:18:05Z",
                "Fri, 28 Nov 2025 10:18:05 +0530 | 2025-11-28T04:48:05Z",
                "Fri, 28 Nov 2025 10:18:05 | 2025-11-28T10:18:05Z",
                "Fri, 28 Nov 2025 | 2025-11-28T00:00:00Z",
                "28 Nov 25 10:18:05 +0000 | 2025-11-28T10:18:05Z",
                "28 Nov 99 10:18:05 +0000 | 1999-11-28T10:18:05Z",
                "28 Nov 125 10:18:05 +0000 | 2025-11-28T10:18:05Z",
                "28-Nov-2025 10:18:05 +0000 | 2025-11-28T10:18:05Z",
                "Friday, 28-Nov-25 10:18:05 GMT | 2025-11-28T10:18:05Z",
                "Fri Nov 28 10:18:05 2025 | 2025-11-28T10:18:05Z",
                "Fri Nov 28 10:18:05 CET 2025 | 2025-11-28T09:18:05Z",
                "Fri Nov  3 10:18:05 2025 | 2025-11-03T10:18:05Z",
                "Nov 28, 2025 10:18:05 +0100 | 2025-11-28T09:18:05Z",
                "Friday, November 28, 2025 10:18 | 2025-11-28T10:18:00Z",
                "2025-11-28T10:18:05Z | 2025-11-28T10:18:05Z",
                "2025-11-28T10:18:05+01:00 | 2025-11-28T09:18:05Z",
                "2025-11-28 10:18:05 +0100 | 2025-11-28T09:18:05Z",
                "2025-11-28 10:18:05.123 | 2025-11-28T10:18:05Z",
                "Fri, 28 Nov 2025 10.18.05 +0100 | 2025-11-28T09:18:05Z",
                "Fri, 28 Nov 2025 23:59:60 +0000 | 2025-11-28T23:59:59Z",
                "Mon, 28 Nov 2025 10:18:05 +9999 | 2025-11-28T10:18:05Z",
                "Fri, 28 Nov 2025 25:18:05 +0000 | 2025-11-28T00:00:00Z",
            })
    void readsWhatAPersonWouldRead(String field, Instant expected) {
        assertThat(MailDate.parse(field)).isEqualTo(expected);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "yesterday",
                "Fri",
                "10:18:05",
                "31 Feb 2025 10:00 +0000",
                "Nov 2025",
                "99 Nov 2025",
                "0 Nov 2025 1:00",
                "28 Foo 2025",
                "28 11 2025",
                "((((((",
                "+0100",
                "99999999999999999999"
            })
    void whatIsNoDateIsNone(String field) {
        assertThat(MailDate.parse(field)).isNull();
        assertThat(MailDate.parse("1".repeat(100_000))).isNull();
    }

    /** Compared with the reader of another library. */
    @Test
    void datesOfTheStandardAreReadAsOthersReadThem() throws ParseException {
        Random random = new Random(3);
        for (int i = 0; i < 2000; i++) {
            String written = DateTimeFormatter.RFC_1123_DATE_TIME.format(
                    Instant.ofEpochSecond(Math.floorMod(random.nextLong(), 4_000_000_000L))
                            .atOffset(ZoneOffset.ofHoursMinutes(random.nextInt(25) - 12, 0)));
            assertThat(MailDate.parse(written))
                    .as(written)
                    .isEqualTo(new MailDateFormat().parse(written).toInstant());
        }
    }
}
