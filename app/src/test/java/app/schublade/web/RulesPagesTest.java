package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.DueDate;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.store.account.Account;
import app.schublade.store.message.ListRow;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.Browser.Answer;
import app.schublade.web.frame.CurrentUser;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A rule is written, from a message or from nothing, and kept. */
@ExtendWith(Office.Extension.class)
class RulesPagesTest {
    private static final String SCHOOLS = RuleFields.SCHOOLS;

    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    RulesPagesTest(Office office) {
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU", SCHOOLS);
    }

    private long visit(String subject) {
        return cabinet.arrives(
                account, TestMail.from("Runa <runa@westwharf.example>", subject).to(SCHOOLS));
    }

    @Test
    void aNewRuleIsFilledInFromTheMessage() {
        long id = visit("Re: Visit of class 4b, 12 November");
        visit("Another letter");
        cabinet.arrives(account, TestMail.from("Ben <ben@westwharf-school.example>", "Something else"));
        cabinet.index.index(account.id(), 100);
        Document page = browser.get("/rules/new?message=" + id).page();
        assertThat(page.select("select[name=whenKind] option[selected]").eachAttr("value"))
                .containsExactly("SENDER");
        assertThat(page.select("input[name=whenText]").val()).isEqualTo("runa@westwharf.example");
        assertThat(page.select(".beginnings a").eachText())
                .containsExactly(
                        "this sender 2",
                        "everybody at westwharf.example 2",
                        "sent to " + SCHOOLS + " 2",
                        "this subject of this sender 1",
                        "this conversation from now on 1");
        Document subject = browser.get(
                        page.select(".beginnings a:contains(subject)").attr("href"))
                .page();
        assertThat(subject.select("select[name=whenKind] option[selected]").eachAttr("value"))
                .containsExactly("SENDER", "SUBJECT");
        assertThat(subject.select("input[name=whenText]").eachAttr("value").get(1))
                .contains("Visit")
                .doesNotContain("12", "Re:");
        assertThat(page.select(".trial-says").text()).contains("say under Then what to do with it");
        assertThat(page.select("#trial button[name=run]")).isEmpty();
    }

    @Test
    void whoWritesFromSeveralAddressesIsOnePerson() {
        long home = cabinet.arrives(account, TestMail.from("Inga Berg <inga@home.example>", "Picnic"));
        cabinet.arrives(account, TestMail.from("Inga Berg <inga@wharf.example>", "Minutes"));
        cabinet.arrives(account, TestMail.from("Inga Bergman <bergman@wharf.example>", "Other"));
        cabinet.index.index(account.id(), 100);
        Document page = browser.get("/rules/new?message=" + home).page();
        assertThat(page.select(".beginnings a").eachText())
                .contains("this sender 1", "this person, also as inga@wharf.example 2");
        Document both = browser.get(
                        page.select(".beginnings a:contains(person)").attr("href"))
                .page();
        assertThat(both.select("input[name=whenText]").val()).isEqualTo("inga@home.example, inga@wharf.example");
    }

    @Test
    void aConversationIsToldByItsMessages() {
        long first = cabinet.arrives(
                account, TestMail.from("anna@wharf.example", "The mast, again").named("mast"));
        cabinet.arrives(
                account, TestMail.from("ben@pier.example", "Re: The mast").named("answer", "mast"));
        cabinet.arrives(account, TestMail.from("anna@wharf.example", "The keel").named("keel"));
        Document page =
                browser.get("/rules/new?by=conversation&message=" + first).page();
        assertThat(page.select(".beginnings a.on, .beginnings [aria-current]").text())
                .contains("conversation", "2");
        String typed = page.select("input[name=whenText]").val();
        assertThat(typed).startsWith("The mast again, ").contains("mast@quay.example", "answer@quay.example");
        Document trial =
                browser.trial("whenKind", "CONVERSATION", "whenText", typed, "thenKind", "FILE", "thenText", "Masts");
        assertThat(trial.select(".trow .subject").eachText())
                .containsExactlyInAnyOrder("The mast, again", "Re: The mast");
        assertThat(browser.trial("whenKind", "CONVERSATION", "whenText", "Nothing", "thenKind", "FILE", "thenText", "X")
                        .text())
                .contains("press M");
    }

