package app.schublade.standin.world;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.temporal.TemporalAdjusters;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What is true in one telling of a story: names, days, sums. Each is drawn once; {@link #fill} writes it, in the language
 * of the letter, wherever it is named.
 *
 * <p>Declared one a line: {@code name: what}, where what is {@code a | b | c} (one of them),
 * {@code number 2..9}, {@code money 100..900 step 50}, {@code code HM-####}, {@code day +12d} (a working day so long after
 * the start; {@code anyday}, {@code saturday}, {@code sunday}), {@code person ID}, {@code one of GROUP},
 * {@code product A B}, {@code sum A B ...}, {@code less A B}, {@code part A 0.03} or {@code only ID} (the person alone).
 * {@code a, b: x / y | v / w} declares two that go together.
 */
final class Facts {
    private static final Pattern HOLE = Pattern.compile("\\{([^{}]*)}");
    private static final Pattern DAY = Pattern.compile("(day|anyday|saturday|sunday) ([+-]\\d+)d");
    private static final Pattern RANGE = Pattern.compile("(number|money) (\\d+)\\.\\.(\\d+)(?: step (\\d+))?");
    private static final Pattern SUM = Pattern.compile("(product|sum|less|part) (.+)");
    private static final Pattern HUMAN = Pattern.compile("(person|one of) (\\S+)");
    private static final Pattern CODE = Pattern.compile("code (\\S+)");

    private final Map<String, Value> values = new LinkedHashMap<>();
    private final LocalDate start;

    private sealed interface Value permits Words, Amount, Day, Human {}

    private record Words(String text) implements Value {}

    private record Amount(BigDecimal number, boolean money) implements Value {}

    private record Day(LocalDate date) implements Value {}

    private record Human(Person person) implements Value {}

    private Facts(LocalDate start) {
        this.start = start;
    }

    static Facts draw(List<String> declarations, LocalDate start, Cast people, Deck deck) {
        Facts facts = new Facts(start);
        for (String declaration : declarations) {
            String[] sides = declaration.split(":", 2);
            if (sides.length < 2) {
                throw new IllegalStateException("“" + declaration + "” declares nothing; write name: what");
            }
            facts.declare(sides[0].strip(), sides[1].strip(), people, deck);
        }
        return facts;
    }

    private void declare(String names, String what, Cast people, Deck deck) {
        Matcher day = DAY.matcher(what);
        Matcher range = RANGE.matcher(what);
        Matcher sum = SUM.matcher(what);
        Matcher human = HUMAN.matcher(what);
        Matcher code = CODE.matcher(what);
        if (day.matches()) {
            values.put(names, new Day(day(day.group(1), Integer.parseInt(day.group(2)))));
        } else if (range.matches()) {
            values.put(names, number(range.toMatchResult(), deck.random()));
        } else if (human.matches()) {
            values.put(names, new Human(human(human.group(1), human.group(2), people, deck)));
        } else if (code.matches()) {
            values.put(names, new Words(digits(code.group(1), deck.random())));
        } else if (sum.matches()) {
            values.put(names, calculate(sum.group(1), sum.group(2).split(" ", -1)));
        } else {
            choose(names, what, deck);
        }
    }

    private void choose(String names, String what, Deck deck) {
        String[] keys = names.split(", ", -1);
        String[] parts =
                deck.one(names + what, Arrays.asList(what.split(" \\| ", -1))).split(" / ", -1);
        if (parts.length != keys.length && keys.length > 1) {
            throw new IllegalStateException("“%s” wants %d parts: %s".formatted(names, keys.length, what));
        }
        for (int i = 0; i < keys.length; i++) {
            String text = keys.length == 1 ? String.join(" / ", parts) : parts[i];
            values.put(
                    keys[i],
                    text.matches("\\d+(\\.\\d+)? €")
                            ? new Amount(new BigDecimal(text.replace(" €", "")), true)
                            : new Words(text));
        }
    }

    private LocalDate day(String kind, int offset) {
        LocalDate date = start.plusDays(offset);
        return switch (kind) {
            case "saturday" -> date.with(TemporalAdjusters.nextOrSame(DayOfWeek.SATURDAY));
            case "sunday" -> date.with(TemporalAdjusters.nextOrSame(DayOfWeek.SUNDAY));
            case "day" -> working(date);
            default -> date;
        };
    }

    /** The day itself, or the Monday after it when it is a Saturday or Sunday. */
    static LocalDate working(LocalDate date) {
        return date.getDayOfWeek().getValue() > 5 ? date.with(TemporalAdjusters.next(DayOfWeek.MONDAY)) : date;
    }

    private static Amount number(MatchResult range, Random random) {
        int from = Integer.parseInt(range.group(2));
        int step = range.group(4) == null ? 1 : Integer.parseInt(range.group(4));
        int steps = (Integer.parseInt(range.group(3)) - from) / step + 1;
        return new Amount(
                BigDecimal.valueOf(from + (long) step * random.nextInt(steps)),
                range.group(1).equals("money"));
    }

    private static Person human(String kind, String name, Cast people, Deck deck) {
        return kind.equals("person") ? people.one(name) : deck.one(name, people.pool(name));
    }

    private static String digits(String pattern, Random random) {
        StringBuilder code = new StringBuilder();
        for (int i = 0; i < pattern.length(); i++) {
            code.append(pattern.charAt(i) == '#' ? (char) ('1' + random.nextInt(9)) : pattern.charAt(i));
        }
        return code.toString();
    }

    private Amount calculate(String kind, String[] terms) {
        List<Amount> amounts = Arrays.stream(terms).map(term -> amount(term)).toList();
        BigDecimal result = amounts.get(0).number();
        for (Amount next : amounts.subList(1, amounts.size())) {
            result = switch (kind) {
                case "product", "part" -> result.multiply(next.number());
                case "less" -> result.subtract(next.number());
                default -> result.add(next.number());
            };
        }
        boolean money = amounts.stream().anyMatch(Amount::money);
        return new Amount(money ? result.setScale(2, RoundingMode.HALF_UP).stripTrailingZeros() : result, money);
    }

    private Amount amount(String term) {
        return Character.isDigit(term.charAt(0)) ? new Amount(new BigDecimal(term), false) : as(Amount.class, term);
    }

    /** A day that is a fact, or the start of the story. */
    LocalDate day(String name) {
        return name.isEmpty() ? start : as(Day.class, name).date();
    }

    /** Somebody who is a fact, or known by this id. */
    Person person(String name, Cast people) {
        return values.get(name) instanceof Human human ? human.person() : people.one(name);
    }

    /** Writes a text with everything that is named in it, the innermost first; of {@code {a|b}} one is drawn. */
    String fill(String text, Language language, Random random) {
        String filled = text;
        for (Matcher hole = HOLE.matcher(filled); hole.find(); hole = HOLE.matcher(filled)) {
            String inside = hole.group(1);
            String said = inside.contains("|") ? Deck.any(inside.split("\\|", -1), random) : said(inside, language);
            filled = filled.substring(0, hole.start()) + said + filled.substring(hole.end());
        }
        return filled;
    }

    private String said(String reference, Language language) {
        String[] parts = reference.split(":", 2);
        String form = parts.length > 1 ? parts[1] : "";
        Value value = value(parts[0]);
        if (value instanceof Words words) {
            return words(words.text(), form, language);
        }
        if (value instanceof Amount amount) {
            return amount.money() && form.isEmpty()
                    ? language.money(amount.number())
                    : language.number(amount.number(), form);
        }
        return value instanceof Day day
                ? language.day(day.date(), form)
                : ((Human) value).person().said(form);
    }

    private static String words(String text, String form, Language language) {
        return switch (form) {
            case "" -> text;
            case "cap" ->
                text.isEmpty() ? text : text.substring(0, 1).toUpperCase(language.locale()) + text.substring(1);
            case "file" ->
                text.toLowerCase(Locale.ROOT)
                        .replaceAll("[^\\p{L}\\p{N}]+", "-")
                        .replaceAll("^-|-$", "");
            default -> throw new IllegalArgumentException("Words have no form " + form);
        };
    }

    private Value value(String name) {
        Value value = values.get(name);
        if (value == null) {
            throw new IllegalStateException("No fact is called " + name + "; there are " + values.keySet());
        }
        return value;
    }

    private <T extends Value> T as(Class<T> kind, String name) {
        Value value = value(name);
        if (!kind.isInstance(value)) {
            throw new IllegalStateException("The fact %s is no %s".formatted(name, kind.getSimpleName()));
        }
        return kind.cast(value);
    }
}
