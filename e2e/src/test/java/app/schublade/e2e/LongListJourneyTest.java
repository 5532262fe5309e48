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
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;

/** A list that is longer than what a page has of it at once. */
@ExtendWith(Office.Extension.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class LongListJourneyTest {
    private static final int MESSAGES = 700;
    private static final int MOST_ROWS = 500;

    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Window window;
    private final Page page;
    private Desk desk;

    LongListJourneyTest(Office office) {
        cabinet = Cabinet.of(office);
        person = office.person();
        window = new Window(office);
        page = window.page;
        desk = new Desk(page);
    }

    /** The oldest is the first, two a day. */
    @BeforeAll
    void arrive() {
        Account account = cabinet.account(person.id(), "MU");
        for (int i = 1; i <= MESSAGES; i++) {
            cabinet.arrives(
                    account,
                    TestMail.from("anna@wharf.example", "Letter " + i)
                            .at(Cabinet.MORNING.minus(Duration.ofHours(12L * (MESSAGES - i))))
                            .read());
        }
        desk = window.logIn(person, Office.PASSWORD);
    }

    @BeforeEach
    void atItsBeginning() {
        window.open("/mail/inbox");
        assertThat(page.locator("#rows")).isFocused();
        assertThat(page.locator("#pills")).hasAttribute("data-size", String.valueOf(MESSAGES));
    }

    @AfterAll
    void close() {
        window.close();
    }

    /** What the rows say, from the first that the page has to the last; each of them stands there once. */
    private List<String> letters() {
        List<String> all = page.locator(".row .s b").allTextContents();
        assertThat(new HashSet<>(all)).hasSameSizeAs(all);
        assertThat(all).hasSizeLessThanOrEqualTo(MOST_ROWS);
        return all;
    }

    private static List<String> from(String first, int count) {
        int number = Integer.parseInt(first.replace("Letter ", ""));
        List<String> all = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            all.add("Letter " + (number - i));
        }
        return all;
    }

    private void isWithoutGap() {
        List<String> all = letters();
        assertThat(all).isEqualTo(from(all.get(0), all.size()));
    }

    private Locator current() {
        return page.locator(".row.current");
    }

    @Test
    void itsEndAndItsBeginningAreOneKeyAway() {
        desk.press("End").showsMessage("Letter 1");
        assertThat(current()).hasAttribute("aria-posinset", String.valueOf(MESSAGES));
        assertThat(current()).isInViewport();
        isWithoutGap();
        desk.press("ArrowUp").showsMessage("Letter 2");
        for (int i = 0; i < 12; i++) {
            desk.press("PageUp");
            assertThat(current()).isInViewport();
        }
        isWithoutGap();
        desk.press("Home").showsMessage("Letter " + MESSAGES);
        assertThat(current()).hasAttribute("aria-posinset", "1");
        isWithoutGap();
    }

    @Test
    void wheelingThroughItNeverHasMoreRowsThanAPageShould() {
        page.locator("#rows").hover();
        for (int i = 0; i < 60; i++) {
            page.mouse().wheel(0, 700);
            page.waitForTimeout(40);
            letters();
        }
        assertThat(page.locator(".row:has-text('Letter 1') .s b:text-is('Letter 1')"))
                .isInViewport();
        isWithoutGap();
        for (int i = 0; i < 80; i++) {
            page.mouse().wheel(0, -700);
            page.waitForTimeout(40);
        }
        assertThat(page.locator(".row .s b:text-is('Letter " + MESSAGES + "')")).isInViewport();
        isWithoutGap();
    }

    @Test
    void theScrollBarLeadsAnywhere() {
        desk.press("End").showsMessage("Letter 1");
        for (int part = 1; part <= 3; part++) {
            page.evaluate(
                    "part => { const one = document.querySelector('.scroll'); one.scrollTop = one.scrollHeight * part / 4; }",
                    part);
            page.waitForCondition(() -> page.evaluate("""
                    () => { const { top } = document.querySelector('.scroll').getBoundingClientRect();
                      return Boolean(document.elementFromPoint(400, top + 200)?.closest('.row')); }
                    """).equals(true));
            isWithoutGap();
        }
    }

    @Test
    void whatIsSelectedStaysSelectedWhereverOneLooksMeanwhile() {
        desk.press("ArrowDown").showsMessage("Letter " + MESSAGES);
        page.locator(".row")
                .nth(3)
                .click(new Locator.ClickOptions()
                        .setModifiers(List.of(com.microsoft.playwright.options.KeyboardModifier.CONTROL)));
        assertThat(page.locator(".bar small")).hasText("2 selected");
        page.locator("#rows").hover();
        for (int i = 0; i < 50; i++) {
            page.mouse().wheel(0, 700);
            page.waitForTimeout(30);
        }
        assertThat(page.locator(".row .s b:text-is('Letter " + MESSAGES + "')")).hasCount(0);
        desk.press("g").says("Flagged: 2 messages").press("z").says("Undone");
    }
}
