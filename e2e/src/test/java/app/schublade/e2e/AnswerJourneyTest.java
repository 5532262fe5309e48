package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.sync.Synchroniser;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A message is answered by keys alone, put aside half-written, taken up again and sent. */
@ExtendWith(Office.Extension.class)
class AnswerJourneyTest {
    private final Office office;

    AnswerJourneyTest(Office office) {
        this.office = office;
    }

    @Test
    void anAnswerIsWrittenPutAsideAndSent() throws Exception {
        CurrentUser person = office.person();
        try (Standin hosts = new Standin(Standin.Options.forTests(30));
                Window window = new Window(office)) {
            hosts.deliver("ottoline@grebe.example", "loans@lanternquay.example", "Crack in the deck", "Dear Tilda,");
            Account account = office.addAndImport(person, hosts, "MU");
            Page page = window.page;
            window.logIn(person, Office.PASSWORD).open("Crack in the deck").press("r");
            Locator text = page.locator("#compose textarea");
            assertThat(text).isFocused();
            assertThat(page.getByLabel("From").locator("option:checked")).containsText("loans@lanternquay.example");
            page.keyboard().type("It will be seen to.");
            page.keyboard().press("Escape");
            assertThat(page.locator("#rows")).isFocused();
            assertThat(page.locator("#place-outgoing")).containsText("1");
            new Desk(page).press("r", "r"); // The draft goes on, and there is one of it.
            assertThat(text)
                    .hasValue(java.util.regex.Pattern.compile(
                            "^It will be seen to\\..*", java.util.regex.Pattern.DOTALL));
            assertThat(Cabinet.of(office).outgoing.of(person.id())).hasSize(1);
            page.context().setOffline(true);
            text.press("Home");
            page.keyboard().type("Soon. ");
            assertThat(page.locator("#notice")).containsText("No connection");
            page.context().setOffline(false);
            window.wasOffline();
            assertThat(page.locator("#notice")).containsText("The connection is back");
            assertThat(Cabinet.of(office).outgoing.of(person.id()).get(0).text().body())
                    .startsWith("Soon. It will");
            text.press("Control+Enter");
            assertThat(page.locator("#rows")).isFocused();
            assertThat(page.locator("#notice")).containsText("Sent in 10 seconds");
            page.keyboard().press("z");
            assertThat(text).hasValue(java.util.regex.Pattern.compile("^Soon\\..*", java.util.regex.Pattern.DOTALL));
            text.press("Control+Enter");
            assertThat(page.locator("#notice")).containsText("Sent in 10 seconds");
            Await.until("it is sent", () -> !hosts.sentElsewhere().isEmpty());
            assertThat(hosts.sentElsewhere().get(0).getSubject()).isEqualTo("Re: Crack in the deck");
            new Desk(page).goTo("Sent").lists("Re: Crack in the deck");
            office.bean(Synchroniser.class).forget(account.id());
        }
    }
}