    @Test
    void savingAndFilingDoesWhatTheTrialSaid() {
        long one = visit("One");
        long two = visit("Two");
        Answer saved =
                browser.post("/rules", RuleFields.visits("listed", one, "listed", two, "ticked", two, "run", "true"));
        assertThat(saved.status()).isEqualTo(302);
        Rule rule = cabinet.rules.book(person.id()).rules().get(0);
        assertThat(saved.header("Location")).isEqualTo("/rules/" + rule.id());
        assertThat(rule.sentence())
                .isEqualTo("sent to schools@quay.example → file into Schools / Visits, category Next");
        assertThat(cabinet.lies(person.id(), one)).isEqualTo("Inbox");
        assertThat(cabinet.lies(person.id(), two)).isEqualTo("Schools / Visits");
        long three = visit("Three");
        assertThat(cabinet.lies(person.id(), three)).isEqualTo("Schools / Visits");

        Document sheet = browser.part("/message/" + two, "sheet").page();
        assertThat(sheet.select(".note-line").text())
                .contains("Filed into Schools / Visits, category Next by your rule", "Class visits");
        assertThat(sheet.select(".why").text()).contains("sent to schools@quay.example");
        assertThat(browser.post(sheet.select(".note [data-posts]").attr("data-posts"))
                        .notice())
                .startsWith("Undone");
        assertThat(cabinet.lies(person.id(), two)).isEqualTo("Inbox");
        assertThat(cabinet.lies(person.id(), three)).isEqualTo("Schools / Visits");
    }

    @Test
    void savingForNewMailOnlyLeavesWhatIsThere() {
        long one = visit("One");
        browser.post("/rules", RuleFields.visits());
        assertThat(cabinet.lies(person.id(), one)).isEqualTo("Inbox");
        assertThat(cabinet.lies(person.id(), visit("Two"))).isEqualTo("Schools / Visits");
    }

    @Test
    void aRulePutsIntoTheTicklerAndForwards() {
        Object[] rule = {
            "on",
            true,
            "whenKind",
            "SENT_TO",
            "whenText",
            SCHOOLS,
            "thenKind",
            "TICKLER",
            "thenText",
            "3 days",
            "thenKind",
            "FORWARD",
            "thenText",
            "anna@wharf.example; Ben <ben@wharf.example> // For you. // Tilda"
        };
        assertThat(browser.post("/rules", rule).status()).isEqualTo(302);
        Rule kept = cabinet.rules.book(person.id()).rules().get(0);
        assertThat(kept.then())
                .contains(new Effect.Forward("anna@wharf.example, Ben <ben@wharf.example>", false, "For you.\nTilda"));
        assertThat(kept.sentence())
                .endsWith(
                        "→ into the tickler, back after 3 days, forward to anna@wharf.example, Ben <ben@wharf.example>");
        ListRow row = cabinet.messages.row(person.id(), visit("Fresh")).orElseThrow();
        assertThat(row.until())
                .isEqualTo(DayTime.on(
                        LocalDate.ofInstant(row.received(), ZoneOffset.UTC).plusDays(3)));
        assertThat(cabinet.lies(person.id(), row.id())).isEqualTo("Tickler");
        assertThat(browser.get("/mail/tickler?open=" + row.id())
                        .page()
                        .select(".note")
                        .text())
                .contains("Filed into Tickler, until " + row.until() + ", not forwarded");
        assertThat(browser.get("/rules/" + kept.id())
                        .page()
                        .select("input[name=thenText]")
                        .eachAttr("value"))
                .containsExactly("after 3 days", "anna@wharf.example, Ben <ben@wharf.example> // For you. // Tilda");
        rule[rule.length - 1] = "Anna";
        assertThat(browser.post("/rules", rule).text()).contains("“Anna” is not an address");
    }

