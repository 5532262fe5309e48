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
import app.schublade.core.message.Address;
import app.schublade.core.message.Trait;
import app.schublade.core.words.Fold;
import app.schublade.core.words.WordSplitter;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.zone.ZoneOffsetTransition;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Says conditions as tests for a server that files in our place: what it decides must be what is decided here. Where it might
 * read a message otherwise (accents, HTML, odd addresses, sizes near the limit), the message counts as undecided.
 *
 * <p>Expressions are the extended ones of POSIX, as servers match them: byte by byte, without regard to case.
 */
final class ExactTests implements Condition.ConditionVisitor<Decidable, RuntimeException> {
    private static final String YES = "yes";
    /** Servers allow for so many variables, and some more. */
    private static final int MOST_FACTS = 60;
    /** Of more in one field not all are read here. */
    private static final int MOST_ADDRESSES = 100;

    private static final String ODD_TEXT = "[^ -~]|=\\?|  |^ | $";
    /** Of a longer one only the beginning is read here. */
    private static final String LONG_SUBJECT = "^.{450}";

    private static final Argument IS = Argument.tag("is");
    private static final Argument REGEX = Argument.tag("regex");
    private static final Argument CONTAINS = Argument.tag("contains");

    private static final String ACCENTS = "signs that are not ASCII, or double blanks";
    private static final String ODD_ADDRESSES = "several senders, or addresses that are written in an unusual way";
    private static final String PARTS = "attachments, HTML or several parts";
    private static final String NEAR_LIMIT = "a size near the limit";
    private static final String CLOCKS = "a time that depends on summer time";

    private static final String ANGLED = "[-a-z0-9._+=]+@[-a-z0-9.]+";
    /** A mailbox as nearly all are written (RFC 5322, section 3.4). */
    private static final String MAILBOX = "((\"[^\"\\\\]*\"|[^][\"\\\\,;:()<>@]*)[ ]*<" + ANGLED + ">|" + ANGLED + ")";

    private static final Test ODD_FROM = either(not(header("from", "^" + MAILBOX + "$")), several("from"));
    private static final List<String> DELIVERED = List.of("delivered-to", "x-original-to");
    private static final Test SEEN_HERE_ONLY = Test.of(
            "header",
            REGEX,
            Argument.text("envelope-to", "x-envelope-to", "resent-to", "resent-cc", "bcc", "apparently-to"),
            Argument.text("."));
    private static final Test ODD_DELIVERY = either(
            Test.of("header", REGEX, Argument.text(DELIVERED), Argument.text("[^-a-z0-9._+=@]|@.*@")), SEEN_HERE_ONLY);
    private static final Test ODD_LIST_ID =
            both(exists("list-id"), either(not(header("list-id", "^[^<>]*<[-a-z0-9._+=@]+>$")), several("list-id")));

    /** One text, and nothing that a reader would take for a file. */
    private static final Test ONE_TEXT = both(
            either(not(exists("content-type")), header("content-type", "^text/(plain|html)[ ]*(;|$)")),
            not(several("content-type")),
            not(exists("content-disposition")),
            not(Test.of("body", CONTAINS, Argument.tag("text"), Argument.text("begin ", "-----BEGIN"))));

    private static final Test PLAIN_ASCII = both(
            ONE_TEXT,
            either(
                    not(exists("content-type")),
                    header(
                            "content-type",
                            "^text/plain[ ]*(;[ ]*charset=\"?(us-ascii|utf-8|iso-8859-1|iso-8859-15|windows-1252)\"?[ ]*)?;?$")),
            either(not(exists("content-transfer-encoding")), header("content-transfer-encoding", "^(7bit|8bit)[ ]*$")),
            not(Test.of("size", Argument.tag("over"), new Argument.Count(100_000))),
            not(body("[^[:print:][:space:]]")));

    private static final int SIZE_PERCENT = 5;
    private static final int SIZE_SLACK = 4000;
    private static final int YEARS = 2;

