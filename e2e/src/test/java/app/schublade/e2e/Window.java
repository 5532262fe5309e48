package app.schublade.e2e;

import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.ConsoleMessage;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import org.jspecify.annotations.Nullable;

/** A browser window; everything that goes wrong in it fails the test when it is closed. */
final class Window implements AutoCloseable {
    private static final List<String> ARGUMENTS = List.of(
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync");

    static {
        PlaywrightAssertions.setDefaultAssertionTimeout(20_000); // Other tests run beside these.
    }

    /** One for all windows of a test process, as starting one takes longer than most of what is done in it. */
    private static @Nullable Browser running;

    private final BrowserContext context;
    private final String address;
    private final List<String> problems = new CopyOnWriteArrayList<>();
    final Page page;

    Window(Office office) {
        context = browser().newContext(new Browser.NewContextOptions().setViewportSize(1280, 800));
        address = office.address();
        page = context.newPage();
        watch(page);
    }

    /** It ends with the test process, for its driver does. */
    private static synchronized Browser browser() {
        Browser browser = running;
        if (browser == null || !browser.isConnected()) {
            Map<String, String> environment = new HashMap<>(System.getenv());
            environment.put("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1");
            environment.remove("PLAYWRIGHT_NODEJS_PATH"); // The driver brings the one that it runs on.
            browser = Playwright.create(new Playwright.CreateOptions().setEnv(environment))
                    .chromium()
                    .launch(new BrowserType.LaunchOptions()
                            .setExecutablePath(Path.of(
                                    environment.getOrDefault("SCHUBLADE_CHROMIUM", "/usr/bin/chromium-headless-shell")))
                            .setHeadless(true)
                            .setChromiumSandbox(false)
                            .setTimeout(60_000)
                            .setArgs(ARGUMENTS));
            running = browser;
        }
        return browser;
    }

    private void watch(Page one) {
        one.setDefaultTimeout(20_000);
        one.onPageError(problems::add);
        one.onConsoleMessage(message -> {
            if (isProblem(message)) {
                problems.add(message.text() + " at " + message.location());
            }
        });
    }

    /** What a page still asks for when it is left comes to nothing, as it should; htmx calls that an error. */
    private static final List<String> LEFT = List.of("htmx:sendAbort", "htmx:afterRequest");

    /** That the server refuses what cannot be is an answer, though browsers call it an error. */
    private static boolean isProblem(ConsoleMessage message) {
        return !message.text().contains("status of 422")
                && LEFT.stream().noneMatch(message.text()::startsWith)
                && (message.type().equals("error") || message.type().equals("warning"));
    }

    /** There was no connection on purpose. */
    void wasOffline() {
        problems.removeIf(
                problem -> problem.contains("ERR_INTERNET_DISCONNECTED") || problem.contains("htmx:sendError"));
    }

    /** The server has refused on purpose: that is what is wanted. */
    void mayHaveBeenRefused(int... statuses) {
        for (int status : statuses) {
            problems.removeIf(problem ->
                    problem.contains("status of " + status) || problem.contains("Status Error Code " + status));
        }
    }

    /** A second window of the same user. */
    Page another(String path) {
        Page other = context.newPage();
        watch(other);
        other.navigate(address + path);
        return other;
    }

    void open(String path) {
        page.navigate(address + path);
    }

    /** Nobody is logged in, and the page of the test before does not ask for anything any more. */
    void leave() {
        page.navigate("about:blank");
        page.context().clearCookies();
    }

    Desk logIn(CurrentUser person, String password) {
        open("/login");
        page.getByLabel("Login").fill(person.login());
        page.getByLabel("Password").fill(password);
        button("Log in").click();
        page.waitForURL("**/mail/inbox");
        return new Desk(page);
    }

    Locator button(String name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
    }

    @Override
    public void close() {
        context.close();
        if (!problems.isEmpty()) {
            throw new AssertionError("The browser complained: " + problems);
        }
    }
}
