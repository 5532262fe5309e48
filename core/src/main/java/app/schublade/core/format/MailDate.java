package app.schublade.core.format;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Reads the date of a header (RFC 5322, sections 3.3 and 4.3), in whatever order its parts stand: those of the standard, of
 * {@code asctime}, of ISO 8601. What is not said of the time is midnight, of the zone UTC.
 */
final class MailDate {
    private static final int MAX_LENGTH = 200;
    private static final List<String> MONTHS =
            List.of("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec");
    private static final Map<String, Integer> ZONES = Map.ofEntries(
            Map.entry("est", -5),
            Map.entry("edt", -4),
            Map.entry("cst", -6),
            Map.entry("cdt", -5),
            Map.entry("mst", -7),
            Map.entry("mdt", -6),
            Map.entry("pst", -8),
            Map.entry("pdt", -7),
            Map.entry("wet", 0),
            Map.entry("west", 1),
            Map.entry("bst", 1),
            Map.entry("cet", 1),
            Map.entry("cest", 2),
            Map.entry("met", 1),
            Map.entry("mest", 2),
            Map.entry("eet", 2),
            Map.entry("eest", 3),
            Map.entry("msk", 3),
            Map.entry("hkt", 8),
            Map.entry("jst", 9),
            Map.entry("kst", 9));
    private static final int HOUR_MINUTES = 60;
    private static final int CENTURY = 100;
    /** RFC 5322, section 4.3: two digits below it are of this century, others and three digits count from 1900. */
    private static final int TURN = 50;

    private static final int MAX_OFFSET_MINUTES = 18 * HOUR_MINUTES;

    private int day;
    private int month;
    private int year = -1;
    private @Nullable LocalTime time;
    private int offset;

    private MailDate() {}

    /** Null if it is not a date. */
    static @Nullable Instant parse(String field) {
        if (field.length() > MAX_LENGTH) {
            return null;
        }
        MailDate date = new MailDate();
        for (String token : tokens(field)) {
            date.take(token);
        }
        try {
            LocalTime time = date.time == null ? LocalTime.MIDNIGHT : date.time;
            return date.day == 0 || date.month == 0 || date.year < 0
                    ? null
                    : LocalDateTime.of(LocalDate.of(date.year, date.month, date.day), time)
                            .toInstant(ZoneOffset.ofTotalSeconds(date.offset * HOUR_MINUTES));
        } catch (DateTimeException e) {
            return null;
        }
    }

    /** Without comments; a date and a time of ISO 8601 are two. */
    private static List<String> tokens(String field) {
        List<String> tokens = new ArrayList<>();
        StringBuilder token = new StringBuilder();
        int depth = 0;
        for (int i = 0; i <= field.length(); i++) {
            char sign = i == field.length() ? ' ' : field.charAt(i);
            depth += sign == '(' ? 1 : sign == ')' && depth > 0 ? -1 : 0;
            boolean joins = sign == 'T' && token.length() == 10 && token.charAt(4) == '-';
            boolean apart = depth > 0 || sign <= ' ' || ",;()\"".indexOf(sign) >= 0 || joins;
            boolean zone = (sign == '+' || sign == '-') && token.indexOf(":") > 0;
            if (apart || zone) {
                if (!token.isEmpty()) {
                    tokens.add(token.toString().toLowerCase(Locale.ROOT));
                    token.setLength(0);
                }
            }
            if (!apart) {
                token.append(sign);
            }
        }
        return tokens;
    }

    private void take(String token) {
        if (token.matches("\\d{4}-\\d{1,2}-\\d{1,2}")) {
            String[] parts = token.split("-", -1);
            year = Integer.parseInt(parts[0]);
            month = Integer.parseInt(parts[1]);
            day = Integer.parseInt(parts[2]);
        } else if (token.matches("\\d{1,2}-[a-z]{3,9}-\\d{2,4}")) {
            for (String part : token.split("-", -1)) {
                take(part);
            }
        } else if (token.matches("\\d{1,2}[:.]\\d{1,2}([:.]\\d{1,2}([.,]\\d{1,9})?)?z?")) {
            takeTime(token);
        } else if (token.matches("(gmt|utc?)?[+-]\\d{1,2}(:?\\d{2})?|[+-]\\d{3}")) {
            takeOffset(token);
        } else if (token.matches("\\d{1,4}")) {
            takeNumber(Integer.parseInt(token), token.length());
        } else if (ZONES.containsKey(token) && time != null) {
            offset = ZONES.getOrDefault(token, 0) * HOUR_MINUTES;
        } else if (token.length() >= 3 && MONTHS.contains(token.substring(0, 3)) && month == 0) {
            month = MONTHS.indexOf(token.substring(0, 3)) + 1;
        }
    }

    private void takeNumber(int number, int digits) {
        if (day == 0 && digits <= 2) {
            day = number;
        } else if (year < 0) {
            year = digits == 4 ? number : digits == 2 && number < TURN ? 2000 + number : 1900 + number % 1000;
        }
    }

    private void takeTime(String token) {
        String[] parts = token.replace("z", "").split("[:.,]", -1);
        int second = parts.length > 2 ? Integer.parseInt(parts[2]) : 0;
        int hour = Integer.parseInt(parts[0]);
        int minute = Integer.parseInt(parts[1]);
        if (hour < 24 && minute < HOUR_MINUTES) {
            time = LocalTime.of(hour, minute, Math.min(second, HOUR_MINUTES - 1)); // A leap second is none here.
        }
    }

    /** {@code +0100}, {@code +01:00}, {@code +1}; {@code -600} lacks a digit. */
    private void takeOffset(String token) {
        int sign = token.indexOf('-') >= 0 ? -1 : 1;
        String digits = token.replaceAll("\\D", "");
        int number = Integer.parseInt(digits);
        int minutes = digits.length() <= 2 ? number * HOUR_MINUTES : number / CENTURY * HOUR_MINUTES + number % CENTURY;
        offset = minutes <= MAX_OFFSET_MINUTES ? sign * minutes : 0;
    }
}
