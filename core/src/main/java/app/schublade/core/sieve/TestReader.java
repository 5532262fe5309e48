package app.schublade.core.sieve;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Group;
import app.schublade.core.filing.Not;
import app.schublade.core.filing.ReceivedAt;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Sized;
import app.schublade.core.filing.Text;
import app.schublade.core.filing.Text.Match;
import app.schublade.core.filing.Text.Where;
import app.schublade.core.problem.InputProblem;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/** Makes conditions of the tests of a script. */
final class TestReader {
    /** What a mail address consists of, for looking for one in a header field. */
    private static final String SIGN = "[^[:space:]<>,@]";

    private static final int MINUTES = 60;
    /** So many stars a pattern may have in which the @ can lie. */
    private static final int MOST_PLACES = 10;
    /** How many strings or lists of them tests take at least. */
    private static final Map<String, Integer> STRINGS =
            Map.of("header", 2, "address", 2, "envelope", 2, "exists", 1, "body", 1, "currentdate", 2, "date", 3);

    private static final Set<String> RELATIONS = Set.of("ge", "gt", "lt", "le");
    private static final String NUMERIC = "i;ascii-numeric";

    private final Recogniser recogniser;
    /** Each test of a script is read once, however many branches come after it. */
    private final IdentityHashMap<Test, Condition> known = new IdentityHashMap<>();

    private Consumer<String> heard = what -> {};

    TestReader(SieveWorld world) {
        recogniser = new Recogniser(world);
    }

    /** From now on it is told there what means a little more here than in the script. */
    void listen(Consumer<String> listener) {
        heard = listener;
    }

    /** @throws Unsayable if no condition means the same */
    Condition condition(Test test) throws Unsayable {
        Condition before = known.get(test);
        if (before != null) {
            return before;
        }
        Condition condition = read(test);
        known.put(test, condition);
        return condition;
    }

    private Condition read(Test test) throws Unsayable {
        Optional<Condition> known = recogniser.condition(test);
        if (known.isPresent()) {
            return known.get();
        }
        if (new Comparison(test).texts.size() < STRINGS.getOrDefault(test.name(), 0)) {
            throw new Unsayable("the test “%s” lacks something to compare".formatted(test.name()));
        }
        try {
            return switch (test.name()) {
                case "not" -> new Not(condition(test.tests().get(0)));
                case "allof", "anyof" -> new Group(test.is("allof"), conditions(test.tests()));
                case "true" -> new Sized(false, true, 0);
                case "false" -> new Sized(false, false, 0);
                case "header" -> header(new Comparison(test));
                case "exists" -> exists(new Comparison(test));
                case "address" -> address(new Comparison(test));
                case "envelope" -> envelope(new Comparison(test));
                case "size" -> size(test);
                case "body" -> body(new Comparison(test));
                case "currentdate", "date" -> date(new Comparison(test));
                default -> throw new Unsayable("the test “%s” has no counterpart here".formatted(test.name()));
            };
        } catch (InputProblem e) {
            throw new Unsayable(String.valueOf(e.getMessage()));
        }
    }

    List<Condition> conditions(List<Test> tests) throws Unsayable {
        List<Condition> conditions = new ArrayList<>();
        for (Test test : tests) {
            conditions.add(condition(test));
        }
        return conditions;
    }

    static Text field(String name, Match match, List<String> values) {
        boolean subject = name.equalsIgnoreCase("subject");
        return new Text(subject ? Where.SUBJECT : Where.HEADER, subject ? "" : capital(name), match, values);
    }

    /** {@code x-topic} as {@code X-Topic}. */
    private static String capital(String name) {
        StringBuilder text = new StringBuilder(name);
        for (int i = 0; i < text.length(); i++) {
            if (i == 0 || text.charAt(i - 1) == '-') {
                text.setCharAt(i, Character.toUpperCase(text.charAt(i)));
            }
        }
        return text.toString();
    }

    private static Match match(String name, List<String> values) throws Unsayable {
        return switch (name) {
            case "is" -> Match.IS;
            case "contains" -> Match.CONTAINS;
            case "matches" -> {
                if (values.stream().anyMatch(value -> value.contains("\\"))) {
                    throw new Unsayable("a pattern that means * or ? themselves has no counterpart here");
                }
                yield Match.WILDCARD;
            }
            case "regex" -> ofExpressions(values);
            default -> throw new Unsayable("“:%s” has no counterpart here".formatted(name));
        };
    }

