package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.regex.Pattern;

/** The rules page with a rule open. */
final class RuleEditor {
    private final Page page;

    RuleEditor(Page page) {
        this.page = page;
    }

    RuleEditor name(String name) {
        page.getByLabel("The rule's name").fill(name);
        return this;
    }

    /** Takes out every line of When that is of another kind. */
    /** What the rule goes by, of what is offered above it. */
    RuleEditor by(String what) {
        Locator way = page.locator(".beginnings a:has-text('" + what + "')");
        way.click();
        assertThat(way).hasAttribute("aria-current", "true");
        return this;
    }

    RuleEditor keepOnly(String kind) {
        Locator lines = card("when").locator(".line");
        int count = lines.count();
        for (int i = count - 1; i >= 0; i--) {
            String shown = lines.nth(i).locator("[data-kind] option:checked").innerText();
            if (!shown.equals(kind)) {
                lines.nth(i).getByRole(AriaRole.BUTTON).click();
                assertThat(lines).hasCount(--count);
            }
        }
        return this;
    }

    private Locator card(String part) {
        return page.locator("fieldset[data-part=" + part + "]");
    }

    RuleEditor fileInto(String folder) {
        card("then").locator("input[data-text]").first().fill(folder);
        return this;
    }

    RuleEditor alsoCategory(String category) {
        Locator lines = card("then").locator("select");
        int before = lines.count();
        card("then")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(Pattern.compile("Add a line")))
                .click();
        assertThat(lines).hasCount(before + 1);
        lines.nth(before).selectOption("CATEGORY");
        card("then").locator("input[data-text]").nth(before).fill(category);
        return this;
    }

    /** What a line offers follows its kind. */
    RuleEditor alsoMarkRead() {
        Locator lines = card("then").locator(".line:has(select)");
        int before = lines.count();
        card("then")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(Pattern.compile("Add a line")))
                .click();
        assertThat(lines).hasCount(before + 1);
        assertThat(lines.nth(before).locator("input")).hasAttribute("placeholder", "Label / label in it");
        lines.nth(before).locator("select").selectOption("READ");
        assertThat(lines.nth(before).locator("input")).isHidden();
        return this;
    }

    /** The trial run shows this figure. */
    RuleEditor trialSays(String figure) {
        assertThat(page.locator("#trial .fig", new Page.LocatorOptions().setHasText(figure))
                        .first())
                .isVisible();
        return this;
    }

    RuleEditor untick(String subject) {
        Locator box = page.locator(".trow", new Page.LocatorOptions().setHasText(subject))
                .getByRole(AriaRole.CHECKBOX);
        box.uncheck();
        return this;
    }

    RuleEditor saveAndFile(int messages) {
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save, and file these " + messages))
                .click();
        return isKept();
    }

    RuleEditor saveForNewMail() {
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save for new mail only"))
                .click();
        return isKept();
    }

    private RuleEditor isKept() {
        page.waitForURL(Pattern.compile(".*/rules/\\d+"));
        return this;
    }

    RuleEditor says(String notice) {
        assertThat(page.locator("#notice")).containsText(notice);
        return this;
    }

    RuleEditor lists(int number, String name) {
        assertThat(page.locator(".rules .rule").nth(number - 1)).containsText(name);
        return this;
    }

    RuleEditor press(String key) {
        page.keyboard().press(key);
        return this;
    }

    Desk toDesk() {
        page.getByRole(
                        AriaRole.LINK,
                        new Page.GetByRoleOptions().setName("Mail").setExact(true))
                .click();
        page.waitForURL("**/mail/inbox");
        return new Desk(page);
    }
}
