package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.schublade.standin.Standin;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.Person;
import com.microsoft.playwright.Page;
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

    private void isIn(Person person, String subject, String folder) {
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

    @Test
    void anAnswerThatBreaksOffIsSaidAndTheNextActGoesOut() throws Exception {
        Person person = office.person();
        try (Standin hosts = new Standin(Standin.Options.forTests(0));
                Window window = new Window(office)) {
            for (int i = 1; i <= 3; i++) {
                hosts.deliver("anna@westwharf-school.example", "schools@lanternquay.example", "Visit " + i, "Hello");
            }
            office.addAndImport(person, hosts, "MU");
            Desk desk = window.logIn(person, Office.PASSWORD);
            Page page = window.page;
            desk.open("Visit 3");
            page.evaluate("""
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
            page.keyboard().press("a");
            assertThat(page.locator("#notice")).containsText("The answer broke off");
            isIn(person, "Visit 3", "Archive");
            desk.open("Visit 2");
            page.keyboard().press("a");
            isIn(person, "Visit 2", "Archive");
        }
    }

    @Test
    void whatIsPressedAfterTheSessionHasEndedIsDoneAfterTheLogin() throws Exception {
        Person person = office.person();
        try (Standin hosts = new Standin(Standin.Options.forTests(0));
                Window window = new Window(office)) {
            for (int i = 1; i <= 3; i++) {
                hosts.deliver("anna@westwharf-school.example", "schools@lanternquay.example", "Visit " + i, "Hello");
            }
            office.addAndImport(person, hosts, "MU");
            Desk desk = window.logIn(person, Office.PASSWORD);
            desk.open("Visit 3");
            cabinet.jdbc
                    .sql("delete from spring_session where principal_name = ?")
                    .param(person.login())
                    .update();
            window.page.keyboard().press("a");
            window.page.waitForURL("**/login");
            window.page.getByLabel("Login").fill(person.login());
            window.page.getByLabel("Password").fill(Office.PASSWORD);
            window.button("Log in").click();
            window.page.waitForURL("**/mail/**");
            isIn(person, "Visit 3", "Archive");
            window.sessionEnded();
        }
    }
}