    private static Match ofExpressions(List<String> expressions) {
        List<@Nullable String> words =
                expressions.stream().map(WordPattern::read).toList();
        if (words.stream().anyMatch(Objects::isNull)) {
            return Match.REGEX;
        }
        return words.stream().anyMatch(one -> one != null && one.contains(" ")) ? Match.PHRASE : Match.WORDS;
    }

    private static List<String> words(Match match, List<String> values) {
        return match == Match.PHRASE || match == Match.WORDS
                ? values.stream()
                        .map(value -> String.valueOf(WordPattern.read(value)))
                        .toList()
                : values;
    }

    private Condition header(Comparison parts) throws Unsayable {
        parts.refuseAllBut(Set.of());
        tellOfAccents(parts.values());
        Match match = match(parts.match, parts.values());
        List<Condition> fields = new ArrayList<>();
        for (String name : parts.fields()) {
            fields.add(field(name, match, words(match, parts.values())));
        }
        return fields.size() == 1 ? fields.get(0) : new Group(false, fields);
    }

    private static Condition exists(Comparison parts) throws Unsayable {
        parts.refuseAllBut(Set.of());
        List<Condition> fields = parts.values().stream()
                .<Condition>map(name -> new Text(Where.HEADER, capital(name), Match.WILDCARD, List.of("*")))
                .toList();
        return fields.size() == 1 ? fields.get(0) : new Group(true, fields);
    }

    private Condition body(Comparison parts) throws Unsayable {
        parts.refuseAllBut(Set.of("text"));
        tellOfAccents(parts.values());
        Match match = match(parts.match, parts.values());
        if (match == Match.WILDCARD || match == Match.IS) {
            throw new Unsayable("the whole body is not compared with “:%s” here".formatted(parts.match));
        }
        return new Text(Where.BODY, "", match, words(match, parts.values()));
    }

    private static Condition size(Test test) throws Unsayable {
        List<Argument> arguments = test.arguments();
        if (arguments.size() == 2
                && arguments.get(0) instanceof Argument.Tag tag
                && arguments.get(1) instanceof Argument.Count number
                && Set.of("over", "under").contains(tag.name())) {
            return new Sized(false, tag.name().equals("over"), number.value());
        }
        throw new Unsayable("“size” needs :over or :under and a number");
    }

    private void tellOfAccents(List<String> values) {
        values.stream()
                .filter(value -> value.chars().anyMatch(sign -> sign > 0x7f))
                .findFirst()
                .ifPresent(
                        value -> heard.accept("accents do not matter here: not only “%s” is taken".formatted(value)));
    }

    private Condition address(Comparison parts) throws Unsayable {
        parts.refuseAllBut(Set.of());
        List<Condition> any = new ArrayList<>();
        List<String> fields = new ArrayList<>(parts.fields());
        List<String> recipients = sentTo(parts);
        if (recipients != null && fields.containsAll(List.of("to", "cc"))) {
            fields.removeAll(TestWriter.RECIPIENTS);
            heard.accept("what was delivered to that address without naming it counts here too");
            any.add(new SentTo(recipients));
        }
        for (String field : fields) {
            any.add(address(field, parts));
        }
        return any.size() == 1 ? any.get(0) : new Group(false, any);
    }

    /** Recipients as {@link SentTo} takes them; null if it does not. */
    private static @Nullable List<String> sentTo(Comparison parts) {
        boolean plain = parts.values().stream().noneMatch(value -> value.contains("\\") || value.contains("?"));
        if (parts.match.equals("is") && parts.part.equals("detail")) {
            return parts.values().stream().map(tag -> "+" + tag).toList();
        }
        if (parts.match.equals("is") && parts.part.equals("domain") && plain) {
            return parts.values().stream().map(domain -> "*@" + domain).toList();
        }
        boolean all =
                parts.part.equals("all") && plain && parts.values().stream().allMatch(one -> one.contains("@"));
        return all && Set.of("is", "matches").contains(parts.match) ? parts.values() : null;
    }