    private static final String COMMON =
            "[A-Za-z0-9 ,;:@/_=<>!#%&'-]|\\\\[.*+?()|\\[\\]^$]|[()|]|[*+?](?![*+?{])|\\[(?:[A-Za-z0-9]-[A-Za-z0-9]|[A-Za-z0-9])+\\]";
    /** Expressions whose meaning is the same in RE2 and in POSIX. */
    private static final Pattern COMMON_TO_TEXTS = Pattern.compile("(?:" + COMMON + ")*");
    /** The same on one line. */
    private static final Pattern COMMON_TO_LINES = Pattern.compile("(?:" + COMMON + "|[.^$]|\\\\d)*");

    private static final Pattern DANGLING = Pattern.compile("(?:^|[(|^])[*+?|)]|[(|]$|^$");

    private final SieveWorld world;
    private final ZoneId zone;
    private final Instant now;
    private final Map<String, Test> facts = new LinkedHashMap<>();

    /** @param zone of the user, whose clock days and hours go by */
    ExactTests(SieveWorld world, ZoneId zone, Instant now) {
        this.world = world;
        this.zone = zone;
        this.now = now;
    }

    private static Test either(Test... tests) {
        return Decidable.either(List.of(tests));
    }

    private static Test both(Test... tests) {
        return Decidable.both(List.of(tests));
    }

    private static Test not(Test test) {
        return Decidable.not(test);
    }

    private static Test exists(String field) {
        return Test.of("exists", Argument.text(field));
    }

    private static Test header(String field, String expression) {
        return Test.of("header", REGEX, Argument.text(field), Argument.text(expression));
    }

    private static Test body(String expression) {
        return Test.of("body", REGEX, Argument.tag("text"), Argument.text(expression));
    }

    private static Test several(String field) {
        return count("header", "gt", List.of(field), 1);
    }

    private static Test count(String test, String relation, List<String> fields, int number) {
        return Test.of(
                test,
                Argument.tag("count"),
                Argument.text(relation),
                Argument.tag("comparator"),
                Argument.text("i;ascii-numeric"),
                Argument.text(fields),
                Argument.text(Integer.toString(number)));
    }

    private static Test addresses(String field, String part, List<String> expressions) {
        return Test.of("address", Argument.tag(part), REGEX, Argument.text(field), Argument.text(expressions));
    }

    /** Facts of a message that conditions ask for: each is found out once, and stands in a variable of this name. */
    Map<String, Test> facts() {
        return facts;
    }

    private Test fact(String name, Test test) {
        String free = name;
        for (int i = 2; !facts.getOrDefault(free, test).equals(test); i++) {
            free = name + "_" + i;
        }
        facts.put(free, test);
        return isSet(free);
    }

    /** Whether a variable (RFC 5229) tells that something is so. */
    static Test isSet(String variable) {
        return Test.of("string", IS, Argument.text("${" + variable + "}"), Argument.text(YES));
    }

    static Command set(String variable) {
        return Command.of("set", Argument.text(variable), Argument.text(YES));
    }

    private Test oddSender() {
        return fact("odd_from", ODD_FROM);
    }

    private Test oddList(String field) {
        Test odd = either(
                both(exists(field), not(header(field, "^" + MAILBOX + "([ ]*,[ ]*" + MAILBOX + ")*$"))),
                several(field),
                count("address", "gt", List.of(field), MOST_ADDRESSES));
        return fact("odd_" + field.replace('-', '_'), odd);
    }

    private Test oddRecipients() {
        return either(oddList("to"), oddList("cc"), fact("odd_delivery", ODD_DELIVERY));
    }

    private Test oneText() {
        return fact("one_text", ONE_TEXT);
    }

    private Test plain() {
        return fact("plain", PLAIN_ASCII);
    }

    private Test oddList() {
        return fact("odd_list_id", ODD_LIST_ID);
    }

    List<Decidable> all(List<Condition> conditions) {
        return conditions.stream().map(one -> one.accept(this)).toList();
    }

    @Override
    public Decidable not(Not not) {
        return not.condition().accept(this).not();
    }

