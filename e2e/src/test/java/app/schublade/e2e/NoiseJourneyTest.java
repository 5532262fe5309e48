package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** By keys alone: noise is kept out, what is done with is tidied up, and all of it is taken back. */
@ExtendWith(Office.Extension.class)
class NoiseJourneyTest {
    private static final int OLD = 5;

    private final Office office;

    NoiseJourneyTest(Office office) {
        this.office = office;
    }

    @Test
    void noiseIsKeptOutAndTheRestIsTidiedUp() {
        CurrentUser person = office.person();
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "MU");
        Instant longAgo = Instant.now().minus(Duration.ofDays(30));
        for (int i = 1; i <= OLD; i++) {
            cabinet.arrives(
                    account,
                    TestMail.from("Ottoline <o@grebe.example>", "Report " + i)
                            .at(longAgo.plusSeconds(i))
                            .read());
        }
        cabinet.arrives(
                account, TestMail.from("Spam <spam@shop.example>", "An offer").at(Instant.now()));
        cabinet.arrives(
                account,
                TestMail.from("Anna <anna@wharf.example>", "The lift")
                        .at(Instant.now().plusSeconds(5)));
        try (Window window = new Window(office)) {
            Desk desk = window.logIn(person, Office.PASSWORD);
            Page page = window.page;
            desk.press("ArrowDown").showsMessage("The lift");
            desk.press("b");
            assertThat(page.locator(".noise[open] button").first()).isFocused();
            desk.press("Enter").says("Muted the conversation: 1 message archived");
            desk.listsNot("The lift").showsMessage("An offer");
            desk.press("b");
            assertThat(page.locator(".noise[open] button").first()).isFocused();
            desk.press("b", "Enter").says("Blocked spam@shop.example: 1 message in the trash");
            desk.listsInAll(OLD);

            desk.press("/").type("tidy up the");
            Locator first = page.locator("#finds [role=option]").first();
            assertThat(first).containsText("Tidy up the Inbox");
            desk.press("ArrowDown", "Enter");
            assertThat(page.locator(".heap")).hasCount(1);
            assertThat(page.locator("main h1")).isFocused();
            desk.press("t").says("Filed into Archive: 5 messages");
            assertThat(page.locator(".tidy-page .empty")).isVisible();

            desk.press("z").says("Undone: Filed into Archive: 5 messages");
            assertThat(page.locator(".heap .n")).hasText("5");
            desk.press("z").says("Undone: Blocked spam@shop.example");
            desk.press("z").says("Undone: Muted the conversation");
            desk.press("Escape");
            desk.listsInAll(OLD + 2);
        }
    }
}