    @Test
    void aRuleFlagsWithADueDateAndPutsIntoATray() {
        Object[] rule = {
            "on",
            true,
            "whenKind",
            "SENT_TO",
            "whenText",
            SCHOOLS,
            "thenKind",
            "DUE",
            "thenText",
            "2 working days",
            "thenKind",
            "TRAY",
            "thenText",
            "Records"
        };
        assertThat(browser.post("/rules", rule).status()).isEqualTo(302);
        Rule kept = cabinet.rules.book(person.id()).rules().get(0);
        assertThat(kept.sentence()).endsWith("flag, due after 2 working days, put into the tray Records");
        ListRow row = cabinet.messages.row(person.id(), visit("Fresh")).orElseThrow();
        LocalDate arrival = LocalDate.ofInstant(row.received(), ZoneOffset.UTC);
        assertThat(row.due()).isEqualTo(new DueDate.After(2, true).after(arrival));
        assertThat(row.tray())
                .isEqualTo(cabinet.places.of(person.id(), null).trays().get(3).id());
        assertThat(browser.get("/mail/inbox?open=" + row.id())
                        .page()
                        .select(".note")
                        .text())
                .contains("Flagged, due " + row.due() + ", put into the tray Records");
        Document editor = browser.get("/rules/" + kept.id()).page();
        assertThat(editor.select("input[name=thenText]").eachAttr("value"))
                .containsExactly("after 2 working days", "Records");
        assertThat(browser.post(
                                "/rules",
                                "whenKind",
                                "SENT_TO",
                                "whenText",
                                SCHOOLS,
                                "thenKind",
                                "DUE",
                                "thenText",
                                "soon")
                        .text())
                .contains("“soon” is not a due date");
        assertThat(browser.post(
                                "/rules",
                                "whenKind",
                                "SENT_TO",
                                "whenText",
                                SCHOOLS,
                                "thenKind",
                                "TRAY",
                                "thenText",
                                "x")
                        .text())
                .contains("There is no tray “x”; there are: People, Ongoing, Notices, Records.");
    }

    @Test
    void linesComeAndGoWithoutLosingWhatWasTyped() {
        Document more =
                browser.post("/rules/form", RuleFields.visits("add", "unless")).page();
        assertThat(more.select("input[name=unlessText]")).hasSize(1);
        assertThat(more.select("input[name=whenText]").val()).isEqualTo(SCHOOLS);
        assertThat(more.select("input[name=name]").val()).isEqualTo("Class visits");
        Document fewer = browser.post("/rules/form", RuleFields.visits("remove", "then-1"))
                .page();
        assertThat(fewer.select("input[name=thenText]").eachAttr("value")).containsExactly("Schools / Visits");
    }

    @Test
    void whatIsWrongIsSaidAndNothingIsKept() {
        assertThat(browser.post("/rules", "id", 0, "name", "Empty").text())
                .contains("say under When which mail it is for", "say under Then what to do with it");
        Answer account = browser.post(
                "/rules", "id", 0, "whenKind", "ACCOUNT", "whenText", "Museun", "thenKind", "READ", "thenText", "");
        assertThat(account.status()).isEqualTo(422);
        assertThat(account.text()).contains("There is no account “Museun”; there are: Account MU.");
        Document trial = browser.post(
                        "/rules/trial", RuleFields.visits("thenKind", "FILE", "thenText", "a/".repeat(20)))
                .page();
        assertThat(trial.select(".trial-says.problem").text()).contains("12 is the limit");
        assertThat(cabinet.rules.book(person.id()).rules()).isEmpty();
    }

    @Test
    void aRuleOfManyKindsIsTriedKeptAndShownAgain() {
        long visit = visit("Visit of class 4b");
        cabinet.arrives(account, TestMail.from("x@y.example", "Other").to("crew@boats.example"));
        Object[] rule = {
            "id",
            0,
            "name",
            "Many",
            "on",
            "off",
            "on",
            "on",
            "whenKind",
            "ANY",
            "whenNot",
            "",
            "whenMatch",
            "WORDS",
            "whenText",
            "",
            "whenDepth",
            0,
            "whenKind",
            "SUBJECT",
            "whenNot",
            "",
            "whenMatch",
            "STARTS",
            "whenText",
            "visit of",
            "whenDepth",
            1,
            "whenKind",
            "BODY",
            "whenNot",
            "",
            "whenMatch",
            "REGEX",
            "whenText",
            "x{2,3}",
            "whenDepth",
            1,
            "whenKind",
            "IS",
            "whenNot",
            "not",
            "whenMatch",
            "WORDS",
            "whenText",
            "automated mail",
            "whenDepth",
            0,
            "whenKind",
            "IS",
            "whenNot",
            "",
            "whenMatch",
            "WORDS",
            "whenText",
            "from somebody never seen before",
            "whenDepth",
            0,
            "thenKind",
            "FLAG",
            "thenText",
            "",
            "thenKind",
            "UNREAD",
            "thenText",
            ""
        };
        Document trial = browser.trial(rule);
        assertThat(trial.select(".trial header").text()).contains("1 of 2 messages");
        browser.post("/rules", rule);
        Rule kept = cabinet.rules.book(person.id()).rules().get(0);
        assertThat(kept.sentence())
                .isEqualTo("(subject starts with “visit of” or body matches “x{2,3}”), not automated mail,"
                        + " from somebody never seen before → flag, mark as unread");
        Document page = browser.get("/rules/" + kept.id()).page();
        assertThat(page.select("[data-part=when] .line").eachAttr("data-depth"))
                .containsExactly("0", "1", "1", "0", "0");
        assertThat(page.select("select[name=whenNot] option[selected]").eachAttr("value"))
                .containsExactly("not");
        Document shorter =
                browser.post("/rules/form", concat(rule, "remove", "when-0")).page();
        assertThat(shorter.select("[data-part=when] .line")).hasSize(2);
        Document longer =
                browser.post("/rules/form", concat(rule, "add", "when-0")).page();
        assertThat(longer.select("[data-part=when] .line").eachAttr("data-depth"))
                .containsExactly("0", "1", "1", "1", "0", "0");

        Document explained = browser.get("/rules/explained/" + visit).page();
        assertThat(explained.select(".explanations > li").text()).contains("Many", "acts");
        assertThat(explained.select(".holds").eachText()).hasSize(3);
        assertThat(browser.get("/rules/explained/" + (visit + 999)).status()).isEqualTo(404);
    }

