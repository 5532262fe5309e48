package app.schublade.core.sieve;

import app.schublade.core.filing.Attached;
import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.FromList;
import app.schublade.core.filing.Group;
import app.schublade.core.filing.InAccount;
import app.schublade.core.filing.InConversation;
import app.schublade.core.filing.InGroup;
import app.schublade.core.filing.Marked;
import app.schublade.core.filing.Not;
import app.schublade.core.filing.ReceivedAt;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Sized;
import app.schublade.core.filing.Text;
import app.schublade.core.filing.Traits;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.message.Trait;
import app.schublade.core.words.Fold;
import java.time.DayOfWeek;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;

/** Says conditions as tests of a script. */
final class TestWriter implements Condition.ConditionVisitor<Test, Unsayable> {
    static final List<String> RECIPIENTS = List.of("to", "cc", "delivered-to", "x-original-to");

    private static final int MINUTES = 60;
    private static final Argument IS = Argument.tag("is");
    private static final Argument MATCHES = Argument.tag("matches");
    private static final Argument REGEX = Argument.tag("regex");
    private static final Pattern STARS = Pattern.compile("[*?]*\\*[*?]*");
    private static final Pattern FIELD = Pattern.compile("[!-9;-~]+");
    /** What RE2 has and extended regular expressions of POSIX have not, apart from what {@link #posix} says otherwise. */
    private static final Pattern BEYOND_POSIX = Pattern.compile("\\(\\?|[*+?}][?+]|\\\\[\\p{Alnum}]|\\[\\[:\\^");

    private final SieveWorld world;
    private final TraitTests traits;

    TestWriter(SieveWorld world) {
        this.world = world;
        traits = new TraitTests(world.own());
    }

    Test test(Condition condition) throws Unsayable {
        return condition.accept(this);
    }

    @Override
    public Test not(Not not) throws Unsayable {
        return Test.not(test(not.condition()));
    }

    @Override
    public Test group(Group group) throws Unsayable {
        List<Test> parts = tests(group.parts());
        return parts.isEmpty() ? Test.FALSE : group.all() ? Test.all(parts) : Test.any(parts);
    }

    @Override
    public Test fromList(FromList list) {
        return Test.of("header", MATCHES, Argument.text("list-id"), Argument.text(lists(list)));
    }

    @Override
    public Test inAccount(InAccount in) {
        return in.accounts().stream().anyMatch(one -> one.id() == world.account()) ? Test.TRUE : Test.FALSE;
    }

    @Override
    public Test traits(Traits some) throws Unsayable {
        List<Test> tests = new ArrayList<>();
        for (Trait trait : some.values()) {
            tests.add(traits.test(trait));
        }
        return Test.any(tests);
    }

    @Override
    public Test inConversation(InConversation in) throws Unsayable {
        throw unknown(in);
    }

    @Override
    public Test inGroup(InGroup in) throws Unsayable {
        throw unknown(in);
    }

    @Override
    public Test marked(Marked marked) throws Unsayable {
        throw unknown(marked);
    }

    private static Unsayable unknown(Condition condition) {
        return new Unsayable("a script does not know “%s”".formatted(condition.sentence()));
    }

    List<Test> tests(List<Condition> conditions) throws Unsayable {
        List<Test> tests = new ArrayList<>();
        for (Condition condition : conditions) {
            tests.add(test(condition));
        }
        return tests;
    }

    /** A text in which nothing stands for other signs, for {@code :matches}. */
    static String escaped(String text) {
        return text.replace("\\", "\\\\").replace("*", "\\*").replace("?", "\\?");
    }

    private static List<String> lists(FromList list) {
        List<String> patterns = new ArrayList<>();
        for (String value : list.values()) {
            patterns.add("*<" + escaped(value) + ">*");
            patterns.add(escaped(value));
        }
        return patterns;
    }

    @Override
    public Test correspondent(Correspondent one) {
        Argument field = Argument.text(one.role() == Correspondent.Role.SENDER ? "from" : "reply-to");
        List<String> addresses = new ArrayList<>();
        List<String> domains = new ArrayList<>();
        List<String> below = new ArrayList<>();
        for (String value : one.values()) {
            if (value.startsWith("*.")) {
                domains.add(value.substring(2));
                below.add("*." + escaped(value.substring(2)));
            } else if (value.lastIndexOf('@') > 0) {
                addresses.add(value);
            } else {
                domains.add(value.substring(value.lastIndexOf('@') + 1));
            }
        }
        List<Test> tests = new ArrayList<>();
        if (!addresses.isEmpty()) {
            tests.add(Test.of("address", IS, field, Argument.text(addresses)));
        }
        if (!domains.isEmpty()) {
            tests.add(Test.of("address", Argument.tag("domain"), IS, field, Argument.text(domains)));
        }
        if (!below.isEmpty()) {
            tests.add(Test.of("address", Argument.tag("domain"), MATCHES, field, Argument.text(below)));
        }
        return Test.any(tests);
    }

