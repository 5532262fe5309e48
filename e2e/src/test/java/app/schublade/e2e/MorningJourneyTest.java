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
import com.microsoft.playwright.Page;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A morning at the desk, from the login to the logout, by keys alone. */
@ExtendWith(Office.Extension.class)
class MorningJourneyTest {
    private static final int MOST_KEYS = 250;

    private final Office office;
    private final Window window;
    private final Page page;
    private int keys;

    MorningJourneyTest(Office office) {
        this.office = office;
        window = new Window(office);
        page = window.page;
    }

    @AfterEach
    void close() {
        window.close();
    }

    private void press(String... all) {
        for (String key : all) {
            page.keyboard().press(key);
            keys++;
        }
    }

    /** One key for each letter. */
    private void type(String text) {
        page.keyboard().type(text);
        keys += text.length();
    }

    private void goTo(String command) {
        press("/");
        assertThat(page.locator("#find")).isFocused();
        type(command);
        assertThat(page.locator("#finds [role=option]").first()).isVisible();
        press("ArrowDown", "Enter");
    }

    private void isOnRows() {
        assertThat(page.locator("#rows")).isFocused();
    }

    private String open() {
        return page.locator("#sheet h2").textContent();
    }

    @Test
    void aMorningTakesFewKeys() throws Exception {
        CurrentUser person = office.person();
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            for (int i = 1; i <= 30; i++) {
                hosts.deliver("anna@westwharf-school.example", "schools@lanternquay.example", "Visit " + i, "Hello");
            }
            Account account = office.addAndImport(person, hosts, "MU");
            Cabinet cabinet = Cabinet.of(office);
            cabinet.folder(person.id(), "Loans");
            window.open("/login");
            assertThat(page.getByLabel("Login")).isFocused();
            type(person.login());
            press("Tab");
            type(Office.PASSWORD);
            press("Enter");
            page.waitForURL("**/mail/inbox");
            isOnRows();

            for (int i = 0; i < 20; i++) { // Twenty messages are read.
                String before = i == 0 ? "" : open();
                press("ArrowDown");
                page.waitForCondition(() -> page.locator("#sheet h2").count() == 1 && !open().equals(before));
            }

            String answered = open();
            press("r"); // One is answered, and the next one is open.
            assertThat(page.locator("#compose .editor")).isFocused();
            type("Welcome.");
            press("Control+Enter");
            assertThat(page.locator("#notice")).containsText("Sent in");
            isOnRows();
            assertThat(page.locator("#sheet h2")).not().hasText(answered);

            for (int i = 0; i < 3; i++) { // Three are filed, the first into a folder that is not there yet.
                String before = open();
                press("f");
                assertThat(page.locator("dialog[open] [role=combobox]")).isFocused();
                type(i == 0 ? "Class visits" : "cla");
                assertThat(page.locator("#folder-choices [aria-selected=true]")).containsText("Class visits");
                press("Enter");
                page.waitForCondition(() -> !open().equals(before));
            }

            press("l"); // A label is put on.
            assertThat(page.locator("dialog[open] [role=combobox]")).isFocused();
            type("2027");
            assertThat(page.locator("#label-choices [aria-selected=true]")).containsText("2027");
            press("Enter", "Escape");
            assertThat(page.locator("#sheet .who .chip")).hasText("2027");

            goTo("make the"); // Its sender becomes a key person.
            assertThat(page.locator("#sheet .key-person")).isVisible();

            press("m"); // A rule is made from it.
            assertThat(page.locator("#then-text-0")).hasValue("Class visits"); // Where the sender's mail is filed.
            assertThat(page.locator("#trial [data-save]").first()).containsText("Save, and file these");
            press("Control+Enter");
            assertThat(page.locator("#notice")).containsText("filed");

            goTo("filing"); // What it did is looked at in the record, and taken back.
            assertThat(page.locator("main h1")).hasText("Filing record");
            press("z");
            assertThat(page.locator("#notice")).containsText("Undone");
            press("Escape");
            isOnRows();

            press("v"); // The list is arranged.
            assertThat(page.locator("details.arrange select").first()).isFocused();
            type("s"); // sender
            press("Enter");
            assertThat(page.locator(".div").first()).containsText("anna");
            isOnRows();

            press("/"); // Something is searched.
            type("visit 7");
            press("Enter");
            assertThat(page.locator(".row")).hasCount(1);

            goTo("log o");
            assertThat(page.locator("input[type=password]")).isVisible();
            System.out.println("A morning by keys alone: " + keys + " keys");
            assertThat(keys).isLessThan(MOST_KEYS);
            Await.until("the answer is sent", () -> !hosts.sentElsewhere().isEmpty());
            office.bean(Synchroniser.class).forget(account.id());
        }
    }
}