    @Override
    public Decidable group(Group group) {
        List<Decidable> parts = all(group.parts());
        return parts.isEmpty()
                ? Decidable.exactly(Test.FALSE)
                : group.all() ? Decidable.all(parts) : Decidable.any(parts);
    }

    @Override
    public Decidable fromList(FromList list) {
        Test is = Test.of(
                "header",
                REGEX,
                Argument.text("list-id"),
                Argument.text(list.values().stream()
                        .map(value -> "<" + WordPattern.literal(value) + ">$")
                        .toList()));
        return Decidable.unless(
                oddList(), list.values().stream().allMatch(ExactTests::isAscii) ? is : Test.FALSE, ODD_ADDRESSES);
    }

    @Override
    public Decidable inAccount(InAccount in) {
        boolean here = in.accounts().stream().anyMatch(one -> one.id() == world.account());
        return Decidable.exactly(here ? Test.TRUE : Test.FALSE);
    }

    @Override
    public Decidable inConversation(InConversation in) {
        return Decidable.unknown("that are or are not " + in.sentence());
    }

    @Override
    public Decidable inGroup(InGroup in) {
        return Decidable.unknown("senders that are or are not " + in.sentence());
    }

    @Override
    public Decidable marked(Marked marked) {
        return Decidable.unknown("or without " + marked.sentence());
    }

    @Override
    public Decidable attached(Attached attached) {
        return withFiles();
    }

    @Override
    public Decidable sized(Sized sized) {
        if (sized.attachment()) {
            return withFiles();
        }
        long slack = sized.bytes() * SIZE_PERCENT / 100 + SIZE_SLACK;
        Test above = size("over", sized.bytes() + slack);
        Test below = size("under", Math.max(0, sized.bytes() - slack));
        return sized.larger()
                ? new Decidable(above, not(below), Set.of(NEAR_LIMIT))
                : new Decidable(below, not(above), Set.of(NEAR_LIMIT));
    }

    /** Of what is not one text a server cannot tell what a person would call a file. */
    private Decidable withFiles() {
        return new Decidable(Test.FALSE, not(oneText()), Set.of(PARTS));
    }

    private static Test size(String relation, long bytes) {
        return Test.of("size", Argument.tag(relation), new Argument.Count(bytes));
    }

    @Override
    public Decidable correspondent(Correspondent one) {
        boolean sender = one.role() == Correspondent.Role.SENDER;
        List<String> whole = new ArrayList<>();
        for (String value : one.values()) {
            if (!isAscii(value)) {
                continue; // No address that is written in the usual way has it.
            }
            if (value.startsWith("*.")) {
                whole.add("@(.*\\.)?" + WordPattern.literal(value.substring(2)) + "$");
            } else if (value.lastIndexOf('@') > 0) {
                whole.add("^" + WordPattern.literal(value) + "$");
            } else {
                whole.add("@" + WordPattern.literal(value.substring(value.lastIndexOf('@') + 1)) + "$");
            }
        }
        String field = sender ? "from" : "reply-to";
        Test is = whole.isEmpty() ? Test.FALSE : addresses(field, "all", whole);
        return Decidable.unless(sender ? oddSender() : oddList("reply-to"), is, ODD_ADDRESSES);
    }

    @Override
    public Decidable sentTo(SentTo sentTo) {
        List<String> expressions = new ArrayList<>();
        for (String value : sentTo.values()) {
            String key = Address.key(value);
            boolean own =
                    key.equals(world.own().main()) || world.own().aliases().contains(key);
            if (!isAscii(key)) {
                continue;
            }
            if (value.startsWith("+")) {
                expressions.add("^[^+@]*" + WordPattern.literal(value) + "@");
            } else if (own) {
                expressions.addAll(own(key));
            } else {
                expressions.add(fitting(key, "[^@]*"));
            }
        }
        return Decidable.unless(oddRecipients(), recipients(expressions), ODD_ADDRESSES);
    }

