package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.deque.html.axecore.playwright.AxeBuilder;
import com.deque.html.axecore.results.Rule;
import java.time.LocalDate;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Every main view as a checker of accessibility (WCAG 2.2 A and AA) sees it, with something on it. */
@ExtendWith(Office.Extension.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class AccessibilityTest {
    private static final List<String> WANTED =
            List.of("wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice");

    private final Window window;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private Account account;
    private long message;
    private long folder;
    private long label;

    AccessibilityTest(Office office) {
        cabinet = Cabinet.of(office);
        person = office.person();
        window = new Window(office);
    }

    @BeforeAll
    void furnish() {
        account = cabinet.account(person.id(), "MU", "loans@quay.example");
        folder = cabinet.folder(person.id(), "Loans/Halden").id();
        label = cabinet.places
                .label(person.id(), FolderPath.parse("Objects/Ship models"))
                .id();
        cabinet.people.markKey(person.id(), "halden.example", true);
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "grebe.example", "Loans"));
        long category = cabinet.places.categories(person.id()).get(0).id();
        for (int i = 0; i < 4; i++) {
            message = cabinet.arrives(
                    account,
                    TestMail.from("Halden <office@halden.example>", "Re: Letter " + i)
                            .to("loans@quay.example")
                            .named("x" + i, "x0"));
        }
        cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", "Filed by a rule"));
        cabinet.filing.act(
                person.id(),
                Cause.HAND,
                "Labelled",
                List.of(message),
                state -> state.with(label, true).categorised(category).due(LocalDate.of(2026, 11, 20)));
        window.logIn(person, Office.PASSWORD);
        window.page.locator("summary[data-key=v]").click();
        window.page.getByLabel("A conversation is one row").check();
        window.button("Arrange").click();
        assertThat(window.page.locator(".fold")).hasCount(1);
    }

    @AfterAll
    void close() {
        window.close();
    }

    private static void isClean(AxeBuilder checker) {
        assertThat(checker.withTags(WANTED).analyze().getViolations())
                .extracting(rule -> rule.getId() + ": " + rule.getHelp() + " at " + targets(rule))
                .isEmpty();
    }

    private static List<Object> targets(Rule rule) {
        return rule.getNodes().stream()
                .limit(4)
                .map(node -> (Object) (node.getTarget() + " " + node.getHtml()))
                .toList();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "/mail/inbox?open=%1$d",
                "/mail/flagged?open=%1$d",
                "/mail/tickler?open=%1$d",
                "/rules/check",
                "/mail/folder/%2$d",
                "/mail/label/%3$d",
                "/mail/find?words=letter",
                "/folders/%2$d",
                "/folders/deleted",
                "/labels",
                "/categories",
                "/trays",
                "/habits",
                "/rules",
                "/rules/new?message=%1$d",
                "/record",
                "/people",
                "/accounts",
                "/accounts/new"
            })
    void nothingIsFoundOn(String address) {
        window.open(address.formatted(message, folder, label));
        assertThat(window.page.locator("h1").first()).isVisible();
        isClean(new AxeBuilder(window.page));
    }

    @ParameterizedTest
    @ValueSource(strings = {"f", "l", "d", "p", "?", "h", "v", "c", "x", "t"})
    void norOnWhatOpensWith(String key) {
        window.open("/mail/inbox?open=" + message);
        assertThat(window.page.locator("#rows")).isFocused();
        window.page.keyboard().press(key);
        String opened = "dialog[open], details.arrange[open]";
        assertThat(window.page.locator(opened)).isVisible();
        isClean(new AxeBuilder(window.page).include(opened));
    }
}
