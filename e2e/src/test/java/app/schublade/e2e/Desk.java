package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.regex.Pattern;

/** The desk, as a user speaks of it. */
final class Desk {
    private final Page page;

    Desk(Page page) {
        this.page = page;
    }

    Desk goTo(String place) {
        cabinet().locator("a:has(.name:text-is('" + place + "'))").first().click();
        assertThat(page.locator("#place-title")).containsText(place);
        assertThat(page.locator("#cabinet")).hasAttribute("data-here", Pattern.compile("/mail/.+"));
        return this;
    }

    private Locator cabinet() {
        return page.locator("#cabinet");
    }

    /** Presses keys one after the other. */
    Desk press(String... keys) {
        for (String key : keys) {
            page.keyboard().press(key);
        }
        return this;
    }

    Desk type(String text) {
        page.keyboard().type(text);
        return this;
    }

    Locator message(String subject) {
        return page.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName(subject));
    }

    Desk open(String subject) {
        message(subject).first().click();
        return showsMessage(subject);
    }

    Desk showsMessage(String subject) {
        assertThat(page.locator("#sheet h2")).hasText(subject);
        return this;
    }

    Desk lists(String subject) {
        assertThat(message(subject)).hasCount(1);
        return this;
    }

    Desk listsNot(String subject) {
        assertThat(message(subject)).hasCount(0);
        return this;
    }

    Desk listsInAll(int messages) {
        assertThat(page.locator(".row")).hasCount(messages);
        return this;
    }

    Desk says(String notice) {
        assertThat(page.locator("#notice")).containsText(notice);
        return this;
    }

    /** The unread count on a drawer's label plate; none if it is 0. */
    Desk unread(String place, int count) {
        Locator plate = cabinet().locator("a[data-name='" + place + "'] .plate");
        if (count == 0) {
            assertThat(plate).hasCount(0);
        } else {
            assertThat(plate).hasText(String.valueOf(count));
        }
        return this;
    }

    Desk unreadOfAccount(String code, int count) {
        assertThat(page.locator("#chip-" + code + " b")).hasText(String.valueOf(count));
        return this;
    }

    Desk fileInto(String letters) {
        press("f");
        Locator box = page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("A few letters"));
        box.fill(letters);
        assertThat(page.locator("#folder-choices li[aria-selected=true]"))
                .containsText(
                        letters,
                        new com.microsoft.playwright.assertions.LocatorAssertions.ContainsTextOptions()
                                .setIgnoreCase(true));
        box.press("Enter");
        return this;
    }

    /** Puts a label on, or takes it off if it is on. */
    Desk label(String letters) {
        press("l");
        page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("A few letters"))
                .fill(letters);
        assertThat(page.locator("#label-choices li[aria-selected=true]")).containsText(letters);
        return press("Enter", "Escape");
    }

    /** A folder of the user's own in the cabinet. */
    Locator drawer(String name) {
        return cabinet().locator("a[data-name='" + name + "']");
    }

    Desk drag(String subject, String folder) {
        message(subject).first().dragTo(cabinet().locator("a[data-name='" + folder + "']"));
        return this;
    }

    /** Why the open message lies where it does. */
    Desk isExplained(String what, String why) {
        Locator note = page.locator("#sheet .note").first();
        assertThat(note).containsText(what);
        note.getByText("Why?").click();
        assertThat(note.locator(".why")).containsText(why);
        return this;
    }

    Desk undoAtMessage() {
        page.locator("#sheet .note")
                .first()
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Undo"))
                .click();
        return this;
    }

    RuleEditor makeRule() {
        press("m");
        page.waitForURL("**/rules/new?message=*");
        return new RuleEditor(page);
    }

    Desk narrowTo(String code) {
        page.locator("#chip-" + code).click();
        page.waitForURL(Pattern.compile(".*account=" + code + ".*"));
        return this;
    }

    Page page() {
        return page;
    }
}
