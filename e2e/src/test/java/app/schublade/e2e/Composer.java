package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;

/** A message that is being written, below another or on a page of its own. */
final class Composer {
    final Page page;
    final Locator text;
    final Locator to;
    final Locator recipients;
    final Locator subject;

    Composer(Page page) {
        this.page = page;
        text = page.locator("#compose .editor");
        to = page.locator("#compose-to");
        recipients = page.locator("#compose .recipient");
        subject = page.locator("#compose [name=subject]");
    }

    /** Where one begins to type. */
    Composer isOpen() {
        assertThat(text).isFocused();
        return this;
    }

    Composer isClosed() {
        assertThat(page.locator("#compose")).hasCount(0);
        return this;
    }

    Composer isBelowTheMessage() {
        assertThat(page.locator("#sheet #answer #compose")).isVisible();
        return this;
    }

    Composer goesTo(String typed) {
        to.fill(typed);
        to.press("Enter");
        return this;
    }

    Composer formatted(String how) {
        page.locator("#compose [data-format=" + how + "]").click();
        return this;
    }
}