    private static Condition address(String field, Comparison parts) throws Unsayable {
        Correspondent.Role role = switch (field) {
            case "from" -> Correspondent.Role.SENDER;
            case "reply-to" -> Correspondent.Role.REPLY_TO;
            default -> null;
        };
        boolean is = parts.match.equals("is");
        if (is) {
            refuseWhatNoAddressHas(parts);
        }
        if (role != null && is && Set.of("all", "domain").contains(parts.part)) {
            return new Correspondent(role, parts.values());
        }
        List<String> below = parts.values().stream()
                .filter(value -> value.matches("\\*\\.[^*?\\\\]+"))
                .toList();
        if (role != null
                && parts.match.equals("matches")
                && parts.part.equals("domain")
                && below.equals(parts.values())) {
            // A domain with all below it is the domain itself, too; the script means those below.
            List<String> itself =
                    below.stream().map(value -> value.substring(2)).toList();
            return new Group(true, List.of(new Correspondent(role, below), new Not(new Correspondent(role, itself))));
        }
        List<String> expressions = new ArrayList<>();
        for (String value : parts.values()) {
            if (parts.match.equals("matches") && parts.part.equals("all") && !value.contains("@")) {
                for (String one : withAt(value)) {
                    expressions.add(expression(parts.part, pattern(one), true));
                }
            } else {
                expressions.add(expression(parts.part, signs(parts.match, value), value.contains("@")));
            }
        }
        return new Text(Where.HEADER, capital(field), Match.REGEX, expressions);
    }

    /** A whole address has an @, a part of one has none: what is otherwise means another thing here, and nothing there. */
    private static void refuseWhatNoAddressHas(Comparison parts) throws Unsayable {
        for (String value : parts.values()) {
            boolean whole = parts.part.equals("all");
            if (value.contains("@") != whole || value.contains("*")) {
                throw new Unsayable("“%s” is no %s".formatted(value, whole ? "address" : "part of an address"));
            }
        }
    }

    /** A pattern of a whole address without an @: that lies in what one of its stars, or question marks, stands for. */
    private static List<String> withAt(String pattern) throws Unsayable {
        List<String> all = new ArrayList<>();
        for (int i = 0; i < pattern.length(); i++) {
            char sign = pattern.charAt(i);
            if (sign == '\\') {
                i++;
            } else if (sign == '*' || sign == '?') {
                all.add(pattern.substring(0, i) + (sign == '*' ? "*@*" : "@") + pattern.substring(i + 1));
            }
        }
        if (all.isEmpty() || all.size() > MOST_PLACES) {
            throw new Unsayable("“%s” is no pattern of an address".formatted(pattern));
        }
        return all;
    }

    /** What fits where the value does, within one part of an address; as scripts have it, so that it can be written again. */
    private static String signs(String match, String value) throws Unsayable {
        return switch (match) {
            case "is" -> WordPattern.literal(value);
            case "contains" -> SIGN + "*" + WordPattern.literal(value) + SIGN + "*";
            case "matches" -> pattern(value);
            default -> throw new Unsayable("“:%s” of an address has no counterpart here".formatted(match));
        };
    }

    /** RFC 5228, section 2.7.1. */
    private static String pattern(String value) {
        StringBuilder signs = new StringBuilder();
        for (int i = 0; i < value.length(); i++) {
            char sign = value.charAt(i);
            if (sign == '\\' && i + 1 < value.length()) {
                signs.append(WordPattern.literal(value.substring(++i, i + 1)));
            } else if (sign == '*' || sign == '?') {
                signs.append(SIGN).append(sign == '*' ? "*" : "");
            } else {
                signs.append(WordPattern.literal(String.valueOf(sign)));
            }
        }
        return signs.toString();
    }

    private static String expression(String part, String signs, boolean withAt) throws Unsayable {
        String address = switch (part) {
            case "all" -> withAt ? signs : "(%s@%s+|%s+@%s)".formatted(signs, SIGN, SIGN, signs);
            case "domain" -> SIGN + "+@" + signs;
            case "localpart" -> signs + "@" + SIGN + "+";
            case "user" -> signs + "(\\+" + SIGN + "*)?@" + SIGN + "+";
            case "detail" -> SIGN + "*\\+" + signs + "@" + SIGN + "+";
            default -> throw new Unsayable("“:%s” of an address has no counterpart here".formatted(part));
        };
        return "(^|[[:space:]<,:])" + address + "([[:space:]>,;]|$)";
    }

