package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Text;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.LabelRef;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.triage.AwaitingStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import org.jsoup.nodes.Document;
import org.jsoup.select.Elements;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The day sheet, and what one asked. */
@ExtendWith(Office.Extension.class)
class TriagePagesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    TriagePagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    private long asks(String subject) {
        long message = cabinet.arrives(
                account,
                cabinet.mailbox(account, "Sent"),
                TestMail.from(account.address(), subject)
                        .to("anna@wharf.example")
                        .saying("When does it come?")
                        .at(Instant.now().minus(Duration.ofDays(5))));
        office.bean(AwaitingStore.class).look(person.id(), 100);
        return message;
    }

    @Test
    void theDaySheetTellsWhatHappenedByItselfAndWhatIsOpen() {
        assertThat(browser.get("/today").text())
                .contains("Nothing is due.", "Rules had nothing to do.", "Nothing new.");
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "shop.example", "Shopping"));
        Instant now = Instant.now();
        cabinet.arrives(account, TestMail.from("bo@shop.example", "Receipt 1").at(now));
        cabinet.arrives(account, TestMail.from("bo@shop.example", "Receipt 2").at(now));
        long due = cabinet.arrives(
                account, TestMail.from("anna@wharf.example", "The loan <b>").at(now));
        LocalDate yesterday = LocalDate.now(ZoneOffset.UTC).minusDays(1);
        browser.post("/act", "deed", "due", "ids", due, "due", yesterday);
        asks("The boat");
        String page = browser.get("/today").page().select("main").text();
        assertThat(page)
                .contains(
                        "2 filed into Shopping by From shop.example",
                        "2 Shopping 2 unread",
                        "The loan <b>",
                        "The boat");
        assertThat(browser.get("/mail/inbox")
                        .page()
                        .select("#place-awaiting .plate")
                        .text())
                .isEqualTo("1");
        browser.post("/today/seen");
        assertThat(browser.get("/today").page().select("main").text())
                .as("what is open stays, what happened is seen")
                .contains("The loan <b>", "The boat", "Rules had nothing to do.", "Nothing new.");
    }

    /** Each line is opened, brought back, or led to the exception that would have spared it, without leaving the sheet. */
    @Test
    void aLineOfTheDaySheetIsPutRightInPlace() {
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "shop.example", "Shopping"));
        Instant now = Instant.now();
        long one = cabinet.arrives(
                account, TestMail.from("bo@shop.example", "Receipt 1").at(now));
        long two = cabinet.arrives(
                account, TestMail.from("bo@shop.example", "Receipt <2>").at(now));
        String address = browser.get("/today").page().select(".by-rule").attr("hx-get");
        Elements lines = browser.part(address, "did-0").page().select("#did-0.day .done");
        assertThat(lines).hasSize(2);
        assertThat(lines.get(0).text()).contains("Receipt <2>", "Inbox → Shopping", "Not this one", "Undo");
        assertThat(lines.get(0).select(".subject").attr("href")).isEqualTo("/message/" + two);
        browser.post(lines.get(0).select("[data-posts]").attr("data-posts"));
        assertThat(cabinet.lies(person.id(), two)).isEqualTo("Inbox");
        assertThat(cabinet.lies(person.id(), one)).isEqualTo("Shopping");
        assertThat(browser.part(address, "did-0").page().select(".done.undone")).hasSize(1);
        assertThat(browser.get("/today").page().select(".by-rule .n").text()).isEqualTo("1");
        assertThat(browser.post(
                                lines.get(1).select("form").attr("action"),
                                "rule",
                                lines.get(1).select("[name=rule]").val())
                        .header("Location"))
                .contains("/rules/", "spare=" + one);
        assertThat(cabinet.lies(person.id(), one)).isEqualTo("Inbox");
        assertThat(new Browser(office, office.person()).get(address).page().select(".done"))
                .as("somebody else's")
                .isEmpty();
    }

    @Test
    void whatIsOpenOnTheDaySheetIsDoneThere() {
        long due = cabinet.arrives(account, TestMail.from("anna@wharf.example", "The loan"));
        LocalDate today = LocalDate.now(ZoneOffset.UTC);
        browser.post("/act", "deed", "due", "ids", due, "due", today.minusDays(1) + " 09:30");
        asks("The boat");
        Document open = browser.part("/today", "day-open").page();
        assertThat(open.select("h1, .by-rule")).as("the rest of the page").isEmpty();
        browser.post(open.select("[aria-label='Tomorrow: The loan']").attr("data-posts"));
        assertThat(cabinet.messages.row(person.id(), due).orElseThrow().due())
                .isEqualTo(DayTime.parse(today.plusDays(1) + " 09:30"));
        browser.post(open.select("[aria-label='Not needed any more: The boat']").attr("data-posts"));
        assertThat(browser.part("/today", "day-open").page().text()).doesNotContain("The loan", "The boat");
        browser.post("/undo");
        assertThat(browser.part("/today", "day-open").page().text()).contains("The boat");
    }

    /** Three times may be chance; a fourth time, always into the same folder, may be a rule. */
    @Test
    void whatIsAlwaysFiledByHandIsProposedAsARule() {
        long loans = cabinet.folder(person.id(), "Loans").id();
        long other = cabinet.folder(person.id(), "Other").id();
        List<Long> letters = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            letters.add(cabinet.arrives(account, TestMail.from("Anna <anna@wharf.example>", "Loan " + i)));
            long mixed = cabinet.arrives(account, TestMail.from("ben@wharf.example", "Mixed " + i));
            long into = i == 2 ? other : loans;
            cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(mixed), state -> state.in(into));
        }
        String proposal = "You have filed 4 messages from Anna into Loans by hand: always so";
        for (long letter : letters) {
            assertThat(browser.get("/today").page().text()).doesNotContain("by hand");
            cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(letter), state -> state.in(loans));
        }
        Elements line = browser.get("/today").page().select("a:contains(" + proposal + ")");
        assertThat(line.attr("href")).isEqualTo("/rules/new?message=" + letters.get(3));
        assertThat(browser.get("/today").page().text()).doesNotContain("from ben@wharf.example");

        cabinet.undo.latest(person.id());
        assertThat(browser.get("/today").page().text()).as("taken back").doesNotContain(proposal);
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(letters.get(3)), state -> state.in(loans));
        assertThat(browser.get("/today").page().text()).contains(proposal);
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "wharf.example", "Loans"));
        assertThat(browser.get("/today").page().text()).as("a rule does it").doesNotContain(proposal);
    }

    @Test
    void aRuleThatIsPausedIsTold() {
        LabelRef money = cabinet.places.label(person.id(), FolderPath.parse("Money"));
        Effect label = new Effect.SetLabel(money, true);
        cabinet.rules.save(
                person.id(),
                new Rule(0, "Invoices", true, List.of(Text.subject("invoice")), List.of(), List.of(label), false));
        browser.post("/labels/" + money.id() + "/remove");
        assertThat(browser.get("/today").page().select("main").text()).contains("What rules could not do", "Invoices");
    }

    @Test
    void whatWasAskedIsAskedAgainOrClosed() {
        long message = asks("The boat");
        assertThat(browser.get("/awaiting").page().select("main").text())
                .contains("The boat", "When does it come?", "three days are over", "Overdue since");
        String draft = browser.post("/answer/" + message, "again", "true").header("Location");
        assertThat(browser.get(draft).text())
                .contains("May I ask again?", "anna@wharf.example", "&gt; When does it come?");
        browser.post("/awaiting/" + message + "/close");
        assertThat(browser.get("/awaiting").text()).contains("Nothing is overdue.");
        browser.post("/undo");
        assertThat(browser.get("/awaiting").text()).contains("The boat");
        Browser other = new Browser(office, office.person());
        other.post("/awaiting/" + message + "/close");
        assertThat(browser.get("/awaiting").text()).contains("The boat");
        assertThat(other.get("/awaiting").text()).doesNotContain("The boat");
    }

    @Test
    void standingDaysAreOfferedWhereADayIsAskedFor() {
        long message = cabinet.arrives(account, TestMail.from("anna@wharf.example", "Shelves"));
        browser.post("/standing-days", "name", " Saturday  morning ", "weekday", "SATURDAY", "at", "09:00");
        browser.post("/standing-days", "name", "Board <b>", "weekday", "TUESDAY");
        Document desk = browser.get("/mail/inbox").page();
        Elements own = desk.select(".due-dialog[data-kind=tickler] .choices button:contains(Saturday morning)");
        assertThat(own).hasSize(1);
        DayTime day = DayTime.parse(own.attr("data-day"));
        assertThat(day.day().getDayOfWeek()).isEqualTo(DayOfWeek.SATURDAY);
        assertThat(day.day()).isAfter(LocalDate.now(ZoneOffset.UTC));
        assertThat(day.time()).isEqualTo(LocalTime.of(9, 0));
        assertThat(own.select("small").text()).startsWith("Sat ").endsWith(", 09:00");
        assertThat(desk.select(".due-dialog .choices b").eachText()).contains("Board <b>");
        browser.post("/act", "deed", "tickler", "ids", message, "due", day);
        assertThat(cabinet.lies(person.id(), message)).isEqualTo("Tickler");
        assertThat(cabinet.messages.row(person.id(), message).orElseThrow().until())
                .isEqualTo(day);

        browser.post("/standing-days", "name", "saturday morning", "weekday", "SUNDAY");
        assertThat(browser.get("/habits").page().select("#standing-days li b").eachText())
                .containsExactly("Board <b>", "saturday morning");
        String gone = browser.get("/habits")
                .page()
                .select("#standing-days li form")
                .get(0)
                .attr("action");
        browser.post(gone);
        assertThat(browser.get("/habits").page().select("#standing-days li b").eachText())
                .containsExactly("saturday morning");
        browser.post("/undo");
        assertThat(browser.get("/habits").page().select("#standing-days li b").eachText())
                .containsExactly("Board <b>", "saturday morning");
        assertThat(browser.post("/standing-days", "name", " ", "weekday", "SUNDAY")
                        .text())
                .contains("needs a name");
        Browser other = new Browser(office, office.person());
        assertThat(other.post(gone).text()).contains("gone already");
        assertThat(browser.get("/habits").page().select("#standing-days li")).hasSize(2);
    }
}