    private static Test recipients(List<String> expressions) {
        if (expressions.isEmpty()) {
            return Test.FALSE;
        }
        return either(
                addresses("to", "all", expressions),
                addresses("cc", "all", expressions),
                Test.of("header", REGEX, Argument.text(DELIVERED), Argument.text(expressions)));
    }

    /** See {@code OwnAddresses}: an own address is that also with a tag after a plus (RFC 5233). */
    private static List<String> own(String alias) {
        int at = alias.lastIndexOf('@');
        String direct = fitting(alias, "[^@]*");
        if (at < 0 || alias.substring(0, at).contains("+")) {
            return List.of(direct);
        }
        String tagged = "^" + pieces(alias.substring(0, at), "[^+@]*") + "\\+[^@]*"
                + pieces(alias.substring(at), "[^@]*") + "$";
        return List.of(direct, tagged);
    }

    private static String fitting(String pattern, String any) {
        return "^" + pieces(pattern, any) + "$";
    }

    private static String pieces(String pattern, String any) {
        return Arrays.stream(pattern.split("\\*", -1)).map(WordPattern::literal).collect(Collectors.joining(any));
    }

    private static boolean isAscii(String text) {
        return text.chars().allMatch(sign -> sign >= ' ' && sign < 0x7f);
    }

    @Override
    public Decidable traits(Traits some) {
        return Decidable.any(some.values().stream().map(this::trait).toList());
    }

    private Decidable trait(Trait trait) {
        return switch (trait) {
            case TO_ME -> addressed("to");
            case ONLY_COPIED ->
                Decidable.all(List.of(addressed("cc"), addressed("to").not()));
            case NOT_ADDRESSED ->
                Decidable.any(List.of(addressed("to"), addressed("cc"))).not();
            case TO_ME_ALONE ->
                Decidable.all(List.of(
                        addressed("to"),
                        Decidable.unless(
                                either(oddList("to"), oddList("cc")),
                                count("address", "eq", List.of("to", "cc"), 1),
                                ODD_ADDRESSES)));
            case LIST -> list();
            case AUTOMATED -> automated();
            case ATTACHMENT -> withFiles();
            case IMPORTANT -> priority("high", "^[12]", "urgent");
            case UNIMPORTANT -> priority("low", "^[45]", "non-urgent");
            case PERSONAL -> says("sensitivity", "personal");
            case PRIVATE -> says("sensitivity", "private");
            case CONFIDENTIAL -> says("sensitivity", "company-confidential", "confidential");
            case KEY_PERSON, KNOWN_SENDER, NEW_SENDER, ANSWER -> Decidable.unknown("or without: " + trait.words());
        };
    }

    private Decidable addressed(String field) {
        Set<String> expressions = new TreeSet<>();
        Stream.concat(Stream.of(world.own().main()), world.own().aliases().stream())
                .filter(ExactTests::isAscii)
                .forEach(alias -> expressions.addAll(own(alias)));
        return Decidable.unless(oddList(field), addresses(field, "all", List.copyOf(expressions)), ODD_ADDRESSES);
    }

    private Decidable list() {
        Decidable identified = Decidable.unless(oddList(), exists("list-id"), ODD_ADDRESSES);
        return Decidable.any(List.of(identified, Decidable.exactly(exists("list-post")), says("precedence", "list")));
    }

    private static Decidable says(String field, String... values) {
        return Decidable.exactly(Test.of("header", IS, Argument.text(field), Argument.text(values)));
    }

    private Decidable automated() {
        Test returned = Test.of("header", IS, Argument.text("return-path"), Argument.text("<>"));
        Test unanswerable = Test.of("envelope", IS, Argument.text("from"), Argument.text(""));
        String robots =
                "^((no|not|do-?not)[-_.]?reply|mailer-daemon|postmaster|bounces?|notifications?|alerts?|robot)$";
        return Decidable.any(List.of(
                list(),
                Decidable.exactly(header("auto-submitted", "^([^n]|n[^o]|n?$)")),
                says("precedence", "bulk", "junk", "auto_reply"),
                Decidable.exactly(exists("list-unsubscribe")),
                new Decidable(returned, either(returned, unanswerable), Set.of("no sender to answer to")),
                Decidable.unless(oddSender(), addresses("from", "localpart", List.of(robots)), ODD_ADDRESSES)));
    }

