package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Rule;
import app.schublade.store.account.Account;
import app.schublade.store.find.SavedSearchStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.web.util.UriComponentsBuilder;

@ExtendWith(Office.Extension.class)
class PeoplePagesTest {
    private final Cabinet cabinet;
    private final Office office;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    PeoplePagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    private List<String> members(int section) {
        return browser.get("/people")
                .page()
                .select("main section")
                .get(section)
                .select(".members li span")
                .eachText();
    }

    @Test
    void keyPersonsAreNamedByAddressOrDomain() {
        browser.post("/people/key", "value", "Anna@Wharf.example", "on", true);
        browser.post("/people/key", "value", "@halden.example", "on", true);
        assertThat(members(0)).containsExactly("anna@wharf.example", "halden.example");
        assertThat(browser.get("/people").notice()).isEqualTo("halden.example is now a key person");
        browser.post("/people/key", "value", "anna@wharf.example", "on", false);
        assertThat(browser.get("/people").notice()).isEqualTo("anna@wharf.example is no longer a key person");
        assertThat(members(0)).containsExactly("halden.example");
        assertThat(browser.post("/people/key", "value", "anna", "on", true).notice())
                .startsWith("“anna” is neither an address nor a domain");
    }

    private List<String> searches() {
        return office.bean(SavedSearchStore.class).of(person.id()).stream()
                .map(SavedSearchStore.SavedSearch::name)
                .toList();
    }

    @Test
    void theirMailHasAPlaceInTheCabinetWhichComesWithTheFirstOfThem() {
        long letter = cabinet.arrives(account, TestMail.from("Anna <anna@wharf.example>", "Loan"));
        cabinet.arrives(account, TestMail.from("Ben <ben@wharf.example>", "Loan"));
        browser.post("/people/key", "value", "anna@wharf.example", "on", true);
        assertThat(searches()).containsExactly("Key people");
        long place = office.bean(SavedSearchStore.class).of(person.id()).get(0).id();
        assertThat(browser.get("/mail/search/" + place).page().select(".row").eachAttr("data-id"))
                .containsExactly(String.valueOf(letter));
        browser.post("/undo");
        assertThat(searches()).isEmpty();
        assertThat(members(0)).isEmpty();

        browser.post("/people/key", "value", "anna@wharf.example", "on", true);
        long again = office.bean(SavedSearchStore.class).of(person.id()).get(0).id();
        browser.post("/searches/" + again + "/remove");
        browser.post("/people/key", "value", "ben@wharf.example", "on", true);
        assertThat(searches()).as("who does not want it is left alone").isEmpty();
    }

    @Test
    void peopleAreProposedByAFewLetters() {
        cabinet.arrives(account, TestMail.from("Anna Wharf <anna@wharf.example>", "Loan"));
        cabinet.arrives(account, TestMail.from("Ben <ben@wharf.example>", "Loan"));
        cabinet.arrives(account, TestMail.from("Ben <ben@wharf.example>", "Once more"));
        cabinet.arrives(
                account,
                cabinet.mailbox(account, "Sent"),
                TestMail.from("me <" + account.address() + ">", "Mine").to("lina@far.example"));
        cabinet.arrives(account, cabinet.mailbox(account, "Junk"), TestMail.from("Bene <bene@junk.example>", "Win"));
        assertThat(cabinet.index.index(account.id(), 100)).isEqualTo(5);
        assertThat(like("wh", true)).isEqualTo("[\"Ben <ben@wharf.example>\",\"Anna Wharf <anna@wharf.example>\"]");
        assertThat(like("an", false)).isEqualTo("[\"anna@wharf.example\"]");
        assertThat(like("x@y.example, li", true)).isEqualTo("[\"x@y.example, lina@far.example\"]");
        assertThat(like("be", false)).as("no junk").isEqualTo("[\"ben@wharf.example\"]");
        assertThat(like("a", true)).as("too few letters").isEqualTo("[]");
        cabinet.people.markKey(person.id(), "anna@wharf.example", true);
        assertThat(like("wh", true)).as("key persons first").startsWith("[\"Anna Wharf");
        browser.post("/people/join", "group", "Wharf people", "value", "anna@wharf.example");
        browser.post("/people/join", "group", "Wharf people", "value", "ben@wharf.example");
        browser.post("/people/join", "group", "Whole firms", "value", "halden.example");
        assertThat(like("wha", true))
                .as("a group with whom one can write to")
                .startsWith("[\"Wharf people: anna@wharf.example, ben@wharf.example;\"");
        assertThat(like("who", true)).as("nobody can be written to").isEqualTo("[]");
        assertThat(like("wha", false)).doesNotContain("people");
        assertThat(like("%%", true)).isEqualTo("[]");
        assertThat(cabinet.people.like(office.person().id(), "wh", 9))
                .as("another's people")
                .isEmpty();
    }

