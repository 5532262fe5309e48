package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Text;
import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The list of the rules: switched, moved, dropped, several at once, and as they were. */
@ExtendWith(Office.Extension.class)
class RuleStripPagesTest {
    private static final String SCHOOLS = RuleFields.SCHOOLS;

    private final Cabinet cabinet;
    private final Office office;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    RuleStripPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU", SCHOOLS);
    }

    @Test
    void aRuleThatIsOutrankedIsSaidAndMendedInOnePress() {
        long wide = cabinet.rules.save(person.id(), cabinet.filing(person.id(), "*.b.example", "Wide"));
        long narrow = cabinet.rules.save(person.id(), cabinet.filing(person.id(), "a.b.example", "Narrow"));
        Document page = browser.get("/rules").page();
        assertThat(page.select(".finding").text())
                .contains("It never chooses the folder: rule 1 files all of its mail.", "Put it before rule 1");
        browser.post(page.select(".finding form").attr("action"));
        assertThat(cabinet.rules.book(person.id()).rules()).extracting(Rule::id).containsExactly(narrow, wide);
        assertThat(browser.get("/rules").page().select(".finding")).isEmpty();
    }

    @Test
    void rulesAreSwitchedMovedDoubledAndDeletedFromTheStrip() {
        long first = cabinet.rules.save(person.id(), cabinet.filing(person.id(), "a.example", "A"));
        long second = cabinet.rules.save(person.id(), cabinet.filing(person.id(), "b.example", "B"));
        browser.post("/rules/" + first + "/turn");
        assertThat(browser.get("/rules").page().select(".rules .bar small").text())
                .isEqualTo("1 on, 1 off");
        browser.post("/rules/" + second + "/shift", "by", -1);
        assertThat(browser.get("/rules").page().select(".rule b").eachText())
                .containsExactly("From b.example", "From a.example");
        String copy = browser.post("/rules/" + second + "/duplicate").header("Location");
        Document page = browser.get(copy).page();
        assertThat(page.select("input[name=name]").val()).isEqualTo("Copy of From b.example");
        assertThat(page.select("input[type=checkbox][name=on]").hasAttr("checked"))
                .isFalse();
        browser.post(copy + "/delete");
        assertThat(browser.get(copy).status()).isEqualTo(404);
        assertThat(cabinet.rules.book(person.id()).rules()).hasSize(2);
    }

    @Test
    void nobodyTouchesTheRulesOfOthers() {
        long id = cabinet.rules.save(person.id(), cabinet.filing(person.id(), "a.example", "A"));
        Browser stranger = new Browser(office, office.person());
        for (String deed : List.of("turn", "duplicate", "delete")) {
            assertThat(stranger.post("/rules/" + id + "/" + deed).status()).isEqualTo(404);
        }
        stranger.post("/rules/" + id + "/shift", "by", 1);
        stranger.post("/rules", "id", id, "whenKind", "SENDER", "whenText", "x", "thenKind", "READ", "thenText", "");
        assertThat(cabinet.rules.book(person.id()).rules()).singleElement().satisfies(rule -> {
            assertThat(rule.name()).isEqualTo("From a.example");
            assertThat(rule.on()).isTrue();
        });
    }

    private long rule(String domain, String folder) {
        return cabinet.rules.save(person.id(), cabinet.filing(person.id(), domain, folder));
    }

    private List<Long> order() {
        return cabinet.rules.book(person.id()).rules().stream().map(Rule::id).toList();
    }

    @Test
    void severalRulesAreSwitchedRunAndDeletedAtOnce() {
        long message = cabinet.arrives(account, TestMail.from("a@a.example", "One"));
        long a = rule("a.example", "A");
        long b = rule("b.example", "B");
        long kept = rule("c.example", "C");
        browser.post("/rules/several", "ids", a, "ids", b, "deed", "OFF");
        assertThat(browser.get("/rules").notice()).isEqualTo("2 rules: switched off");
        assertThat(cabinet.rules.book(person.id()).rules()).extracting(Rule::on).containsExactly(false, false, true);
        browser.post("/rules/several", "ids", a, "ids", b, "deed", "RUN");
        assertThat(browser.get("/rules").notice()).startsWith("2 rules: 1 message changed");
        assertThat(cabinet.lies(person.id(), message)).isEqualTo("A");
        browser.post("/rules/several", "deed", "DELETE");
        assertThat(browser.get("/rules").notice()).isEqualTo("No rule is chosen.");
        Browser stranger = new Browser(office, office.person());
        stranger.post("/rules/several", "ids", a, "deed", "DELETE");
        assertThat(order()).hasSize(3);
        browser.post("/rules/several", "ids", a, "ids", b, "deed", "DELETE");
        assertThat(order()).containsExactly(kept);
    }

    @Test
    void aRuleIsPutWhereItIsDropped() {
        long a = rule("a.example", "A");
        long b = rule("b.example", "B");
        long c = rule("c.example", "C");
        assertThat(browser.post("/rules/" + c + "/place", "before", a).notice()).endsWith("is rule 1 now");
        assertThat(order()).containsExactly(c, a, b);
        browser.post("/rules/" + c + "/place");
        assertThat(order()).containsExactly(a, b, c);
        Document list = browser.part("/rules/list?chosen=" + b, "rule-list").page();
        assertThat(list.select(".rule.sel .n").text()).isEqualTo("2");
    }

    @Test
    void howARuleWasIsKeptAndComesBack() {
        browser.post("/rules", RuleFields.visits());
        long id = order().get(0);
        String was = cabinet.rules.byId(person.id(), id).orElseThrow().sentence();
        browser.post("/rules", RuleFields.visits("id", id)); // Nothing changed: no version.
        assertThat(browser.get("/rules/" + id).page().select(".versions")).isEmpty();
        browser.post(
                "/rules",
                "id",
                id,
                "name",
                "Other",
                "on",
                "on",
                "whenKind",
                "SENDER",
                "whenText",
                "a.example",
                "thenKind",
                "LABEL",
                "thenText",
                "Visits",
                "thenKind",
                "UNREAD",
                "thenText",
                "");
        Document page = browser.get("/rules/" + id).page();
        assertThat(page.select(".versions li span").text()).isEqualTo(was);
        String other = cabinet.rules.byId(person.id(), id).orElseThrow().sentence();
        String back = page.select(".versions form").attr("action");
        assertThat(new Browser(office, office.person()).post(back).notice()).contains("There is no such rule");
        browser.post(back);
        assertThat(cabinet.rules.byId(person.id(), id).orElseThrow().sentence()).isEqualTo(was);
        assertThat(browser.get("/rules/" + id)
                        .page()
                        .select(".versions li span")
                        .eachText())
                .containsExactly(other);
    }

    @Test
    void allRulesAreLookedAtAndRunTogether() {
        long both = cabinet.arrives(account, TestMail.from("a@a.example", "Loan of a crate"));
        cabinet.arrives(account, TestMail.from("b@b.example", "Else"));
        rule("a.example", "A");
        Rule other = cabinet.filing(person.id(), "*.example", "B");
        cabinet.rules.save(
                person.id(), new Rule(0, "Loans", true, List.of(Text.subject("loan")), List.of(), other.then(), false));
        Document page = browser.get("/rules/check").page();
        assertThat(page.select("#check > p").text()).contains("Over 2 messages", "1 would be changed");
        assertThat(page.select("tbody tr").eachText())
                .containsExactly(
                        "1 From a.example 1 1",
                        "2 Loans 1 0 1 that rule 1 files first, such as “Loan of a crate”."
                                + " Let this one decide before rule 1");
        String decide = page.select("tbody form").attr("action");
        browser.post("/rules/check");
        assertThat(browser.get("/rules/check").notice()).startsWith("1 message done");
        assertThat(cabinet.lies(person.id(), both)).isEqualTo("A");
        browser.post("/undo");
        assertThat(cabinet.lies(person.id(), both)).isEqualTo("Inbox");
        assertThat(cabinet.wrongCounts()).isEmpty();
        browser.post(decide);
        assertThat(cabinet.rules.all(person.id())).extracting(Rule::name).containsExactly("Loans", "From a.example");
        assertThat(new Browser(office, office.person())
                        .get("/rules/check")
                        .page()
                        .select("main")
                        .text())
                .contains("No rules yet.");
    }
}