    @Override
    public Test sentTo(SentTo sentTo) {
        List<String> patterns = new ArrayList<>();
        List<String> tags = new ArrayList<>();
        for (String value : sentTo.values()) {
            boolean own =
                    value.equals(world.own().main()) || world.own().aliases().contains(value);
            if (value.startsWith("+")) {
                tags.add(value.substring(1));
            } else if (own) {
                patterns.addAll(TraitTests.withTags(value));
            } else {
                patterns.add(OwnAddresses.isPattern(value) ? value : escaped(value));
            }
        }
        List<Test> tests = new ArrayList<>();
        if (!patterns.isEmpty()) {
            tests.add(Test.of("address", MATCHES, Argument.text(RECIPIENTS), Argument.text(patterns)));
            tests.add(Test.of("envelope", MATCHES, Argument.text("to"), Argument.text(patterns)));
        }
        if (!tags.isEmpty()) {
            Argument detail = Argument.tag("detail");
            tests.add(Test.of("address", detail, IS, Argument.text(RECIPIENTS), Argument.text(tags)));
            tests.add(Test.of("envelope", detail, IS, Argument.text("to"), Argument.text(tags)));
        }
        return Test.any(tests);
    }

    @Override
    public Test text(Text text) throws Unsayable {
        return switch (text.where()) {
            case SUBJECT -> text(text, "header", Argument.text("subject"));
            case BODY -> text(text, "body", Argument.tag("text"));
            case SUBJECT_OR_BODY ->
                Test.any(List.of(
                        text(text, "header", Argument.text("subject")), text(text, "body", Argument.tag("text"))));
            case HEADER -> {
                if (!FIELD.matcher(text.header()).matches()) {
                    throw new Unsayable("“%s” is not the name of a header field".formatted(text.header()));
                }
                yield text(text, "header", Argument.text(text.header().toLowerCase(Locale.ROOT)));
            }
            case SENDER_NAME ->
                throw new Unsayable("a script cannot tell the sender’s name from the address that stands with it");
        };
    }

    /** @param place the name of the header field, or the tag of the body */
    private static Test text(Text text, String name, Argument place) throws Unsayable {
        if (text.match() == Text.Match.STARTS_AFTER_RE || text.match() == Text.Match.IS_AFTER_RE) {
            throw new Unsayable("a script does not know what stands before a subject because it is an answer");
        }
        List<Test> tests = new ArrayList<>();
        List<String> alike = new ArrayList<>();
        for (String value : text.values()) {
            boolean inWords = text.match() == Text.Match.WORDS || text.match() == Text.Match.PHRASE;
            if (inWords && !Fold.signedWords(value).isEmpty()) {
                throw new Unsayable("signs that belong to a word, as in “%s”, are none to a script".formatted(value));
            }
            switch (text.match()) {
                case WORDS -> {
                    List<Test> words = new ArrayList<>();
                    for (String word : WordPattern.words(value)) {
                        words.add(test(name, REGEX, place, List.of(WordPattern.of(List.of(word)))));
                    }
                    tests.add(words.isEmpty() ? Test.FALSE : Test.all(words));
                }
                case PHRASE -> {
                    List<String> words = WordPattern.words(value);
                    if (!words.isEmpty()) {
                        alike.add(WordPattern.of(words));
                    }
                }
                default -> alike.add(value(text.match(), value.strip(), name));
            }
        }
        if (!alike.isEmpty()) {
            tests.add(test(name, match(text.match()), place, alike));
        }
        return Test.any(tests);
    }

    private static Test test(String name, Argument match, Argument place, List<String> values) {
        return Test.of(name, match, place, Argument.text(values));
    }

    private static Argument match(Text.Match match) {
        return switch (match) {
            case WORDS, PHRASE, REGEX -> REGEX;
            case CONTAINS -> Argument.tag("contains");
            case IS -> IS;
            case STARTS, ENDS, WILDCARD, STARTS_AFTER_RE, IS_AFTER_RE -> MATCHES;
        };
    }

    private static String value(Text.Match match, String value, String name) throws Unsayable {
        if (value.isEmpty()) {
            throw new Unsayable("nothing is given to look for");
        }
        if (name.equals("body") && match != Text.Match.CONTAINS && match != Text.Match.REGEX) {
            throw new Unsayable("a script cannot compare the whole body, only look into it");
        }
        return switch (match) {
            case STARTS -> escaped(value) + "*";
            case ENDS -> "*" + escaped(value);
            case WILDCARD -> pattern(value);
            case REGEX -> posix(value);
            default -> value;
        };
    }