    private String like(String typed, boolean named) {
        String address = UriComponentsBuilder.fromPath("/people/like")
                .queryParam("typed", "{typed}")
                .queryParam("named", named)
                .encode()
                .buildAndExpand(typed)
                .toUriString();
        return browser.get(address).text();
    }

    @Test
    void aSenderIsMadeAKeyPersonAtTheMessage() {
        long id = cabinet.arrives(account, TestMail.from("Anna <anna@wharf.example>", "Loan"));
        Document sheet = browser.part("/message/" + id, "sheet").page();
        String mark = sheet.select(".who [data-posts]").attr("data-posts");
        assertThat(browser.post(mark).notice())
                .isEqualTo("anna@wharf.example is now a key person; their mail has a place in the cabinet");
        sheet = browser.part("/message/" + id, "sheet").page();
        assertThat(sheet.select(".key-person").text()).isEqualTo("key person");
        assertThat(browser.post(sheet.select(".who [data-posts]").attr("data-posts"))
                        .notice())
                .isEqualTo("anna@wharf.example is no longer a key person");
        browser.post("/people/key", "value", "wharf.example", "on", true);
        sheet = browser.part("/message/" + id, "sheet").page();
        assertThat(sheet.select(".key-person")).hasSize(1);
        assertThat(sheet.select(".who [data-posts]"))
                .as("all of the domain are")
                .isEmpty();
    }

    @Test
    void groupsAreMadeUsedByRulesAndTakenAway() {
        browser.post("/people/join", "group", "Lenders", "value", "halden.example");
        browser.post("/people/join", "group", "lenders", "value", "anna@wharf.example");
        assertThat(members(1)).containsExactly("anna@wharf.example", "halden.example");
        Object[] rule = {
            "id",
            0,
            "name",
            "Loans",
            "on",
            "on",
            "whenKind",
            "GROUP",
            "whenText",
            "lenders",
            "whenKind",
            "IS",
            "whenText",
            "from a key person",
            "thenKind",
            "FILE",
            "thenText",
            "Loans"
        };
        browser.post("/people/key", "value", "anna@wharf.example", "on", true);
        browser.post("/rules", rule);
        assertThat(cabinet.rules.book(person.id()).rules())
                .extracting(Rule::sentence)
                .containsExactly("from the group Lenders, from a key person → file into Loans");
        long anna = cabinet.arrives(account, TestMail.from("anna@wharf.example", "One"));
        long other = cabinet.arrives(account, TestMail.from("ben@halden.example", "Two"));
        assertThat(cabinet.lies(person.id(), anna)).isEqualTo("Loans");
        assertThat(cabinet.lies(person.id(), other))
                .as("in the group, but no key person")
                .isEqualTo("Inbox");

        assertThat(browser.get("/people").page().select("main section").get(1).text())
                .contains("Asked for by Loans.");
        browser.post("/people/leave", "group", "Lenders", "value", "halden.example");
        assertThat(members(1)).containsExactly("anna@wharf.example");
        browser.post("/people/dissolve", "group", "Lenders");
        assertThat(browser.get("/people").page().select("main").text()).doesNotContain("Lenders");
        assertThat(browser.post("/rules/trial", rule).text()).contains("There is no group “lenders”");
    }

    @Test
    void theTrialRunWarnsOfKeyPersonsAndComparesWithFilingByHand() {
        browser.post("/people/key", "value", "anna@wharf.example", "on", true);
        cabinet.arrives(account, TestMail.from("anna@wharf.example", "In the Inbox"));
        for (String folder : List.of("Wharf", "Wharf", "Elsewhere")) {
            long id = cabinet.arrives(account, TestMail.from("ben@wharf.example", "By hand"));
            browser.post("/act", "ids", id, "deed", "file", "path", folder);
        }
        String says = browser.trial(
                        "id",
                        0,
                        "whenKind",
                        "SENDER",
                        "whenText",
                        "wharf.example",
                        "thenKind",
                        "FILE",
                        "thenText",
                        "Wharf")
                .select(".trial header")
                .text();
        assertThat(says).contains("1 leave the Inbox", "1 from key persons", "agrees with 2 of 3 filed by hand");
    }

    @Test
    void othersPeopleAreTheirs() {
        browser.post("/people/join", "group", "Lenders", "value", "halden.example");
        Browser stranger = new Browser(office, office.person());
        stranger.post("/people/leave", "group", "Lenders", "value", "halden.example");
        stranger.post("/people/dissolve", "group", "Lenders");
        assertThat(stranger.get("/people").page().select("main").text()).doesNotContain("Lenders");
        assertThat(members(1)).containsExactly("halden.example");
    }
}
