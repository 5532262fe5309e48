package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Messages are passed on, and files go along: chosen, dropped, taken out, and missed where the text speaks of them. */
@ExtendWith(Office.Extension.class)
class FilesJourneyTest {
    private final Office office;

    FilesJourneyTest(Office office) {
        this.office = office;
    }

    private static FilePayload file(String name) {
        return new FilePayload(name, "text/plain", "x".repeat(2_000).getBytes(StandardCharsets.UTF_8));
    }

    @Test
    void filesGoAlongAndAreMissedOnce() {
        CurrentUser person = office.person();
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "MU");
        for (int i = 1; i <= 3; i++) {
            cabinet.arrives(account, TestMail.from("Halden <office@halden.example>", "Letter " + i));
        }
        try (Window window = new Window(office)) {
            Desk desk = window.logIn(person, Office.PASSWORD);
            Page page = window.page;
            Locator files = page.locator("#files .name");

            desk.press("ArrowDown", "Shift+ArrowDown", "o");
            assertThat(page.locator("[name=subject]")).hasValue("Fwd: 2 messages");
            assertThat(files).hasCount(2);
            desk.press("Escape");
            assertThat(page.locator("#rows")).isVisible();

            desk.press("ArrowDown", "w");
            page.waitForURL(Pattern.compile(".*/write/\\d+"));
            new Composer(page).goesTo("anna@wharf.example");
            page.locator(".editor").fill("The list is attached.");
            desk.press("Control+Enter")
                    .says("You wrote of an attachment, and there is none. Send once more to send it so.");
            page.locator("[data-files-to] input[type=file]")
                    .setInputFiles(new FilePayload[] {file("Überführung.txt"), file("second.txt")});
            assertThat(files).hasText(new String[] {"Überführung.txt", "second.txt"});
            assertThat(page.locator("#files small").first()).hasText("2 KB");
            page.locator("[data-file-out]").first().click();
            assertThat(files).hasText(new String[] {"second.txt"});
            assertThat(page.locator("[data-chooses-files]")).isFocused();
            page.evaluate("""
                    () => {
                      const data = new DataTransfer();
                      data.items.add(new File(['dropped'], 'dropped.txt', { type: 'text/plain' }));
                      document.querySelector('main').dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
                    }
                    """);
            assertThat(files).hasText(new String[] {"second.txt", "dropped.txt"});
            assertThat(page.locator("#files small")).hasCount(2); // All of it is here.
            page.reload();
            assertThat(files).hasText(new String[] {"second.txt", "dropped.txt"});
        }
    }

    @Test
    void answersThatAreLateChangeNothingOfWhatWasDoneSince() {
        CurrentUser person = office.person();
        Cabinet.of(office).account(person.id(), "MU");
        try (Window window = new Window(office)) {
            Desk desk = window.logIn(person, Office.PASSWORD);
            Page page = window.page;
            Locator files = page.locator("#files .name");
            Locator chooser = page.locator("[data-files-to] input[type=file]");
            desk.press("w");
            page.waitForURL(Pattern.compile(".*/write/\\d+"));
            new Composer(page).goesTo("anna@wharf.example");
            page.locator("[name=subject]").fill("The list");
            chooser.setInputFiles(file("first.txt"));
            assertThat(page.locator("#files small")).hasCount(1);

            LateAnswers late = new LateAnswers(page, "**/files?name=second.txt*");
            chooser.setInputFiles(file("second.txt"));
            late.isDone();
            desk.press("Control+Enter").says("A file is still on its way here.");
            page.locator("[data-file-out]").first().click();
            page.locator(".editor").focus();
            late.arrive();
            assertThat(files).hasText(new String[] {"second.txt"});
            assertThat(page.locator(".editor")).isFocused();

            late = new LateAnswers(page, "**/files?name=third.txt*");
            chooser.setInputFiles(file("third.txt"));
            late.isDone();
            desk.press("Escape", "Escape");
            assertThat(page.locator("#rows")).isFocused();
            desk.press("w");
            assertThat(page.locator("[name=subject]")).hasValue("");
            assertThat(page.locator("html")).hasAttribute("data-live", "");
            late.arrive();
            chooser.setInputFiles(file("of another.txt"));
            assertThat(page.locator("#files small")).hasCount(1);
            assertThat(files).hasText(new String[] {"of another.txt"});
        }
    }
}
