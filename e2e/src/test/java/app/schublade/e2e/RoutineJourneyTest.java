package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Page;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** By keys: an Inbox is worked through with routines, and all of it is taken back. */
@ExtendWith(Office.Extension.class)
class RoutineJourneyTest {
    private static final int MESSAGES = 12;

    private final Office office;

    RoutineJourneyTest(Office office) {
        this.office = office;
    }

    @Test
    void anInboxIsClearedByRoutinesAndPutBack() {
        CurrentUser person = office.person();
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "MU");
        for (int i = 1; i <= MESSAGES; i++) {
            cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", "Report " + i));
        }
        try (Window window = new Window(office)) {
            window.logIn(person, Office.PASSWORD);
            Page page = window.page;
            Desk desk = new Desk(page);
            desk.press("ArrowDown").showsMessage("Report 12");
            desk.press("8").says("Done").showsMessage("Report 11");
            desk.press("q").type("wait").press("Enter");
            desk.says("Waiting").showsMessage("Report 10");
            desk.press("4").says("To do today");
            assertThat(page.locator(".row.current, .row[aria-selected=true]").first())
                    .hasClass(java.util.regex.Pattern.compile("flagged"));
            desk.press("Control+a").press("8").says("Done: 10 messages");
            assertThat(page.locator(".row")).hasCount(0);
            assertThat(cabinet.counts(person.id(), "Inbox")).startsWith("0");
            desk.press("z").says("Undone: Done: 10 messages");
            assertThat(page.locator(".row")).hasCount(MESSAGES - 2);
            desk.press("z").says("Undone: To do today");
            desk.press("z").says("Undone: Waiting");
            desk.press("z").says("Undone: Done");
            assertThat(page.locator(".row")).hasCount(MESSAGES);
        }
    }

    @Test
    void aRoutineThatAnswersOpensTheAnswer() {
        CurrentUser person = office.person();
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "MU");
        long message = cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", "The keys"));
        try (Window window = new Window(office)) {
            window.logIn(person, Office.PASSWORD);
            Desk desk = new Desk(window.page);
            desk.press("ArrowDown").showsMessage("The keys");
            desk.press("9");
            assertThat(window.page.locator("#compose [name=to]")).hasValue("Ottoline <o@grebe.example>");
            assertThat(window.page.locator("#compose .editor").innerText()).startsWith("Thank you.");
            assertThat(cabinet.lies(person.id(), message)).isEqualTo("Archive");
        }
    }
}