    private static Object[] concat(Object[] some, Object... more) {
        List<Object> all = new java.util.ArrayList<>(List.of(some));
        all.addAll(List.of(more));
        return all.toArray();
    }

    @Test
    void aRuleWithoutANameIsCalledByItsFirstConditionAndNoTwoAreCalledTheSame() {
        Object[] invoices = {
            "whenKind", "SUBJECT", "whenMatch", "WORDS", "whenText", "Invoice", "thenKind", "READ", "thenText", ""
        };
        browser.post("/rules", invoices);
        browser.post("/rules", invoices);
        assertThat(cabinet.rules.all(person.id()))
                .extracting(Rule::name)
                .containsExactly("Subject has Invoice", "Subject has Invoice 2");
    }

    @Test
    void namesOfPeopleGroupsAndListsMeanTheirAddresses() {
        cabinet.arrives(account, TestMail.from("Ottoline Grebe <o@studio.example>", "One"));
        cabinet.arrives(account, TestMail.from("Ottoline Grebe <ottoline@home.example>", "Two"));
        cabinet.arrives(account, TestMail.from("Ada Grebe <ada@home.example>", "Three"));
        cabinet.arrives(account, TestMail.from("root@machine", "Four"));
        cabinet.arrives(
                account, TestMail.from("Crew <crew@boats.example>\nList-Id: Rowers <rowers.boats.example>", "Five"));
        cabinet.index.index(account.id(), 100);
        cabinet.people.join(person.id(), "Lenders", "studio.example");
        assertThat(kept("SENDER", "ottoline grebe"))
                .isEqualTo("from o@studio.example or ottoline@home.example → file into Named");
        assertThat(kept("SENDER", "Ada, o@studio.example"))
                .isEqualTo("from ada@home.example or o@studio.example → file into Named");
        assertThat(kept("SENDER", "machine")).isEqualTo("from machine → file into Named");
        assertThat(kept("SENDER", "lenders, ada"))
                .isEqualTo("(from ada@home.example or from the group Lenders) → file into Named");
        assertThat(kept("LIST", "Rowers")).isEqualTo("mailing list rowers.boats.example → file into Named");
        assertThat(trouble("SENDER", "Grebe"))
                .contains("Several people are called “Grebe”: ")
                .contains("Ottoline Grebe")
                .contains("Ada Grebe");
        assertThat(trouble("SENDER", "Nobody")).contains("Nobody whose mail is here is called “Nobody”.");
        assertThat(trouble("LIST", "Singers")).contains("No mailing list whose mail is here is called “Singers”.");
    }

    /** The sentence of the rule that comes of one line. */
    private String kept(String kind, String typed) {
        browser.post("/rules", named(kind, typed));
        List<Rule> all = cabinet.rules.all(person.id());
        return all.get(all.size() - 1).sentence();
    }

    private String trouble(String kind, String typed) {
        return browser.trial(named(kind, typed)).text();
    }

    private static Object[] named(String kind, String typed) {
        return new Object[] {
            "id",
            0,
            "name",
            "",
            "on",
            "on",
            "whenKind",
            kind,
            "whenText",
            typed,
            "thenKind",
            "FILE",
            "thenText",
            "Named"
        };
    }
}