    private static Decidable priority(String importance, String number, String word) {
        Test contradiction =
                either(both(exists("x-priority"), exists("priority")), several("x-priority"), several("priority"));
        Test is = either(
                header("x-priority", number), Test.of("header", IS, Argument.text("priority"), Argument.text(word)));
        return Decidable.any(
                List.of(says("importance", importance), Decidable.unless(contradiction, is, "several priorities")));
    }

    @Override
    public Decidable text(Text text) {
        return switch (text.where()) {
            case SUBJECT -> inField("subject", text);
            case HEADER ->
                text.header().matches("[!-9;-~]+")
                        ? inField(text.header().toLowerCase(Locale.ROOT), text)
                        : Decidable.exactly(Test.FALSE);
            case BODY -> inBody(text);
            case SUBJECT_OR_BODY -> Decidable.any(List.of(inField("subject", text), inBody(text)));
            case SENDER_NAME -> Decidable.unknown("or without: " + text.sentence());
        };
    }

    private Decidable inField(String field, Text text) {
        if (facts.size() > MOST_FACTS) {
            return Decidable.unknown("or without: " + text.sentence());
        }
        Test unclear = field.equals("subject")
                ? either(header(field, ODD_TEXT + "|" + LONG_SUBJECT), several(field))
                : header(field, ODD_TEXT);
        return decided(
                fact("odd_text_in_" + field.replaceAll("[^a-z0-9]", "_"), unclear),
                text,
                COMMON_TO_LINES,
                expression -> header(field, expression),
                " ");
    }

    private Decidable inBody(Text text) {
        boolean whole = Set.of(Text.Match.IS, Text.Match.STARTS, Text.Match.ENDS, Text.Match.WILDCARD)
                .contains(text.match());
        return whole
                ? Decidable.unknown("or without: " + text.sentence())
                : decided(not(plain()), text, COMMON_TO_TEXTS, ExactTests::body, "[[:space:]]+");
    }

    /**
     * @param unclear whether the text may be read otherwise
     * @param common expressions that mean the same there
     * @param blank an expression for white space
     */
    private static Decidable decided(
            Test unclear, Text text, Pattern common, Function<String, Test> test, String blank) {
        if (text.match() == Text.Match.STARTS_AFTER_RE || text.match() == Text.Match.IS_AFTER_RE) {
            return Decidable.unknown("or without: " + text.sentence());
        }
        List<Test> values = new ArrayList<>();
        for (String value : text.values()) {
            switch (text.match()) {
                case WORDS -> values.add(words(WordSplitter.of(value), test));
                case PHRASE -> values.add(phrase(value, test));
                case REGEX -> {
                    if (!common.matcher(value).matches()
                            || DANGLING.matcher(value).find()) {
                        return Decidable.unknown("or without: " + text.sentence());
                    }
                    values.add(test.apply(value.replace("\\d", "[0-9]")));
                }
                default -> {
                    if (Fold.line(value).isEmpty()) {
                        return Decidable.unknown("or without: " + text.sentence());
                    }
                    forms(value)
                            .map(Fold::line)
                            .filter(ExactTests::isAscii)
                            .forEach(line -> values.add(test.apply(literal(text.match(), line, blank))));
                }
            }
        }
        return Decidable.unless(unclear, Decidable.either(values), ACCENTS);
    }

    private static Test words(List<WordSplitter.SplitWord> words, Function<String, Test> test) {
        if (words.isEmpty()) {
            return Test.FALSE;
        }
        return Decidable.both(words.stream()
                .map(word -> Decidable.either(word.forms().stream()
                        .filter(ExactTests::isAscii)
                        .map(form ->
                                test.apply(word.isSigned() ? WordPattern.signed(form) : WordPattern.of(List.of(form))))
                        .toList()))
                .toList());
    }

