package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.store.rule.RuleStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.Duration;
import java.time.Instant;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What is told of rules that do not do what their user thinks. */
@ExtendWith(Office.Extension.class)
class RuleHealthPagesTest {
    private static final String SCHOOLS = RuleFields.SCHOOLS;

    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    RuleHealthPagesTest(Office office) {
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU", SCHOOLS);
    }

    private long rule(String domain, String folder) {
        return cabinet.rules.save(person.id(), cabinet.filing(person.id(), domain, folder));
    }

    @Test
    void whatARuleDidAndWhatIsThereIsJudged() {
        long gone = rule("a.example", "A");
        long idle = rule("b.example", "B");
        long deletes = cabinet.rules.save(person.id(), cabinet.filing(person.id(), "c.example", "Trash"));
        browser.post("/folders/" + cabinet.folder(person.id(), "A").id() + "/delete");
        cabinet.jdbc
                .sql("update rule set created_at = now() - interval '200 days' where id = ?")
                .param(idle)
                .update();
        assertThat(browser.get("/rules").page().select(".finding > span").eachText())
                .containsExactly(
                        "Paused: The folder A was deleted.",
                        "It has never acted in the 6 months since it was made.",
                        "It deletes mail that nobody has read.");
        browser.post("/rules/" + deletes + "/archive-instead");
        assertThat(cabinet.rules.byId(person.id(), deletes).orElseThrow().sentence())
                .endsWith("file into Archive");
        browser.post("/rules/" + gone + "/turn");
        assertThat(browser.get("/rules").page().select(".finding > span").eachText())
                .as("it was switched on all the same")
                .startsWith("Its folder was deleted; the next message that it files makes it again.")
                .hasSize(2);
    }

    @Test
    void aRuleThatTakesFarMoreThanItWasMadeForIsNarrowed() {
        cabinet.arrives(
                account,
                TestMail.from("Runa <runa@westwharf.example>", "Before")
                        .to(SCHOOLS)
                        .at(Instant.now()));
        String trial =
                browser.trial(RuleFields.visits()).select("input[name=scan]").attr("value");
        browser.post("/rules", RuleFields.visits("scan", trial));
        long id = cabinet.rules.all(person.id()).get(0).id();
        assertThat(cabinet.rules.histories(person.id()).values())
                .as("one in a year")
                .extracting(RuleStore.History::expected)
                .allSatisfy(expected -> assertThat(expected).isBetween(0.08, 0.09));
        for (int i = 0; i < 25; i++) {
            cabinet.arrives(
                    account,
                    TestMail.from("Flood <n@flood.example>", "Flood " + i)
                            .to(SCHOOLS)
                            .at(Instant.now()));
        }
        Document page = browser.get("/rules").page();
        assertThat(page.select(".finding").text())
                .isEqualTo("It took 25 messages in 30 days; as it was made, it would have taken hardly any."
                        + " Leave out mail from flood.example, 25 of them");
        browser.post(
                "/rules/" + id + "/leave-out",
                "sender",
                page.select(".finding input[name=sender]").attr("value"));
        assertThat(cabinet.rules.byId(person.id(), id).orElseThrow().sentence()).contains("unless from flood.example");
        assertThat(cabinet.lies(
                        person.id(),
                        cabinet.arrives(
                                account,
                                TestMail.from("Flood <n@flood.example>", "More").to(SCHOOLS))))
                .isEqualTo("Inbox");
    }

    @Test
    void aRuleThatWasRunOverOldMailIsNotWarnedOf() {
        Instant longAgo = Instant.now().minus(Duration.ofDays(100));
        for (int i = 0; i < 25; i++) {
            cabinet.arrives(
                    account,
                    TestMail.from("Runa <runa@westwharf.example>", "Visit " + i)
                            .to(SCHOOLS)
                            .at(longAgo));
        }
        Document trial = browser.trial(RuleFields.visits());
        browser.post(
                "/rules",
                RuleFields.visits("scan", trial.select("input[name=scan]").attr("value"), "run", "on"));
        long id = cabinet.rules.all(person.id()).get(0).id();
        assertThat(cabinet.rules.histories(person.id()).get(id)).isNotNull().satisfies(history -> {
            assertThat(history.acted()).isEqualTo(25);
            assertThat(history.lately()).as("of the last thirty days").isZero();
        });
        assertThat(browser.get("/rules").page().select(".finding").text()).isEmpty();
    }

    @Test
    void whatNoMessageCanHaveIsSaidAtOnce() {
        Object[] impossible = {
            "id",
            0,
            "name",
            "Both",
            "on",
            "off",
            "on",
            "on",
            "whenKind",
            "SENDER",
            "whenText",
            "anna@wharf.example",
            "whenKind",
            "SENDER",
            "whenText",
            "ben@wharf.example",
            "thenKind",
            "FILE",
            "thenText",
            "Schools"
        };
        String both = "from anna@wharf.example and from ben@wharf.example";
        assertThat(browser.trial(impossible).text())
                .contains("No message can have this: " + both + ".")
                .doesNotContain("Later mail may");
        browser.post("/rules", impossible);
        assertThat(browser.get("/rules").page().select(".finding > span").eachText())
                .containsExactly("It never acts: no message can have this: " + both + ".");
    }
}