    /** Stars go before question marks, which means the same: some servers fall over a question mark before a star. */
    private static String pattern(String wildcards) {
        return STARS.matcher(wildcards.replace("\\", "\\\\"))
                .replaceAll(run -> "*" + run.group().replace("*", ""));
    }

    private static String posix(String expression) throws Unsayable {
        String posix =
                expression.replace("\\d", "[0-9]").replace("\\s", "[[:space:]]").replace("\\w", "[[:alnum:]_]");
        if (BEYOND_POSIX.matcher(posix).find() || (!posix.equals(expression) && expression.contains("["))) {
            throw new Unsayable("“%s” is a regular expression that scripts do not have".formatted(expression));
        }
        return posix;
    }

    @Override
    public Test attached(Attached attached) throws Unsayable {
        List<Test> tests = new ArrayList<>();
        List<String> names = new ArrayList<>();
        for (String value : attached.values()) {
            String kind = value.toLowerCase(Locale.ROOT);
            if (attached.by() == Attached.By.NAME) {
                names.add(pattern(value));
            } else if (Set.of("text", "plain", "html", "multipart").contains(kind) || kind.startsWith("text/")) {
                throw new Unsayable("a script cannot tell attached text from the text itself");
            } else if (kind.contains("/")) {
                tests.add(parts("content-type", "contenttype", List.of(kind)));
            } else {
                tests.add(parts("content-type", "type", List.of(kind)));
                tests.add(parts("content-type", "subtype", List.of(kind)));
                names.add("*." + escaped(kind.startsWith(".") ? kind.substring(1) : kind));
            }
        }
        if (!names.isEmpty()) {
            tests.add(parts("content-disposition", "filename", names));
            tests.add(parts("content-type", "name", names));
        }
        return Test.any(tests);
    }

    /** RFC 5703, section 4: something of the parts of a message; of a parameter if it is none of the three. */
    private static Test parts(String field, String what, List<String> values) {
        boolean parameter = !Set.of("contenttype", "type", "subtype").contains(what);
        List<Argument> arguments = new ArrayList<>(List.of(Argument.tag("mime"), Argument.tag("anychild")));
        arguments.add(Argument.tag(parameter ? "param" : what));
        if (parameter) {
            arguments.add(Argument.text(what));
        }
        arguments.addAll(List.of(parameter ? MATCHES : IS, Argument.text(field), Argument.text(values)));
        return new Test("header", arguments, List.of());
    }

    @Override
    public Test sized(Sized sized) throws Unsayable {
        if (sized.attachment()) {
            throw new Unsayable("a script cannot measure attachments");
        }
        return Test.of("size", Argument.tag(sized.larger() ? "over" : "under"), new Argument.Count(sized.bytes()));
    }

    @Override
    public Test receivedAt(ReceivedAt at) {
        List<Test> tests = new ArrayList<>();
        if (at.first() != null) {
            tests.add(now("ge", "date", at.first().toString()));
        }
        if (at.last() != null) {
            tests.add(now("le", "date", at.last().toString()));
        }
        if (!at.days().isEmpty()) {
            List<String> days = new TreeSet<>(at.days())
                    .stream()
                            .map(day -> String.valueOf(day.getValue() % DayOfWeek.values().length))
                            .toList();
            tests.add(Test.of("currentdate", IS, Argument.text("weekday"), Argument.text(days)));
        }
        List<Test> hours = new ArrayList<>();
        if (at.from() > 0) {
            hours.add(now("ge", clockPart(at.from()), clockValue(at.from())));
        }
        if (at.to() < ReceivedAt.DAY) {
            hours.add(now("lt", clockPart(at.to()), clockValue(at.to())));
        }
        if (at.from() < at.to()) {
            tests.addAll(hours);
        } else {
            tests.add(hours.size() < 2 ? Test.TRUE : Test.any(hours));
        }
        return Test.all(tests);
    }

    /** The part of a date (RFC 5260, section 4.2) by which a minute of the day is told. */
    static String clockPart(int minute) {
        return minute % MINUTES == 0 ? "hour" : "time";
    }

    static String clockValue(int minute) {
        return minute % MINUTES == 0
                ? "%02d".formatted(minute / MINUTES)
                : "%02d:%02d:00".formatted(minute / MINUTES, minute % MINUTES);
    }

    private static Test now(String relation, String part, String value) {
        return Test.of(
                "currentdate",
                Argument.tag("value"),
                Argument.text(relation),
                Argument.text(part),
                Argument.text(value));
    }
}
