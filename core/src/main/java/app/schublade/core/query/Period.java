package app.schublade.core.query;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.YearMonth;
import java.time.format.DateTimeFormatter;
import java.time.temporal.TemporalAdjusters;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Some days one behind the other, as people say them.
 *
 * @param first the first day, or null for all before the last
 * @param last the last day, or null for all from the first on
 * @param said in words: {@code "in March 2026"}
 * @param words how many words it took to say
 */
record Period(@Nullable LocalDate first, @Nullable LocalDate last, String said, int words) {
    private static final Pattern YEAR = Pattern.compile("(19|20)\\d\\d");
    private static final Pattern NUMBER = Pattern.compile("\\d{1,3}");
    private static final Pattern POINTED = Pattern.compile("(\\d{1,2})\\.(\\d{1,2})\\.((?:19|20)\\d\\d)?");
    private static final Pattern ISO = Pattern.compile("((?:19|20)\\d\\d)-(\\d{1,2})-(\\d{1,2})");
    private static final Pattern DAY_OF_MONTH = Pattern.compile("([1-9]|[12]\\d|3[01])(?:st|nd|rd|th|\\.)?");
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);
    private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("MMMM yyyy", Locale.ENGLISH);
    private static final int SHORTEST_NAME = 3;

    /** Reads what the words from a place on say of time; empty if that is nothing, or nothing without a word before it. */
    static Optional<Period> read(List<String> words, int at, LocalDate today) {
        return new Reader(words, today).read(at);
    }

    /** What people name: a day, a week, a month, a year. */
    private record Named(LocalDate first, LocalDate last, String name, int words, boolean clear) {
        static Named day(LocalDate day, String name, int words, boolean clear) {
            return new Named(day, day, name, words, clear);
        }

        static Named of(LocalDate day, int words) {
            return day(day, DAY.format(day), words, true);
        }
    }

    private record Reader(List<String> all, LocalDate today) {
        private String word(int at) {
            return at < all.size() ? all.get(at).toLowerCase(Locale.ROOT) : "";
        }

        Optional<Period> read(int at) {
            return switch (word(at)) {
                case "since" -> since(named(at + 1));
                case "from" ->
                    range(at + 1)
                            .map(one -> new Period(one.first, one.last, one.said, one.words + 1))
                            .or(() -> since(named(at + 1).filter(Reader::isNobody)));
                case "after" -> named(at + 1).map(one -> after(one));
                case "before" -> named(at + 1).map(one -> before(one));
                case "until", "till" ->
                    named(at + 1).map(one -> new Period(null, one.last, "until " + one.name, one.words + 1));
                case "on" ->
                    named(at + 1)
                            .filter(one -> one.first.equals(one.last))
                            .map(one -> new Period(one.first, one.last, "on " + one.name, one.words + 1));
                case "in", "during" -> in(at + 1);
                case "the" -> recent(at + 1).map(one -> whole(one, 1));
                default -> range(at).or(() -> named(at).filter(Named::clear).map(one -> whole(one, 0)));
            };
        }

        private static Optional<Period> since(Optional<Named> named) {
            return named.map(one -> new Period(one.first, null, "since " + one.name, one.words + 1));
        }

        /** Whether it is more likely a time than somebody called Jan or April. */
        private static boolean isNobody(Named one) {
            return one.clear || one.first.equals(one.last) || isYear(one.name);
        }

        private static Period after(Named one) {
            return new Period(one.last.plusDays(1), null, "after " + one.name, one.words + 1);
        }

        private static Period before(Named one) {
            return new Period(null, one.first.minusDays(1), "before " + one.name, one.words + 1);
        }

        private static Period whole(Named one, int before) {
            return new Period(one.first, one.last, one.name, one.words + before);
        }

        private Optional<Period> in(int at) {
            int the = word(at).equals("the") ? 1 : 0;
            return recent(at + the)
                    .or(() -> named(at).filter(one -> !one.first.equals(one.last)))
                    .map(one -> new Period(
                            one.first,
                            one.last,
                            (one.name.startsWith("the ")
                                                    || Character.isUpperCase(one.name.charAt(0))
                                                    || isYear(one.name)
                                            ? "in "
                                            : "")
                                    + one.name,
                            one.words + 1 + (one.name.startsWith("the ") ? the : 0)));
        }

        private static boolean isYear(String name) {
            return YEAR.matcher(name).matches();
        }

        /** {@code 2014 to 2019}, {@code 1.9. to 15.10.2026}. */
        private Optional<Period> range(int at) {
            return named(at)
                    .filter(from -> List.of("to", "until", "till", "-", "–").contains(word(at + from.words)))
                    .flatMap(from -> named(at + from.words + 1)
                            .map(to -> between(from, to))
                            .filter(one -> one.first != null && one.last != null && !one.last.isBefore(one.first)));
        }

        private static Period between(Named from, Named to) {
            LocalDate first = from.first;
            while (first.isAfter(to.last) && !isYear(from.name)) {
                first = first.minusYears(1); // "1.9. to 15.2.2026"
            }
            String name = from.first.equals(first) ? from.name : DAY.format(first);
            return new Period(first, to.last, name + " to " + to.name, from.words + to.words + 1);
        }

        private Optional<Named> named(int at) {
            String word = word(at);
            return switch (word) {
                case "today" -> Optional.of(Named.day(today, "today", 1, true));
                case "yesterday" -> Optional.of(Named.day(today.minusDays(1), "yesterday", 1, true));
                case "this", "last" ->
                    ofNow(word, word(at + 1)).or(() -> recent(at)).or(() -> lastNamed(at));
                default ->
                    written(at).or(() -> month(at)).or(() -> weekday(word)).or(() -> year(word));
            };
        }

        private Optional<Named> ofNow(String which, String what) {
            int back = which.equals("this") ? 0 : 1;
            String name = which + " " + what;
            return switch (what) {
                case "week" -> {
                    LocalDate monday = today.with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY))
                            .minusWeeks(back);
                    yield Optional.of(new Named(monday, monday.plusDays(6), name, 2, true));
                }
                case "month" -> Optional.of(month(YearMonth.from(today).minusMonths(back), name, 2, true));
                case "year" -> Optional.of(year(today.getYear() - back, name, 2, true));
                default -> Optional.empty();
            };
        }

        /** {@code last 7 days}: today is the last of them. */
        private Optional<Named> recent(int at) {
            if (!word(at).equals("last") || !NUMBER.matcher(word(at + 1)).matches()) {
                return Optional.empty();
            }
            int number = Integer.parseInt(word(at + 1));
            String unit = word(at + 2);
            LocalDate first = switch (unit.endsWith("s") ? unit.substring(0, unit.length() - 1) : unit) {
                case "day" -> today.minusDays(number - 1L);
                case "week" -> today.minusWeeks(number).plusDays(1);
                case "month" -> today.minusMonths(number).plusDays(1);
                case "year" -> today.minusYears(number).plusDays(1);
                default -> today.plusDays(1);
            };
            return number == 0 || first.isAfter(today)
                    ? Optional.empty()
                    : Optional.of(new Named(first, today, "the last %d %s".formatted(number, unit), 3, true));
        }

        /** {@code last Monday}, {@code last March}. */
        private Optional<Named> lastNamed(int at) {
            return word(at).equals("last")
                    ? weekday(word(at + 1))
                            .or(() -> month(at + 1))
                            .map(one -> new Named(one.first, one.last, one.name, one.words + 1, true))
                    : Optional.empty();
        }

        private Optional<Named> weekday(String word) {
            for (DayOfWeek day : DayOfWeek.values()) {
                if (isName(word, day.name())) {
                    LocalDate date = today.with(TemporalAdjusters.previousOrSame(day));
                    return Optional.of(Named.day(date, DAY.format(date), 1, false));
                }
            }
            return Optional.empty();
        }

        private static boolean isName(String word, String name) {
            return word.length() >= SHORTEST_NAME
                    && name.toLowerCase(Locale.ROOT).startsWith(word);
        }

        /** {@code March}, {@code March 2024}, {@code 12 March}, {@code March 12, 2024} */
        private Optional<Named> month(int at) {
            Optional<Month> month = monthOf(word(at));
            if (month.isPresent()) {
                return Optional.of(ofMonth(month.get(), at + 1));
            }
            Matcher day = DAY_OF_MONTH.matcher(word(at));
            return day.matches()
                    ? monthOf(word(at + 1)).flatMap(one -> day(one, Integer.parseInt(day.group(1)), at + 2))
                    : Optional.empty();
        }

        private static Optional<Month> monthOf(String word) {
            for (Month month : Month.values()) {
                if (isName(word, month.name())) {
                    return Optional.of(month);
                }
            }
            return Optional.empty();
        }

        private Named ofMonth(Month month, int next) {
            if (isYear(word(next))) {
                YearMonth one = YearMonth.of(Integer.parseInt(word(next)), month);
                return month(one, MONTH.format(one), 2, true);
            }
            YearMonth one = YearMonth.of(today.getYear(), month);
            YearMonth latest = one.isAfter(YearMonth.from(today)) ? one.minusYears(1) : one;
            return month(latest, MONTH.format(latest), 1, false);
        }

        private Optional<Named> day(Month month, int day, int next) {
            boolean dated = isYear(word(next));
            return date(dated ? Integer.parseInt(word(next)) : 0, month.getValue(), day)
                    .map(one -> Named.of(one, dated ? 3 : 2));
        }

        /** {@code 12.3.}, {@code 12.3.2024}, {@code 2024-03-12} */
        private Optional<Named> written(int at) {
            Matcher pointed = POINTED.matcher(word(at));
            if (pointed.matches()) {
                String year = pointed.group(3);
                return date(
                                year == null ? 0 : Integer.parseInt(year),
                                Integer.parseInt(pointed.group(2)),
                                Integer.parseInt(pointed.group(1)))
                        .map(one -> Named.of(one, 1));
            }
            Matcher iso = ISO.matcher(word(at));
            return iso.matches()
                    ? date(
                                    Integer.parseInt(iso.group(1)),
                                    Integer.parseInt(iso.group(2)),
                                    Integer.parseInt(iso.group(3)))
                            .map(one -> Named.of(one, 1))
                    : Optional.empty();
        }

        /** Empty if there is no such day; of the year 0 it is the latest that has come. */
        private Optional<LocalDate> date(int year, int month, int day) {
            if (month < 1 || month > 12 || day < 1) {
                return Optional.empty();
            }
            for (int one = year == 0 ? today.getYear() : year; one >= (year == 0 ? today.getYear() - 8 : year); one--) {
                YearMonth in = YearMonth.of(one, month);
                if (in.isValidDay(day) && (year != 0 || !in.atDay(day).isAfter(today))) {
                    return Optional.of(in.atDay(day));
                }
            }
            return Optional.empty();
        }

        private static Optional<Named> year(String word) {
            return isYear(word) ? Optional.of(year(Integer.parseInt(word), word, 1, false)) : Optional.empty();
        }

        private static Named month(YearMonth month, String name, int words, boolean clear) {
            return new Named(month.atDay(1), month.atEndOfMonth(), name, words, clear);
        }

        private static Named year(int year, String name, int words, boolean clear) {
            return new Named(LocalDate.of(year, 1, 1), LocalDate.of(year, 12, 31), name, words, clear);
        }
    }
}
