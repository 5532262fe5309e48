package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Text;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.LabelRef;
import app.schublade.store.account.Account;
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
