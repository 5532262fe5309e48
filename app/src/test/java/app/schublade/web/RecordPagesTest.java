package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Rule;
import app.schublade.store.Account;
import app.schublade.store.FilingStore.Cause;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.Letter;
import app.schublade.testing.Office;
import app.schublade.web.frame.Person;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.stream.LongStream;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

@ExtendWith(Office.Extension.class)
class RecordPagesTest {
    private final Cabinet cabinet;
    private final Office office;
    private final Person person;
    private final Browser browser;
    private final Account account;

    RecordPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    private long rule(String domain, String folder) {
        return cabinet.rules.save(person.id(), cabinet.filing(person.id(), domain, folder));
    }

    private long arrives(String from, String subject) {
        return cabinet.arrives(account, Letter.from(from, subject));
    }

    private long files(String folder, Long... messages) {
        long id = cabinet.folder(person.id(), folder).id();
        return cabinet.filing
                .act(person.id(), Cause.HAND, "Filed into " + folder, List.of(messages), state -> state.in(id))
                .batch();
    }

    private List<String> lines(String query) {
        return browser.get("/record" + query).page().select(".done").stream()
                .map(line -> line.select(".subject").text() + ": "
                        + line.select(".what").text() + ", "
                        + line.select(".by").text()
                        + (line.hasClass("undone") ? ", taken back" : ""))
                .toList();
    }

    @Test
    void everythingThatWasFiledIsThereWithItsReason() {
        rule("wharf.example", "Wharf");
        arrives("anna@wharf.example", "By rule");
        long hand = arrives("ben@quay.example", "By hand");
        files("Quay", hand);
        assertThat(lines(""))
                .containsExactly(
                        "By hand: Inbox → Quay, by hand",
                        "By rule: Inbox → Wharf, From wharf.example: from wharf.example");
        assertThat(browser.get("/record").page().select(".day h2").text()).isEqualTo("Today");
    }

    @Test
    void itIsAskedByRuleFolderDayAndAccount() {
        long wharf = rule("wharf.example", "Wharf");
        rule("pier.example", "Pier");
        arrives("anna@wharf.example", "One");
        arrives("anna@pier.example", "Two");
        Account other = cabinet.account(person.id(), "TS");
        long third = cabinet.arrives(other, Letter.from("c@quay.example", "Three"));
        files("Wharf", third);
        String today = LocalDate.now(ZoneId.systemDefault()).toString();
        assertThat(lines("?rule=" + wharf)).singleElement().asString().startsWith("One");
        assertThat(lines("?folder=" + cabinet.folder(person.id(), "Wharf").id()))
                .hasSize(2);
        assertThat(lines("?account=" + other.id())).singleElement().asString().startsWith("Three");
        assertThat(lines("?by=HAND")).singleElement().asString().startsWith("Three");
        assertThat(lines("?by=RULES&account=" + account.id())).hasSize(2);
        assertThat(lines("?rule=&folder=&account=&day=" + today)).hasSize(3);
        assertThat(lines("?day=2020-01-01")).isEmpty();
        assertThat(browser.get("/record?day=2020-01-01").page().select(".empty").text())
                .contains("Nothing was filed that fits.");
    }

    @Test
    void anActOnSeveralIsTakenBackAtOnceOrLineByLine() {
        Long[] all = LongStream.range(0, 3)
                .map(i -> arrives("ben@quay.example", "No " + i))
                .boxed()
                .toArray(Long[]::new);
        long batch = files("Quay", all);
        Document page = browser.get("/record").page();
        assertThat(page.select(".act").text()).isEqualTo("Filed into Quay Take all of it back");
        assertThat(browser.post("/undo/" + batch + "/" + all[0]).notice()).isEqualTo("Taken back: Filing.");
        assertThat(lines("")).filteredOn(line -> line.endsWith("taken back")).hasSize(1);
        assertThat(browser.post("/undo/" + batch).notice()).isEqualTo("Taken back: Filed into Quay.");
        assertThat(lines("")).hasSize(3).allMatch(line -> line.endsWith("taken back"));
        assertThat(browser.get("/record").page().select(".act button")).isEmpty();
        assertThat(cabinet.lies(person.id(), all[2])).isEqualTo("Inbox");
    }

    @Test
    void notThisOneBringsItBackAndOffersTheNarrowerRule() {
        long rule = rule("wharf.example", "Wharf");
        arrives("anna@wharf.example", "Loan of a crate");
        arrives("anna@wharf.example", "Loan of a model");
        long wrong = arrives("ben@wharf.example", "Lunch on Friday");
        Element form = browser.get("/record").page().select(".done form").get(0);
        String narrower = browser.post(form.attr("action"), "rule", rule).header("Location");
        assertThat(narrower).isEqualTo("/rules/%d?spare=%d".formatted(rule, wrong));
        assertThat(cabinet.lies(person.id(), wrong)).isEqualTo("Inbox");
        Document page = browser.get(narrower).page();
        assertThat(page.select("#notice .told").text()).isEqualTo("The message is as it was before the rule.");
        assertThat(page.select(".narrower").text())
                .contains("from ben@wharf.example", "“Lunch on Friday”", "It would still have taken all 2 others.");
        assertThat(page.select("input[name=unlessText]").val()).isEqualTo("ben@wharf.example");
        Rule kept = cabinet.rules.book(person.id()).rules().get(0);
        assertThat(kept.unless()).as("only offered").isEmpty();
        assertThat(lines("?rule=" + rule).get(0)).endsWith("taken back");
    }

    @Test
    void olderLinesFollowInPages() {
        Long[] all = LongStream.range(0, 130)
                .map(i -> arrives("ben@quay.example", "No " + i))
                .boxed()
                .toArray(Long[]::new);
        files("Quay", all);
        Document page = browser.get("/record?by=HAND").page();
        assertThat(page.select(".done")).hasSize(100);
        Document older = browser.get(page.select(".turn a").attr("href")).page();
        assertThat(older.select(".done")).hasSize(30);
        assertThat(older.select(".turn a").attr("href")).isEqualTo("/record?by=HAND");
    }

    @Test
    void nobodySeesOrChangesOthersRecord() {
        long message = arrives("ben@quay.example", "Mine");
        long batch = files("Quay", message);
        Browser stranger = new Browser(office, office.person());
        assertThat(stranger.get("/record").page().select(".done")).isEmpty();
        stranger.post("/undo/" + batch);
        stranger.post("/record/%d/%d/spare".formatted(batch, message), "rule", 1);
        assertThat(cabinet.lies(person.id(), message)).isEqualTo("Quay");
    }
}
