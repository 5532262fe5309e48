package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.RuleHealth.FindingKind;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.message.Trait;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RuleHealthTest {
    private static final Effect INTO_A = new Effect.FileInto(new FolderRef(7, FolderPath.parse("A")));
    private static final Effect INTO_B = new Effect.FileInto(new FolderRef(8, FolderPath.parse("B")));
    private static final Condition DOMAIN = Correspondent.sender("quay.example");
    private static final Condition PERSON = Correspondent.sender("anna@quay.example");

    private static Rule rule(long id, boolean last, List<Condition> when, List<Condition> unless, Effect... then) {
        return new Rule(id, "Rule " + id, true, when, unless, List.of(then), last);
    }

    private static List<String> findings(Rule... rules) {
        return RuleHealth.of(new RuleBook(List.of(rules))).stream()
                .map(finding -> finding.rule().id() + " " + finding.kind() + " " + finding.number())
                .toList();
    }

    @Test
    void rulesThatCannotDoWhatTheySayAreFound() {
        Rule wide = rule(1, false, List.of(DOMAIN), List.of(), INTO_A);
        Rule stop = rule(2, true, List.of(DOMAIN), List.of());
        Rule narrow = rule(3, false, List.of(PERSON, Text.subject("loan")), List.of(), INTO_B);
        assertThat(findings(wide, narrow)).containsExactly("3 OUTRANKED 1");
        assertThat(findings(stop, narrow)).containsExactly("3 SHADOWED 1");
        assertThat(findings(narrow, wide, stop)).isEmpty();
        assertThat(findings(wide, rule(4, false, List.of(DOMAIN), List.of(), INTO_A)))
                .containsExactly("4 TWICE 1");
        Rule excepting = rule(5, true, List.of(DOMAIN), List.of(Text.subject("loan")));
        assertThat(findings(excepting, narrow)).as("the exception spares it").isEmpty();
        assertThat(RuleHealth.of(new RuleBook(List.of(stop, narrow))).get(0).says())
                .isEqualTo("It never acts: rule 1 takes all of its mail and says “no later rules”.");
    }

    @Test
    void rulesAreJudgedByWhatTheyDidAndWhatIsThere() {
        LocalDate today = LocalDate.of(2026, 11, 25);
        Condition over = ReceivedAt.days(null, today.minusDays(1));
        Condition lastDay = ReceivedAt.days(null, today);
        Effect trash = new Effect.FileInto(new FolderRef(2, FolderPath.parse("Trash")));
        Effect gone = new Effect.FileInto(new FolderRef(99, FolderPath.parse("Gone")));
        Rule off = new Rule(10, "Off", false, List.of(over), List.of(), List.of(INTO_A), false);
        RuleBook book = new RuleBook(List.of(
                rule(1, false, List.of(PERSON, over), List.of(), INTO_A),
                rule(2, false, List.of(Text.subject("two"), lastDay), List.of(), INTO_A),
                rule(3, false, List.of(Text.subject("three")), List.of(), gone),
                rule(4, false, List.of(Text.subject("four")), List.of(), trash),
                rule(5, false, List.of(Text.subject("five")), List.of(), INTO_A),
                rule(6, false, List.of(Text.subject("six")), List.of(), INTO_A),
                rule(7, false, List.of(Text.subject("seven")), List.of(), INTO_A),
                off));
        Map<Long, RuleHealth.Past> pasts = Map.of(
                5L, past(today.minusMonths(5), null),
                6L, past(today.minusMonths(9), today.minusMonths(4)),
                7L, past(today.minusMonths(9), today.minusMonths(2)));
        assertThat(RuleHealth.of(book, new RuleHealth.Circumstances(today, pasts, Set.of(7L, 8L, 2L), 2, Map.of())))
                .extracting(finding -> finding.rule().id() + " " + finding.says())
                .containsExactly(
                        "1 It is over: its last day has passed.",
                        "3 Its folder was deleted; the next message that it files makes it again.",
                        "4 It deletes mail that nobody has read.",
                        "5 It has never acted in the 5 months since it was made.",
                        "6 It has not acted for 4 months.");
    }

    private static RuleHealth.Past past(LocalDate since, @Nullable LocalDate last) {
        return new RuleHealth.Past(since, last, 0, null);
    }

    private static List<String> around(Map<Long, RuleHealth.Past> pasts, Rule... rules) {
        Map<Long, OwnAddresses> accounts = Map.of(
                1L, new OwnAddresses("tilda@quay.example", Set.of("loans@quay.example")),
                2L, new OwnAddresses("tilda@home.example", Set.of()));
        LocalDate today = LocalDate.of(2026, 11, 25);
        return RuleHealth.of(
                        new RuleBook(List.of(rules)),
                        new RuleHealth.Circumstances(today, pasts, Set.of(7L, 8L), 2, accounts))
                .stream()
                .map(finding -> finding.rule().id() + " " + finding.says())
                .toList();
    }

    private static Effect forward(String to) {
        return new Effect.Forward(to, true, "");
    }

    @Test
    void whatIsForwardedInACircleIsFound() {
        Condition quay = new InAccount(List.of(new InAccount.Ref(1, "Quay")));
        Condition home = new InAccount(List.of(new InAccount.Ref(2, "Home")));
        Rule toHome = rule(1, false, List.of(quay), List.of(), forward("Me <Tilda@Home.example>"));
        Rule back = rule(2, false, List.of(home, Text.subject("loan")), List.of(), forward("loans@quay.example"));
        assertThat(around(Map.of(), toHome))
                .as("it takes no mail of the other account")
                .isEmpty();
        assertThat(around(Map.of(), toHome, back))
                .containsExactly(
                        "1 It forwards in a circle: to an address of yours, from where rule 2 forwards again.",
                        "2 It forwards in a circle: to an address of yours, from where rule 1 forwards again.");
        assertThat(around(
                        Map.of(), rule(3, false, List.of(Text.subject("x")), List.of(), forward("tilda@home.example"))))
                .as("it forwards what it forwarded")
                .containsExactly(
                        "3 It forwards in a circle: to an address of yours, from where rule 1 forwards again.");
        Condition mine = Correspondent.sender("tilda@quay.example");
        assertThat(around(
                        Map.of(), toHome, rule(2, false, List.of(home), List.of(mine), forward("loans@quay.example"))))
                .as("an exception for what was forwarded")
                .isEmpty();
        assertThat(around(Map.of(), rule(4, false, List.of(PERSON), List.of(), forward("tilda@home.example"))))
                .as("what it forwards is from oneself, and not from Anna")
                .isEmpty();
        assertThat(around(Map.of(), toHome, rule(5, false, List.of(home), List.of(), forward("ben@wharf.example"))))
                .as("it goes on to somebody else")
                .isEmpty();
    }

    @Test
    void aRuleThatTakesFarMoreThanItWasMadeForIsFound() {
        LocalDate made = LocalDate.of(2026, 6, 1);
        LocalDate last = LocalDate.of(2026, 11, 24);
        Rule rule = rule(1, false, List.of(Text.subject("x")), List.of(), INTO_A);
        assertThat(around(Map.of(1L, new RuleHealth.Past(made, last, 61, 12.0)), rule))
                .containsExactly("1 It took 61 messages in 30 days; as it was made, it would have taken about 12.");
        assertThat(around(Map.of(1L, new RuleHealth.Past(made, last, 20, 0.1)), rule))
                .containsExactly("1 It took 20 messages in 30 days; as it was made, it would have taken hardly any.");
        assertThat(around(Map.of(1L, new RuleHealth.Past(made, last, 60, 12.0)), rule))
                .isEmpty();
        assertThat(around(Map.of(1L, new RuleHealth.Past(made, last, 19, 0.1)), rule))
                .isEmpty();
        assertThat(around(Map.of(1L, new RuleHealth.Past(made, last, 900, null)), rule))
                .isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "anna@quay.example, quay.example, true",
        "anna@quay.example, *.quay.example, true",
        "anna@east.quay.example, quay.example, false",
        "east.quay.example, *.quay.example, true",
        "*.east.quay.example, *.quay.example, true",
        "*.quay.example, quay.example, false",
        "quay.example, anna@quay.example, false"
    })
    void senders(String narrow, String wide, boolean implied) {
        assertThat(ConditionLogic.implies(Correspondent.sender(narrow), Correspondent.sender(wide)))
                .isEqualTo(implied);
    }

    @Test
    void groupsAreLookedInto() {
        assertThat(ConditionLogic.implies(PERSON, new Group(false, List.of(Text.subject("x"), DOMAIN))))
                .isTrue();
        assertThat(ConditionLogic.implies(new Group(true, List.of(Text.subject("x"), PERSON)), DOMAIN))
                .isTrue();
        assertThat(ConditionLogic.implies(new Group(false, List.of(Text.subject("x"), PERSON)), DOMAIN))
                .isFalse();
        assertThat(ConditionLogic.implies(new FromList(List.of("a.example")), new Traits(List.of(Trait.LIST))))
                .isTrue();
    }

    /** Whatever is said of generated rules must be so on generated mail. */
    @Test
    void whatIsSaidIsSo() {
        int found = 0;
        for (int seed = 0; seed < 400; seed++) {
            RandomMail random = new RandomMail(new Random(seed));
            List<Rule> rules = new ArrayList<>();
            for (int i = 0; i < 12; i++) {
                Rule rule = random.rule(i);
                rules.add(rule);
                List<Condition> narrower = new ArrayList<>(rule.when());
                narrower.addAll(random.rule(0).when());
                rules.add(new Rule(100 + i, "Narrower", true, narrower, rule.unless(), List.of(INTO_B), false));
            }
            RuleBook book = new RuleBook(rules);
            List<RuleHealth.Finding> findings = RuleHealth.of(book);
            found += findings.size();
            for (int i = 0; i < 50; i++) {
                Verdict verdict = book.file(random.message(), random.state());
                for (RuleHealth.Finding finding : findings) {
                    verdict.of(finding.rule().id()).ifPresent(hit -> {
                        assertThat(finding.kind())
                                .as("a shadowed rule does not act")
                                .isNotEqualTo(FindingKind.SHADOWED);
                        assertThat(hit.effects())
                                .as("one that is outranked, or there twice, never chooses the folder")
                                .noneMatch(Effect.FileInto.class::isInstance);
                    });
                }
            }
        }
        assertThat(found).as("the cases are worth comparing").isGreaterThan(200);
    }
}
