package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.util.ArrayList;
import java.util.List;

/** The pages of accounts and aliases, as their user sees them. */
final class AccountsPage {
    /** How long mail servers may take to answer, in milliseconds. */
    private static final double LONG = 30_000;

    private final Window window;
    private final Page page;

    AccountsPage(Window window) {
        this.window = window;
        this.page = window.page;
    }

    AccountsPage open() {
        window.open("/accounts");
        return this;
    }

    private Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private Locator link(String name) {
        return page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name));
    }

    /** Types an address and its password, looks at what was found, and agrees. */
    AccountsPage add(String address, String password) {
        open();
        page.getByLabel("Address").fill(address);
        page.getByLabel("Password").fill(password);
        button("Find its servers").click();
        assertThat(page.locator(".found .works")).hasCount(2, new LocatorAssertions.HasCountOptions().setTimeout(LONG));
        button("Add it").click();
        page.waitForURL("**/mail/inbox");
        assertThat(page.locator("#notice")).containsText("Its mail is coming in");
        return this;
    }

    AccountsPage isRefused(String address, String password) {
        open();
        page.getByLabel("Address").fill(address);
        page.getByLabel("Password").fill(password);
        List<Route> held = new ArrayList<>();
        page.route("**/accounts/find", held::add, new Page.RouteOptions().setTimes(1));
        button("Find its servers").click();
        assertThat(page.locator("#notice")).containsText("Looking for its servers…");
        held.forEach(Route::resume);
        assertThat(page.locator(".found"))
                .containsText("refuses the password", new LocatorAssertions.ContainsTextOptions().setTimeout(LONG));
        return this;
    }

    AccountsPage lists(String... names) {
        open();
        assertThat(page.locator(".account-row")).hasCount(names.length);
        for (int i = 0; i < names.length; i++) {
            assertThat(page.locator(".account-row").nth(i)).containsText(names[i]);
        }
        return this;
    }

    AccountsPage moveUp(String name) {
        page.waitForResponse(
                "**/accounts",
                () -> page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Move " + name + " up"))
                        .click());
        return this;
    }

    AccountsPage choose(String name) {
        open();
        link(name).click();
        assertThat(page.locator("main h1")).containsText(name);
        return this;
    }

    AccountsPage rename(String name) {
        page.locator("main").getByLabel("Name").fill(name);
        button("Save").first().click();
        assertThat(page.locator("main h1")).containsText(name);
        return this;
    }

    AccountsPage claims(String alias) {
        link("Its aliases").click();
        button("Mine: " + alias).click();
        assertThat(page.getByRole(AriaRole.TABLE)).containsText(alias);
        return this;
    }

    AccountsPage takesOut(String name) {
        choose(name);
        link("Remove this account").click();
        assertThat(page.locator("main")).containsText("All its mail on its server");
        button("Remove it").click();
        assertThat(page.locator("#notice")).containsText("Its server keeps its mail");
        return this;
    }
}
