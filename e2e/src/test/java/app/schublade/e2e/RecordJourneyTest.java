package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What a rule did wrong is put right where it is recorded, and the rules are brought into order. */
@ExtendWith(Office.Extension.class)
class RecordJourneyTest {
    private final Office office;

    RecordJourneyTest(Office office) {
        this.office = office;
    }

    private static Locator button(Page page, String name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name))
                .first();
    }

    @Test
    void aWrongFilingIsTakenBackAndTheRuleNarrowed() {
        CurrentUser person = office.person();
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "MU");
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "wharf.example", "Wharf"));
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "pier.example", "Pier"));
        cabinet.arrives(account, TestMail.from("anna@wharf.example", "Loan of a crate"));
        cabinet.arrives(account, TestMail.from("ben@wharf.example", "Lunch on Friday"));
        try (Window window = new Window(office)) {
            window.logIn(person, Office.PASSWORD);
            Page page = window.page;
            page.getByRole(
                            AriaRole.LINK,
                            new Page.GetByRoleOptions().setName("Record").setExact(true))
                    .click();
            assertThat(page.locator(".done").first()).containsText("Lunch on Friday");
            button(page, "Not this one").click();
            assertThat(page.locator(".narrower")).containsText("from ben@wharf.example");
            assertThat(page).hasURL(java.util.regex.Pattern.compile(".*/rules/\\d+\\?spare=\\d+"));
            button(page, "Save for new mail only").click();
            assertThat(page.locator("#notice")).containsText("Saved");
            assertThat(page.locator(".rule").first()).containsText("unless from ben@wharf.example");

            page.locator(".rule").nth(1).dragTo(page.locator(".rule").first());
            assertThat(page.locator(".rule").first()).containsText("pier.example");
            page.locator(".rule-place input").first().check();
            button(page, "off").click();
            assertThat(page.locator("#notice")).containsText("1 rule: switched off");
            assertThat(page.locator(".rule").first()).containsText("off · from pier.example");

            page.getByRole(
                            AriaRole.LINK,
                            new Page.GetByRoleOptions().setName("Record").setExact(true))
                    .click();
            assertThat(page.locator(".done").first()).containsText("undone");
            page.locator("main").getByLabel("By").selectOption("HAND");
            assertThat(page.locator("#record")).containsText("No match.");
        }
    }
}
