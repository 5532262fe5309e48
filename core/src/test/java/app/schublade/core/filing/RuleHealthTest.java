package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.RuleHealth.Kind;
import app.schublade.core.message.Trait;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
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
                .map(finding -> finding.rule().id() + " " + finding.kind() + " " + finding.earlier())
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
        assertThat(RuleHealth.implies(Correspondent.sender(narrow), Correspondent.sender(wide)))
                .isEqualTo(implied);
    }

    @Test
    void groupsAreLookedInto() {
        assertThat(RuleHealth.implies(PERSON, new Group(false, List.of(Text.subject("x"), DOMAIN))))
                .isTrue();
        assertThat(RuleHealth.implies(new Group(true, List.of(Text.subject("x"), PERSON)), DOMAIN))
                .isTrue();
        assertThat(RuleHealth.implies(new Group(false, List.of(Text.subject("x"), PERSON)), DOMAIN))
                .isFalse();
        assertThat(RuleHealth.implies(new FromList(List.of("a.example")), new Traits(List.of(Trait.LIST))))
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
                                .isNotEqualTo(Kind.SHADOWED);
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
