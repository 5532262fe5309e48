package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.store.account.Account;
import app.schublade.store.triage.AwaitingStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.LongStream;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What is done with leaves the Inbox in heaps; what is open stays. */
@ExtendWith(Office.Extension.class)
class TidyPagesTest {
    private final Instant longAgo = Instant.now().minus(Duration.ofDays(40));

    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    TidyPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    private long old(String from, String subject) {
        return read(TestMail.from(from, subject).at(longAgo));
    }

    private long read(TestMail mail) {
        long message = cabinet.arrives(account, mail);
        browser.post("/act", "deed", "read", "ids", message);
        return message;
    }

    /** Mail from there lies in that folder. */
    private void habitually(String from, String folder) {
        cabinet.folder(person.id(), folder);
        for (int i = 1; i <= 8; i++) {
            browser.post("/act", "deed", "file", "path", folder, "ids", old(from, "Earlier letter " + i));
        }
    }

    private Document heaps() {
        return browser.get("/tidy/heaps").page();
    }

    private static List<String> names(Document heaps) {
        return heaps.select(".heap-head").eachText();
    }

    /** Sends the form as a browser would. */
    private void tidyUp(Document heaps, Object... more) {
        List<Object> fields = new ArrayList<>();
        for (Element field : heaps.select("input[name=heap], input[name=into]")) {
            fields.addAll(List.of(field.attr("name"), field.attr("value")));
        }
        fields.addAll(List.of(more));
        browser.post("/tidy", fields.toArray());
    }

    private String folderOf(long message) {
        return cabinet.jdbc
                .sql("select f.path from message m join folder f on f.id = m.folder_id where m.id = ?")
                .param(message)
                .query(String.class)
                .single();
    }

    private List<String> folders(long... messages) {
        return LongStream.of(messages).mapToObj(this::folderOf).toList();
    }

    @Test
    void whatIsDoneWithLiesInHeapsAndOneActFilesAllOfIt() {
        habitually("halden@loans.example", "Loans");
        habitually("bo@shop.example", "Shopping");
        long loan = old("halden@loans.example", "A further letter");
        long other = old("somebody@nowhere.example", "Quite something else");
        Document heaps = heaps();
        assertThat(names(heaps)).hasSize(2);
        assertThat(names(heaps).get(0)).startsWith("1 Loans into");
        assertThat(heaps.select(".heap").get(0).text()).contains("8 of 8 from halden@loans.example are there");
        assertThat(names(heaps).get(1)).startsWith("1 for which no folder is likely");
        tidyUp(heaps);
        assertThat(folders(loan, other)).containsExactly("Loans", "Archive");
        assertThat(heaps().text()).contains("Nothing to tidy up");
        assertThat(cabinet.undo.latest(person.id()).title()).isEqualTo("Tidied up: 2 messages");
        browser.post("/undo");
        assertThat(folders(loan, other)).as("one undo").containsExactly("Inbox", "Inbox");
    }

    @Test
    void aHeapGoesAloneElsewhereAndWithoutWhatStays() {
        long first = old("a@nowhere.example", "First");
        long second = old("b@nowhere.example", "Second");
        Document heaps = heaps();
        assertThat(names(heaps)).hasSize(1);
        String ids = heaps.select("input[name=heap]").attr("value");
        browser.post("/tidy", "heap", ids, "into", "Quite / new", "only", "0", "stays", second);
        assertThat(folders(first, second)).containsExactly("Quite/new", "Inbox");
        assertThat(cabinet.places.of(person.id(), null).folder(FolderPath.parse("Quite/new")))
                .isPresent();
        browser.post("/undo");
        assertThat(folderOf(first)).isEqualTo("Inbox");
    }

