package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.schublade.standin.Standin;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What is done in the page reaches the server, or is said not to: whatever becomes of answers and sessions. */
@ExtendWith(Office.Extension.class)
class QueueJourneyTest {
    private final Office office;
    private final Cabinet cabinet;

    QueueJourneyTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
    }

    private void isIn(CurrentUser person, String subject, String folder) {
        Await.until(
                subject + " is in " + folder,
                () -> cabinet.jdbc
                        .sql("""
                        select f.path from message m join folder f on f.id = m.folder_id
                        join message_head h on h.message_id = m.id where m.user_id = ? and h.subject = ?
                        """)
                        .params(person.id(), subject)
                        .query(String.class)
                        .single()
                        .equals(folder));
    }

    interface Journey {
        void go(CurrentUser person, Window window, Desk desk) throws Exception;
    }

    /** Of somebody with three messages, “Visit 1” to “Visit 3”, the last of them open. */
    private void journey(Journey journey) throws Exception {
        CurrentUser person = office.person();
        try (Standin hosts = new Standin(Standin.Options.forTests(0));
                Window window = new Window(office)) {
            for (int i = 1; i <= 3; i++) {
                hosts.deliver("anna@westwharf-school.example", "schools@lanternquay.example", "Visit " + i, "Hello");
            }
            office.addAndImport(person, hosts, "MU");
            journey.go(person, window, window.logIn(person, Office.PASSWORD).open("Visit 3"));
        }
    }

    @Test
    void anAnswerThatBreaksOffIsSaidAndTheNextActGoesOut() throws Exception {
        journey((person, window, desk) -> {
            window.page.evaluate("""
                    () => {
                      const real = window.fetch;
                      window.fetch = async (...asked) => {
                        const answer = await real(...asked);
                        if (asked[0] !== '/act') return answer;
                        window.fetch = real;
                        return new Response(new ReadableStream({ start: (body) => body.error(new Error('cut')) }), { status: 200 });
                      };
                    }
                    """);
            desk.press("a").says("The answer broke off");
            isIn(person, "Visit 3", "Archive");
            desk.open("Visit 2").press("a");
            isIn(person, "Visit 2", "Archive");
        });
    }

    @Test
    void whatIsPressedAfterTheSessionHasEndedIsDoneAfterTheLogin() throws Exception {
        journey((person, window, desk) -> {
            cabinet.jdbc
                    .sql("delete from spring_session where principal_name = ?")
                    .param(person.login())
                    .update();
            window.page.evaluate("document.body.dataset.same = 'yes'");
            desk.press("a");
            Locator dialog = window.page.locator("#login-again");
            Locator password = dialog.getByLabel("Password");
            assertThat(password).isFocused();
            password.fill("wrong");
            password.press("Enter");
            assertThat(dialog.locator(".problem")).isVisible();
            isIn(person, "Visit 3", "Inbox");
            password.fill(Office.PASSWORD);
            password.press("Enter");
            assertThat(dialog).hasCount(0);
            isIn(person, "Visit 3", "Archive");
            desk.says("Archived").press("z");
            isIn(person, "Visit 3", "Inbox");
            assertThat(window.page.locator("body")).hasAttribute("data-same", "yes");
            window.mayHaveBeenRefused(401, 403);
        });
    }

    @Test
    void whatIsPressedWhileTheDatabaseIsAwayIsDoneInItsTurnWhenItIsBack() throws Exception {
        journey((person, window, desk) -> {
            office.whileTheDatabaseIsAway(() -> {
                desk.press("a").says("The database does not answer. What you do waits here");
                desk.message("Visit 2").click();
                desk.press("a");
            });
            isIn(person, "Visit 3", "Archive");
            isIn(person, "Visit 2", "Archive");
            desk.says("Archived").press("z");
            isIn(person, "Visit 2", "Inbox");
            window.mayHaveBeenRefused(503);
        });
    }

    @Test
    void aPageThatIsLeftWhileTheDatabaseIsAwayComesBackByItselfAndWhatWasPressedIsDone() throws Exception {
        journey((person, window, desk) -> {
            office.whileTheDatabaseIsAway(() -> {
                desk.press("a").says("The database does not answer");
                // It is asked for again, and nobody has answered that when the page is left.
                window.page.waitForRequest("**/act", () -> {});
                window.page.reload();
                assertThat(window.page.locator("h1")).hasText("The database does not answer");
            });
            isIn(person, "Visit 3", "Archive");
            desk.listsNot("Visit 3").lists("Visit 2");
            window.mayHaveBeenRefused(503);
        });
    }
}
