package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** By keys: something is found by a part of a word, narrowed, read, kept, and found again. */
@ExtendWith(Office.Extension.class)
class FindJourneyTest {
    private final Office office;

    FindJourneyTest(Office office) {
        this.office = office;
    }

    @Test
    void aSearchIsNarrowedReadAndKept() {
        CurrentUser person = office.person();
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "MU");
        for (int i = 1; i <= 3; i++) {
            cabinet.arrives(
                    account,
                    TestMail.from("Ottoline <o@grebe.example>", "Report " + i)
                            .saying("The Haftpflichtversicherung, the versicherung number " + i + "."));
        }
        cabinet.arrives(account, TestMail.from("Anna <anna@wharf.example>", "Versicherung of the crates"));
        cabinet.index.index(account.id(), 10);
        try (Window window = new Window(office)) {
            window.logIn(person, Office.PASSWORD);
            Page page = window.page;
            Desk desk = new Desk(page);
            desk.press("/").type("versicherung");
            assertThat(page.locator("#finds li")
                            .filter(new Locator.FilterOptions().setHasText("Versicherung of the crates")))
                    .isVisible();
            desk.press("Enter");
            assertThat(page.locator(".row")).hasCount(4);
            assertThat(page.locator(".facet h2:text-is('From')")).isVisible();
            page.locator(".bar-line:has-text('Ottoline')").click();
            assertThat(page.locator(".row")).hasCount(3);
            assertThat(page.locator("#find")).hasValue("versicherung from o@grebe.example");

            desk.press("ArrowDown").showsMessage("Report 3");
            assertThat(page.locator(".row.new")).hasCount(2); // It is read after a second.
            assertThat(page.locator("[data-next-word] b")).hasText("2 places");
            desk.press(".");
            assertThat(page.locator("#heard")).hasText("Word 1 of 2");
            assertThat(page.evaluate("[...CSS.highlights.get('found-here')].map((one) => one.toString())"))
                    .isEqualTo(List.of("versicherung"));

            page.locator(".term .take-back").first().click();
            assertThat(page.locator(".term")).hasCount(1);
            assertThat(page.locator(".row")).hasCount(3);
            page.locator(".keeps summary").click();
            assertThat(page.locator(".keeps [name=name]")).isFocused();
            desk.type("From Ottoline").press("Enter");
            desk.says("Saved as “From Ottoline”");
            assertThat(page.locator(".searches .count")).hasText("2");
            desk.press("z").says("Undone: Saved the search From Ottoline");
            assertThat(page.locator(".searches a")).hasCount(0);
            assertThat(page.locator("#place-title")).hasText("Inbox");
            window.mayHaveBeenRefused(404); // The list of what is gone may have been asked for once more.
        }
    }
}