    @Test
    void whatIsOpenStays() {
        long done = old("a@nowhere.example", "Done");
        cabinet.arrives(account, TestMail.from("a@nowhere.example", "Unread").at(longAgo));
        read(TestMail.from("a@nowhere.example", "New").at(Instant.now()));
        browser.post("/act", "deed", "flag", "ids", old("a@nowhere.example", "Flagged"));
        LocalDate tomorrow = LocalDate.now(ZoneOffset.UTC).plusDays(1);
        browser.post("/act", "deed", "due", "due", tomorrow, "ids", old("a@nowhere.example", "Due"));
        browser.post(
                "/act",
                "deed",
                "category",
                "place",
                cabinet.places.of(person.id(), null).categories().get(0).id(),
                "ids",
                old("a@nowhere.example", "In a category"));
        read(TestMail.from("anna@wharf.example", "The boat").named("q0").at(longAgo));
        cabinet.arrives(
                account,
                cabinet.mailbox(account, "Sent"),
                TestMail.from(account.address(), "Re: The boat")
                        .named("q1", "q0")
                        .to("anna@wharf.example")
                        .saying("When does it come?")
                        .at(Instant.now().minus(Duration.ofDays(5))));
        cabinet.conversations.join(account.id(), 1000);
        office.bean(AwaitingStore.class).look(person.id(), 100);
        assertThat(heaps().select("input[name=heap]").attr("value")).isEqualTo(String.valueOf(done));
    }

    @Test
    void whatBecameOpenMeanwhileStaysTheRestGoes() {
        long flagged = old("a@nowhere.example", "Flagged meanwhile");
        long filed = old("a@nowhere.example", "Filed meanwhile");
        long done = old("a@nowhere.example", "Done");
        Document heaps = heaps();
        browser.post("/act", "deed", "flag", "ids", flagged);
        browser.post("/act", "deed", "file", "path", "Elsewhere", "ids", filed);
        tidyUp(heaps);
        assertThat(folders(flagged, filed, done)).containsExactly("Inbox", "Elsewhere", "Archive");
        tidyUp(heaps);
        assertThat(browser.get("/tidy").text()).contains("Nothing was moved");
        assertThat(cabinet.undo.latest(person.id()).title()).isEqualTo("Filed into Archive: 1 message");
    }

    @Test
    void aConversationStaysTogether() {
        habitually("halden@loans.example", "Loans");
        habitually("bo@shop.example", "Shopping");
        read(TestMail.from("halden@loans.example", "The crates").named("c0").at(longAgo));
        read(TestMail.from("stranger@nowhere.example", "Re: The crates")
                .named("c1", "c0")
                .at(longAgo.plusSeconds(60)));
        cabinet.conversations.join(account.id(), 1000);
        Document heaps = heaps();
        assertThat(names(heaps)).singleElement().asString().startsWith("2 Loans into");
        assertThat(heaps.text()).contains("its conversation goes there");
    }

    @Test
    void theDaySheetOffersItOnTheDayThatOneChose() {
        old("a@nowhere.example", "Done");
        assertThat(browser.get("/today").page().select("main").text()).doesNotContain("read and dealt with");
        browser.post(
                "/tidy/habit", "after", 30, "day", LocalDate.now(ZoneOffset.UTC).getDayOfWeek());
        assertThat(browser.get("/today").page().select("main").text())
                .contains("One message in the Inbox is read and dealt with");
        browser.post(
                "/tidy/habit", "after", 90, "day", LocalDate.now(ZoneOffset.UTC).getDayOfWeek());
        assertThat(browser.get("/today").page().select("main").text()).doesNotContain("read and dealt with");
        assertThat(heaps().text()).contains("Nothing to tidy up");
    }

    @Test
    void whatAPageCannotHaveSentIsRefusedAndNothingIsMoved() {
        long done = old("a@nowhere.example", "Done");
        assertThat(browser.post("/tidy", "heap", "1,x", "into", "Archive").text())
                .contains("Load it again");
        assertThat(browser.post("/tidy", "heap", done, "into", " ").status()).isEqualTo(422);
        Account elsewhere = cabinet.account(office.person().id(), "XX");
        long foreign = cabinet.arrives(
                elsewhere,
                TestMail.from("b@nowhere.example", "Of somebody else").at(longAgo));
        browser.post("/tidy", "heap", foreign, "into", "Archive");
        assertThat(folders(done, foreign)).containsExactly("Inbox", "Inbox");
    }
}