    private static Test phrase(String value, Function<String, Test> test) {
        List<Test> forms = forms(value)
                .map(form -> Fold.phrase(form).strip())
                .filter(words -> !words.isEmpty() && isAscii(words))
                .map(words -> test.apply(WordPattern.of(List.of(words.split(" ", -1)))))
                .toList();
        List<Test> all = new ArrayList<>(List.of(Decidable.either(forms)));
        Fold.signedWords(value).stream()
                .map(word -> isAscii(word) ? test.apply(WordPattern.signed(word)) : Test.FALSE)
                .forEach(all::add);
        return Decidable.both(all);
    }

    /** A text, and as it is written without umlauts: in ASCII it can be met by either. */
    private static Stream<String> forms(String text) {
        return Stream.of(text, Fold.withoutUmlauts(text)).distinct();
    }

    private static String literal(Text.Match match, String line, String blank) {
        String literal = WordPattern.literal(line).replace(" ", blank);
        return switch (match) {
            case STARTS -> "^" + literal;
            case ENDS -> literal + "$";
            case IS -> "^" + literal + "$";
            case WILDCARD -> "^" + literal.replace("\\*", ".*").replace("\\?", ".") + "$";
            default -> literal;
        };
    }

    /** A script knows no zones, only how far a clock is from the universal one: it must hold by all that the user's may be. */
    @Override
    public Decidable receivedAt(ReceivedAt at) {
        List<Test> tests =
                offsets().stream().map(offset -> receivedAt(at, offset)).toList();
        return tests.size() == 1
                ? Decidable.exactly(tests.get(0))
                : new Decidable(Decidable.both(tests), Decidable.either(tests), Set.of(CLOCKS));
    }

    private List<String> offsets() {
        Set<ZoneOffset> offsets = new TreeSet<>();
        offsets.add(zone.getRules().getOffset(now));
        Instant end = now.atZone(ZoneOffset.UTC).plusYears(YEARS).toInstant();
        ZoneOffsetTransition next = zone.getRules().nextTransition(now);
        while (next != null && next.getInstant().isBefore(end)) {
            offsets.add(next.getOffsetAfter());
            next = zone.getRules().nextTransition(next.getInstant());
        }
        return offsets.stream()
                .map(offset ->
                        offset.equals(ZoneOffset.UTC) ? "+0000" : offset.getId().replace(":", ""))
                .toList();
    }

    private static Test receivedAt(ReceivedAt at, String offset) {
        List<Test> tests = new ArrayList<>();
        if (at.first() != null) {
            tests.add(clock(offset, "ge", "date", at.first().toString()));
        }
        if (at.last() != null) {
            tests.add(clock(offset, "le", "date", at.last().toString()));
        }
        if (!at.days().isEmpty()) {
            tests.add(Decidable.either(at.days().stream()
                    .sorted()
                    .map(day ->
                            clock(offset, "eq", "weekday", String.valueOf(day.getValue() % DayOfWeek.values().length)))
                    .toList()));
        }
        List<Test> hours = new ArrayList<>();
        if (at.from() > 0) {
            hours.add(clock(offset, "ge", TestWriter.clockPart(at.from()), TestWriter.clockValue(at.from())));
        }
        if (at.to() < ReceivedAt.DAY) {
            hours.add(clock(offset, "lt", TestWriter.clockPart(at.to()), TestWriter.clockValue(at.to())));
        }
        if (at.from() < at.to()) {
            tests.addAll(hours);
        } else {
            tests.add(hours.size() < 2 ? Test.TRUE : Decidable.either(hours));
        }
        return Decidable.both(tests);
    }

    private static Test clock(String offset, String relation, String part, String value) {
        return Test.of(
                "currentdate",
                Argument.tag("zone"),
                Argument.text(offset),
                Argument.tag("value"),
                Argument.text(relation),
                Argument.text(part),
                Argument.text(value));
    }
}
