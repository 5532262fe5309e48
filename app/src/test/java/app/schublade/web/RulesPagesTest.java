package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.DueDate;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Text;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
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

@ExtendWith(Office.Extension.class)
class RulesPagesTest {
    private static final String SCHOOLS = RuleFields.SCHOOLS;

    private final Cabinet cabinet;
    private final Office office;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    RulesPagesTest(Office office) {
        this.office = office;
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
    void ofTwoFoldersTheFirstIsSaidToWin() {
        visit("One");
        Document trial = browser.trial(RuleFields.visits("thenKind", "ARCHIVE", "thenText", ""));
        assertThat(trial.select(".trial-says").text())
                .contains("The first folder wins: “file into Schools / Visits”. “archive” does nothing.");
        assertThat(browser.trial(RuleFields.visits("thenKind", "READ", "thenText", ""))
                        .text())
                .doesNotContain("first folder wins");
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
    void theTrialRunCountsListsAndLeavesOutWhatIsUnticked() {
        long one = visit("One");
        long two = visit("Two");
        cabinet.arrives(account, TestMail.from("x@y.example", "Other"));
        Document trial = browser.trial(RuleFields.visits());
        assertThat(trial.select(".fig").eachText())
                .containsExactly("2 of 3 messages", "2 leave the Inbox", "2 unread among them");
        assertThat(trial.select(".trow .subject").eachText()).containsExactlyInAnyOrder("One", "Two");
        assertThat(trial.text()).contains("Inbox → Visits", "Save, and file these 2");

        Document fewer = browser.trial(RuleFields.visits("listed", one, "listed", two, "ticked", two));
        assertThat(fewer.text()).contains("Save, and file this one");
        assertThat(fewer.select("#tick-" + one).hasAttr("checked")).isFalse();
        assertThat(cabinet.lies(person.id(), one)).isEqualTo("Inbox");
        assertThat(cabinet.counts(person.id(), "Schools / Visits"))
                .as("a trial run makes nothing")
                .isEqualTo("none");
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
    void anEarlierRuleIsSeenInTheTrial() {
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "westwharf.example", "First"));
        long id = visit("One");
        cabinet.undo.of(
                person.id(), id, cabinet.messages.filed(person.id(), id).get(0).batch());
        Document trial = browser.trial(RuleFields.visits("thenKind", "READ", "thenText", ""));
        assertThat(trial.select(".fig").eachText()).contains("1 taken by rule 1");
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
    void aTrialRunThatIsFollowedIsNotBegunAnew() {
        visit("One");
        String first = scan();
        assertThat(scan("scan", first, "follow", "on")).isEqualTo(first);
        assertThat(scan("scan", first, "follow", "on", "stop", "on"))
                .as("it has ended before, with all it found")
                .isEqualTo(first);
        assertThat(scan("scan", first)).isNotEqualTo(first);
        assertThat(scan("scan", "unknown", "follow", "on"))
                .as("begun by another process")
                .isNotEmpty();
        Browser other = new Browser(office, office.person());
        assertThat(other.post("/rules/trial", RuleFields.visits("scan", first, "follow", "on"))
                        .page()
                        .select(".trow"))
                .as("another's run")
                .isEmpty();
    }

    private String scan(Object... more) {
        Document part = browser.trial(RuleFields.visits(more));
        assertThat(part.select(".trow .subject").eachText()).containsExactly("One");
        return part.select("input[name=scan]").attr("value");
    }

    @Test
    void aTrialRunGoesOverWhatIsAskedFor() {
        visit("In the Inbox");
        long filed = visit("In Loans");
        long sent = visit("In Sent");
        browser.post("/act", "ids", filed, "deed", "file", "path", "Loans");
        long sentFolder = cabinet.places.special(person.id(), SpecialUse.SENT);
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(sent), state -> state.in(sentFolder));
        long loans = cabinet.folder(person.id(), "Loans").id();
        assertThat(subjects()).containsExactlyInAnyOrder("In the Inbox", "In Loans");
        assertThat(subjects("over", "everything")).hasSize(3);
        assertThat(subjects("over", loans)).containsExactly("In Loans");
        cabinet.index.index(account.id(), 100);
        assertThat(subjects("over", "found", "overWords", "loans -inbox")).containsExactly("In Loans");
        browser.post("/rules", RuleFields.visits("over", loans, "run", "true"));
        assertThat(cabinet.lies(person.id(), filed)).isEqualTo("Schools / Visits");
        assertThat(cabinet.messages.row(person.id(), sent).orElseThrow().folderId())
                .isEqualTo(sentFolder);
        assertThat(cabinet.counts(person.id(), "Inbox")).isEqualTo("1/1");
    }

    private List<String> subjects(Object... more) {
        return browser.trial(RuleFields.visits(more)).select(".trow .subject").eachText();
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
}