    private Condition envelope(Comparison parts) throws Unsayable {
        parts.refuseAllBut(Set.of());
        List<String> values = sentTo(parts);
        if (!parts.fields().equals(List.of("to")) || values == null) {
            throw new Unsayable("of the envelope only whole addresses that mail was sent to are known here");
        }
        return new SentTo(values);
    }

    private static Condition date(Comparison parts) throws Unsayable {
        parts.refuseAllBut(Set.of(NUMERIC));
        String part = parts.texts.size() < 2
                ? ""
                : parts.texts.get(parts.texts.size() - 2).values().get(0);
        List<String> values = parts.values();
        if (parts.test.is("date") && !parts.fields().equals(List.of("received"))) {
            throw new Unsayable("of dates only that of arrival is known here");
        }
        String relation = parts.match.equals("is") ? "eq" : parts.relation;
        if (part.equals("weekday") && parts.match.equals("is")) {
            Set<DayOfWeek> days = new HashSet<>();
            for (String value : values) {
                days.add(weekday(value));
            }
            return ReceivedAt.on(days);
        }
        if (values.size() > 1) {
            throw new Unsayable("a day or a time is compared with one value here");
        }
        if (part.equals("date") && !parts.has(NUMERIC)) {
            return ofDay(relation, values.get(0));
        }
        if (part.equals("hour") || (part.equals("time") && !parts.has(NUMERIC))) {
            return ofTime(relation, part, values.get(0));
        }
        throw new Unsayable("the part “%s” of a date has no counterpart here".formatted(part));
    }

    private static DayOfWeek weekday(String value) throws Unsayable {
        if (!value.matches("[0-6]")) {
            throw new Unsayable("“%s” is not a weekday".formatted(value));
        }
        return value.equals("0") ? DayOfWeek.SUNDAY : DayOfWeek.of(Integer.parseInt(value));
    }

    /** A whole hour, or a time whose seconds are on the border of a minute: the message's own have seconds, too. */
    private static ReceivedAt ofTime(String relation, String part, String value) throws Unsayable {
        boolean hour = part.equals("hour");
        boolean passes = relation.equals("gt") || relation.equals("le"); // The border is behind what is told.
        boolean fits = value.matches(hour ? "\\d\\d" : passes ? "\\d\\d:\\d\\d:59" : "\\d\\d:\\d\\d:00");
        int minute;
        try {
            minute = LocalTime.parse(hour ? value + ":00" : value).toSecondOfDay() / MINUTES;
        } catch (DateTimeException e) {
            fits = false;
            minute = 0;
        }
        if (!fits) {
            throw new Unsayable("“%s” is no %s that can be told to the minute".formatted(value, part));
        }
        minute += passes ? (hour ? MINUTES : 1) : 0;
        boolean from = relation.startsWith("g");
        if (!RELATIONS.contains(relation) || minute == (from ? ReceivedAt.DAY : 0)) {
            throw new Unsayable("“%s %s” of a time has no counterpart here".formatted(relation, value));
        }
        return from ? ReceivedAt.between(minute, ReceivedAt.DAY) : ReceivedAt.between(0, minute);
    }

    private static ReceivedAt ofDay(String relation, String value) throws Unsayable {
        LocalDate day;
        try {
            day = LocalDate.parse(value);
        } catch (DateTimeException e) {
            throw new Unsayable("“%s” is not a date".formatted(value));
        }
        return switch (relation) {
            case "ge" -> ReceivedAt.days(day, null);
            case "gt" -> ReceivedAt.days(day.plusDays(1), null);
            case "le" -> ReceivedAt.days(null, day);
            case "lt" -> ReceivedAt.days(null, day.minusDays(1));
            case "eq" -> ReceivedAt.days(day, day);
            default -> throw new Unsayable("“%s” of a date has no counterpart here".formatted(relation));
        };
    }
}
