package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import com.microsoft.playwright.options.ColorScheme;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What keys do and do not do, where the focus stands, and what is seen and read out of a notice. */
@ExtendWith(Office.Extension.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class HandsJourneyTest {
    private static final Pattern SELECTED = Pattern.compile("true");

    private final Office office;
    private final Cabinet cabinet;
    private final Window window;
    private final Page page;
    private Account account;
    private Desk desk;

    HandsJourneyTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        window = new Window(office);
        page = window.page;
    }

    @BeforeEach
    void somebodyNew() {
        CurrentUser person = office.person();
        account = cabinet.account(person.id(), "MU", "loans@quay.example");
        cabinet.folder(person.id(), "Loans/Halden");
        cabinet.folder(person.id(), "Schools");
        cabinet.places.label(person.id(), FolderPath.parse("Loans to us"));
        for (int i = 1; i <= 5; i++) {
            cabinet.arrives(account, TestMail.from("Halden <office@halden.example>", "Letter " + i));
        }
        window.leave();
        page.setViewportSize(1280, 800);
        desk = window.logIn(person, Office.PASSWORD);
        assertThat(page.locator("#rows")).isFocused();
    }

    @AfterAll
    void close() {
        window.close();
    }

    /** As a keyboard of another country sends it. */
    private void types(String key, String code, Map<String, Boolean> with) {
        page.evaluate("""
                ([key, code, more]) => document.activeElement.dispatchEvent(
                  new KeyboardEvent('keydown', { key, code, bubbles: true, cancelable: true, ...more }))
                """, new Object[] {key, code, with});
    }

    private Locator selected() {
        return page.locator(".row[aria-selected=true]");
    }

    @ParameterizedTest
    @CsvSource({"f, folder-choices", "l, label-choices", "c, copy-choices", "p, place-choices"})
    void whatEnterTakesInAPickerIsWhatIsReadOut(String key, String choices) {
        desk.open("Letter 5").press(key);
        Locator letters = page.locator("dialog[open] [role=combobox]");
        assertThat(letters).isFocused();
        for (String typed : new String[] {"", "lo", "New place"}) {
            letters.fill(typed);
            Locator chosen = page.locator("#" + choices + " [aria-selected=true]");
            if (key.equals("p") && typed.equals("New place")) {
                assertThat(letters).hasAttribute("aria-activedescendant", "");
                continue;
            }
            assertThat(letters).hasAttribute("aria-controls", choices);
            page.waitForCondition(() -> chosen.count() == 1
                    && chosen.getAttribute("id").equals(letters.getAttribute("aria-activedescendant")));
        }
    }

    @Test
    void aPageThatIsStillOnItsWayTakesNobodyAwayFromWhereOneWentSince() {
        page.navigate(office.address() + "/record");
        LateAnswers late = new LateAnswers(page, "**/mail/inbox*");
        desk.press("Escape", "Escape");
        late.isDone();
        desk.press("w");
        page.waitForURL(Pattern.compile(".*/write/\\d+"));
        late.arrive();
        new Composer(page).goesTo("anna@wharf.example");
        assertThat(page).hasURL(Pattern.compile(".*/write/\\d+"));
    }

    @Test
    void allOfTheTextIsTheTextAndNotTheList() {
        desk.open("Letter 5");
        page.locator("#sheet .text").click();
        page.keyboard().press("ControlOrMeta+a");
        assertThat(selected()).hasCount(1);
        assertThat(page.evaluate("String(getSelection())").toString().strip()).isEqualTo("Some text.");
    }

    @Test
    void whatIsTypedCountsWhereverItLiesOnTheKeyboard() {
        desk.open("Letter 5");
        types("/", "Digit7", Map.of("shiftKey", true));
        assertThat(page.locator("#find")).isFocused();
        page.keyboard().press("Escape");
        desk.press("k");
        assertThat(page.locator("dialog[open]")).containsText("Category");
        types("&", "Digit1", Map.of());
        desk.says("Category");
        assertThat(page.locator("#sheet .who .rank")).hasCount(1);
    }

    @Test
    void aKeyThatIsHeldOrComposesOrIsBehindADialogDoesNothing() {
        desk.open("Letter 5");
        types("a", "KeyA", Map.of("repeat", true));
        types("a", "KeyA", Map.of("isComposing", true));
        desk.press("?");
        assertThat(page.locator("#keys")).isVisible();
        desk.press("a", "Delete", "ArrowDown");
        page.evaluate("document.activeElement.blur()");
        desk.press("a");
        page.keyboard().press("Escape");
        assertThat(page.locator("#keys")).not().isVisible();
        desk.listsInAll(5).press("a").says("Archive").listsInAll(4);
    }

    @ParameterizedTest
    @ValueSource(ints = {1280, 1024, 800, 640, 390})
    void aNoticeAndItsUndoAreSeenAtEveryWidth(int width) {
        page.setViewportSize(width, 700);
        desk.press("ArrowDown");
        assertThat(selected()).hasCount(1);
        desk.press("a");
        Locator undo = page.locator("#notice [data-posts='/undo']");
        assertThat(undo).isVisible();
        for (Locator each : new Locator[] {undo, page.locator("#notice .told")}) {
            BoundingBox box = each.boundingBox();
            assertThat(box.width).isGreaterThan(30);
            assertThat(box.x).isNotNegative();
            assertThat(box.x + box.width).isLessThanOrEqualTo(width);
            assertThat(box.y + box.height).isLessThanOrEqualTo(700);
        }
        assertThat(page.locator("#heard")).hasText(page.locator("#notice .told").textContent());
        undo.click();
        desk.listsInAll(5);
    }

    @Test
    void aNoticeIsSeenBeforeAnOpenDialogAndReadOutByOnePlace() {
        page.evaluate("document.getElementById('heard').dataset.mine = 'yes'");
        desk.press("?");
        page.evaluate("schublade.tell('Something went wrong', true)");
        BoundingBox box = page.locator("#notice").boundingBox();
        assertThat((Boolean) page.evaluate(
                        "([x, y]) => document.elementFromPoint(x, y) === null || document.getElementById('notice').matches(':popover-open')",
                        new Object[] {box.x + 5, box.y + 5}))
                .isTrue();
        page.keyboard().press("Escape");
        page.locator(".sections a[href='/rules']").click();
        assertThat(page.locator("main h1")).isVisible();
        assertThat(page.locator("#heard")).hasAttribute("data-mine", "yes");
    }

    @Test
    void theFocusIsOnThePageThatCameAndOnWhatTookThePlaceOfWhatIsGone() {
        page.locator(".sections a[href='/rules']").focus();
        page.keyboard().press("Enter");
        assertThat(page.locator("main h1")).isFocused();
        page.goBack();
        assertThat(page.locator("#rows")).isFocused();

        desk.open("Letter 5");
        page.locator("#sheet button:text-is('make a key person')").focus();
        page.keyboard().press("Enter");
        assertThat(page.locator("#sheet button:text-is('no longer')")).isFocused();

        page.locator("#rows").focus();
        desk.press("a").says("Archive").press("f").press("Escape");
        assertThat(page.locator("#rows")).isFocused();

        for (String part : new String[] {"#rows", "#sheet"}) {
            page.locator(part).focus();
            page.evaluate("document.querySelectorAll('#rows, #sheet').forEach((one) => one.dataset.old = 'yes')");
            desk.press("f");
            assertThat(page.locator("dialog[open]")).isVisible();
            page.evaluate("document.dispatchEvent(new CustomEvent('mail-changed', { detail: 'done' }))");
            assertThat(page.locator("#sheet[data-old]")).hasCount(0);
            desk.press("Escape");
            assertThat(page.locator(part)).isFocused();
        }
    }

    @Test
    void takingBackInTheRecordLeavesTheFocusThere() {
        desk.open("Letter 5").press("a").says("Archive");
        desk.press("a").says("Archive");
        page.locator(".sections a[href='/record']").click();
        Locator first = page.locator("main button:text('Undo'), main button:text('Undo')")
                .first();
        first.focus();
        page.keyboard().press("Enter");
        page.waitForCondition(() -> (Boolean) page.evaluate(
                "document.activeElement !== document.body && document.activeElement.closest('main') !== null"));
    }

    private int pressed;

    private void presses(String... keys) {
        for (String key : keys) {
            page.keyboard().press(key);
            pressed++;
        }
    }

    @Test
    void aRuleForThisSenderIsMadeByAFewKeys() {
        desk.open("Letter 5");
        page.locator("#rows").focus();
        pressed = 0;
        presses("m");
        assertThat(page.locator("fieldset[data-part=when] .line")).hasCount(1);
        assertThat(page.locator("#when-kind-0 option:checked")).hasText("from");
        assertThat(page.locator("#then-text-0")).isFocused();
        for (char letter : "Quay".toCharArray()) {
            presses(String.valueOf(letter));
        }
        assertThat(page.locator("#trial [data-save]").first()).containsText("file these 5");
        presses("Control+Enter");
        desk.says("5 messages filed");
        assertThat(page.locator("#cabinet")).containsText("Quay");
        System.out.println("A rule for this sender into a new folder: " + pressed + " keys");
        assertThat(pressed).isLessThanOrEqualTo(6);
    }

    @Test
    void aRuleFromNothingBeginsWithItsFirstLine() {
        page.navigate(office.address() + "/rules/new");
        assertThat(page.locator("#then-kind-0")).isFocused();
    }

    @Test
    void linesComeAndGoByKeysAndTheTrialIsOneStop() {
        desk.open("Letter 5").press("m");
        Locator lines = page.locator("fieldset[data-part=when] .line");
        assertThat(page.locator("#then-text-0")).isFocused();
        page.locator("#when-kind-0").focus();
        int before = lines.count();
        desk.press("Enter");
        assertThat(lines).hasCount(before + 1);
        assertThat(page.locator("#when-kind-" + before)).isFocused();
        desk.press("Delete");
        assertThat(lines).hasCount(before);
        assertThat(page.locator("#when-kind-" + (before - 1))).isFocused();
        page.locator("#then-text-0").fill("Quay");
        assertThat(page.locator("#trial .trow input[type=checkbox]")).hasCount(5);
        assertThat(page.locator("#heard")).hasText("Trial run done: 5 of 5 messages.");
        page.locator(".trial-rows").focus();
        desk.press("ArrowDown", "ArrowDown", "Space");
        assertThat(page.locator("#trial .trow").nth(1).locator("input[type=checkbox]"))
                .not()
                .isChecked();
        page.locator(".trial-rows").focus();
        desk.press("Tab");
        assertThat(page.locator("#trial [data-save]").first()).isFocused();
    }

    @Test
    void theFindBoxLeadsToWhatHasAName() {
        desk.press("/").type("log o");
        assertThat(page.locator("#finds [role=option]").first()).containsText("Log out");
        page.locator("#find").fill("prefer");
        assertThat(page.locator("#finds [role=option]").first()).containsText("Preferences");
        desk.press("ArrowDown", "Enter");
        assertThat(page.locator("main h1")).hasText("Preferences");
        desk.press("/").type("log o").press("ArrowDown", "Enter");
        assertThat(page.locator("input[type=password]")).isVisible();
    }

    @Test
    void keysArePressedInTheHtmlOfAMessageAsAnywhere() {
        cabinet.arrives(account, """
                From: anna@wharf.example
                Subject: In HTML
                Content-Type: text/html

                <p id="words" onclick="parent.document.title = 'run'">Some words</p>
                <script>parent.document.title = 'run'</script>
                """.replace("\n", "\r\n").getBytes(StandardCharsets.UTF_8));
        page.reload();
        desk.open("In HTML");
        page.frameLocator("iframe.html").getByText("Some words").click();
        desk.press("g").says("Flagged");
        assertThat(page.title()).doesNotContain("run");
        page.frameLocator("iframe.html").getByText("Some words").click();
        desk.press("a").says("Archived").listsInAll(5);
    }

    @Test
    void inANarrowWindowOneThingIsShownAtATime() {
        page.setViewportSize(390, 844);
        page.locator(".to-cabinet").click();
        assertThat(page.locator("#place-inbox")).isFocused();
        assertThat(page.locator("#rows")).isHidden();
        desk.press("Escape");
        assertThat(page.locator(".to-cabinet")).isFocused();
        assertThat(page.locator("#rows")).isVisible();
        page.locator("#m" + page.locator(".row").first().getAttribute("data-id"))
                .click();
        assertThat(page.locator("#sheet h2")).hasText("Letter 5");
        assertThat(page.locator("#rows")).isHidden();
        desk.press("Escape");
        assertThat(page.locator("#rows")).isFocused();
        page.locator(".to-cabinet").click();
        page.locator("#cabinet a[data-name='Schools']").click();
        assertThat(page.locator("#place-title")).hasText("Schools");
        assertThat(page.locator("#rows")).isFocused();
    }

    @Test
    void lightOrDarkIsAsTheSystemHasItOrAsChosen() {
        page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.DARK));
        String background = "getComputedStyle(document.body).backgroundColor";
        Object dark = page.evaluate(background);
        page.locator("a[href='/habits']").first().evaluate("one => one.click()");
        page.getByLabel("Colours").selectOption("LIGHT");
        window.button("Save").click();
        desk.says("Preferences saved");
        assertThat(page.evaluate(background)).isNotEqualTo(dark);
        page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.LIGHT));
        page.getByLabel("Colours").selectOption("DARK");
        window.button("Save").click();
        page.waitForCondition(() -> page.evaluate(background).equals(dark));
    }

    @Test
    void aMessageThatIsReadCostsThreeRequests() {
        desk.press("ArrowDown").showsMessage("Letter 5");
        assertThat(page.locator("#figures")).hasText(Pattern.compile(".*4 unread of 5"));
        List<String> asked = new CopyOnWriteArrayList<>();
        page.onRequest(request -> {
            if (!request.url().endsWith("/favicon.svg")) {
                asked.add(request.method() + " " + request.url().replaceFirst("http://[^/]*", ""));
            }
        });
        desk.press("ArrowDown").showsMessage("Letter 4");
        assertThat(page.locator("#figures")).hasText(Pattern.compile(".*3 unread of 5"));
        page.waitForTimeout(1000);
        assertThat(asked).hasSizeLessThanOrEqualTo(3).doesNotHaveDuplicates();
    }

    @Test
    void anActThatNobodyTookOverIsUndoneAtOnce() {
        desk.press("ArrowDown").showsMessage("Letter 5");
        page.context().setOffline(true);
        desk.press("a").says("not responding").listsInAll(5);
        assertThat(page.locator(".row").first()).containsText("Letter 5");
        page.context().setOffline(false);
        window.wasOffline();
        desk.open("Letter 5").press("a").says("Archived").listsInAll(4);
    }

    @Test
    void whereAnotherWindowTookAMessageAwayTheNextOneIsCurrent() {
        desk.open("Letter 4");
        Page other = window.another("/mail/inbox");
        new Desk(other).open("Letter 4").press("a").says("Archived");
        desk.showsMessage("Letter 3");
        assertThat(page.locator(".row.current")).containsText("Letter 3");
        assertThat(selected()).hasCount(1);
        other.close();
    }

    @Test
    void whoGoesElsewhereWhileTheListComesAnewStaysThere() {
        assertThat(page.locator("html")).hasAttribute("data-live", "");
        LateAnswers late = new LateAnswers(page, "**/mail/inbox?*rows=*");
        cabinet.arrives(account, TestMail.from("Office <office@halden.example>", "The last one"));
        late.isDone();
        desk.press("/");
        late.arrive();
        desk.lists("The last one");
        assertThat(page.locator("#find")).isFocused();
    }

    @Test
    void aMenuIsGoneThroughByKeysAndTheFocusComesBack() {
        Locator summary = page.locator(".top .menu summary");
        summary.focus();
        desk.press("Enter");
        Locator focused = page.locator(":focus");
        assertThat(focused).hasText("Accounts");
        desk.press("ArrowDown");
        assertThat(focused).hasText("People");
        desk.press("l");
        assertThat(focused).hasText("Labels, categories, trays");
        desk.press("l");
        assertThat(focused).hasText("Log out");
        desk.press("Home", "Escape");
        assertThat(summary).isFocused();
        assertThat(page.locator("details.menu[open]")).hasCount(0);
        desk.press("Enter");
        assertThat(focused).hasText("Accounts");
        page.locator("#rows").focus();
        assertThat(page.locator("details.menu[open]")).hasCount(0);
        page.setViewportSize(360, 500);
        summary.focus();
        desk.press("Enter");
        BoundingBox box = page.locator(".top .menu-sheet").boundingBox();
        assertThat(box.x).isNotNegative();
        assertThat(box.y + box.height).isLessThanOrEqualTo(500);
    }

    @Test
    void whatIsWrongIsTiedToItsField() {
        window.open("/people");
        Locator field = page.getByLabel("Address, or a domain for everybody there");
        field.fill("nobody knows");
        desk.press("Enter");
        desk.says("“nobody knows”");
        assertThat(field).isFocused();
        assertThat(field).hasAttribute("aria-invalid", "true");
        assertThat(page.locator("#" + field.getAttribute("aria-describedby"))).containsText("“nobody knows”");
        field.press("x");
        assertThat(field).not().hasAttribute("aria-invalid", "true");
        window.mayHaveBeenRefused(422);
    }

    @Test
    void onePartOfThePageLeadsToTheNext() {
        desk.open("Letter 5");
        page.locator("#rows").focus();
        desk.press("F6");
        assertThat(page.locator("#sheet")).isFocused();
        desk.press("F6", "F6");
        assertThat(page.locator("#find")).isFocused();
        desk.press("F6");
        assertThat(page.locator("#place-inbox")).isFocused();
        desk.press("F6");
        assertThat(page.locator("#rows")).isFocused();
        desk.press("Shift+F6");
        assertThat(page.locator("#place-inbox")).isFocused();
        page.locator("#rows").focus();
        assertThat(selected()).hasAttribute("aria-selected", SELECTED);
    }
}
