package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.schublade.core.place.Habits;
import app.schublade.store.account.Account;
import app.schublade.store.cabinet.FlagStore;
import app.schublade.store.user.HabitStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;

/** Labels, categories, conversations and places, as one uses them all day. */
@ExtendWith(Office.Extension.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class PlacesJourneyTest {
    private final Office office;
    private final Cabinet cabinet;
    private final Window window;
    private CurrentUser person;
    private Account museum;

    PlacesJourneyTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        window = new Window(office);
    }

    @BeforeEach
    void somebodyNew() {
        person = office.person();
        museum = cabinet.account(person.id(), "MU", "loans@quay.example");
        window.leave();
    }

    @AfterAll
    void close() {
        window.close();
    }

    private void arrive(int messages) {
        for (int i = 1; i <= messages; i++) {
            cabinet.arrives(
                    museum,
                    TestMail.from("Halden <office@halden.example>", "Letter " + i)
                            .at(Cabinet.MORNING.minus(Duration.ofHours(i))));
        }
    }

    private Desk desk() {
        Desk desk = window.logIn(person, Office.PASSWORD);
        assertThat(window.page.locator("#rows")).isFocused();
        return desk;
    }

    private Locator row(String subject) {
        return window.page.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName(subject));
    }

    /** Its time is typed, and was there already when the day began; the clock that looks for it is the application's own. */
    @Test
    void whatIsDueAtATimeIsRemindedOfUntilItIsDone() {
        arrive(2);
        Desk desk = desk().press("ArrowDown").showsMessage("Letter 1").press("d");
        Locator time = window.page.locator("dialog[open] input[type=time]");
        time.fill("23:59");
        time.press("Enter");
        desk.says("Flagged, due today 23:59");
        assertThat(row("Letter 1").locator(".due")).hasText("due today 23:59");
        desk.press("d");
        time.fill("00:00");
        time.press("Enter");
        assertThat(row("Letter 1").locator(".due.over")).hasText("due today 00:00");
        Locator reminder = window.page.locator(".reminders article");
        assertThat(reminder).containsText("Letter 1", new LocatorAssertions.ContainsTextOptions().setTimeout(60_000));
        assertThat(window.page.locator("#notice")).containsText("Due now: Letter 1");
        reminder.getByText("Done", new Locator.GetByTextOptions().setExact(true))
                .click();
        assertThat(reminder).hasCount(0);
        assertThat(row("Letter 1").locator(".due")).hasCount(0);
        desk.press("z").says("Undone");
        assertThat(reminder).hasCount(1);
    }

    @Test
    void aMessageIsLabelledRankedAndDatedByKeysAlone() {
        arrive(3);
        Desk desk = desk().press("ArrowDown").showsMessage("Letter 1");
        desk.label("Objects / Sails").says("Labelled Objects / Sails");
        assertThat(row("Letter 1").locator(".chip")).hasText("Sails");
        desk.press("Shift+Digit1").says("Category Today");
        assertThat(row("Letter 1").locator(".rank")).hasText("1");
        desk.press("d");
        window.button("Tomorrow").click();
        desk.says("Flagged, due tomorrow");
        assertThat(row("Letter 1").locator(".due")).hasText("due tomorrow");
        desk.label("Sails").says("Took off the label Objects / Sails");
        assertThat(row("Letter 1").locator(".chip")).hasCount(0);
        desk.press("Shift+Digit1").says("Took off the category Today");
        desk.press("z").says("Undone").press("z").says("Undone: Took off the label");
        assertThat(row("Letter 1").locator(".chip")).hasText("Sails");
        desk.press("h");
        assertThat(window.page.locator("#acts li")).hasCount(5);
        assertThat(window.page.locator("#acts .undone")).hasCount(2);
        window.page
                .getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Undo: Labelled Objects / Sails"))
                .click();
        assertThat(window.page.locator("#acts .undone")).hasCount(3);
        window.button("Close").click();
        assertThat(row("Letter 1").locator(".chip")).hasCount(0);
        assertThat(row("Letter 1").locator(".rank")).hasText("1");
    }

    @Test
    void flagsOfOnesOwnAreSetByTheirDigit() {
        FlagStore flags = cabinet.bean(FlagStore.class);
        flags.add(person.id(), "To call");
        flags.add(person.id(), "To pay");
        arrive(2);
        Desk desk = desk().press("ArrowDown").showsMessage("Letter 1");
        Locator own = row("Letter 1").locator(".ribbon.own");
        assertThat(own).hasCount(0);
        desk.press("Shift+G").press("2").says("Flagged as To pay");
        assertThat(own).hasAttribute("title", "flagged To pay");
        assertThat(window.page.locator(".cab .flags")).containsText("To pay");
        desk.press("Shift+G").press("1").says("Flagged as To call");
        desk.press("Shift+G").press("1").says("Flag cleared");
        assertThat(own).hasCount(0);
        desk.press("z").says("Undone").press("z").says("Undone: Flagged as To call");
        assertThat(own).hasAttribute("title", "flagged To pay");
        desk.press("g").says("Flag cleared").press("g").says("Flagged");
        assertThat(own).hasCount(0);
        desk.press("p");
        window.page.keyboard().type("to pay");
        desk.press("Enter");
        assertThat(window.page.locator("h1")).containsText("To pay");
    }

    /** Who types a name and presses Enter at once means that name, and not what the list began with. */
    @Test
    void enterBeforeTheChoicesAreThereIsForTheChoicesOfWhatWasTyped() {
        cabinet.folder(person.id(), "Alpha");
        cabinet.folder(person.id(), "Loans/Halden");
        arrive(2);
        Desk desk = desk().press("ArrowDown").showsMessage("Letter 1");
        window.page.route("**/folders/pick*", route -> {
            if (route.request().url().contains("letters=hal")) {
                window.page.waitForTimeout(700);
            }
            route.resume();
        });
        desk.press("f");
        assertThat(window.page.locator("#folder-choices [aria-selected=true]")).isVisible();
        window.page.keyboard().type("hal");
        window.page.keyboard().press("Enter");
        desk.says("Filed into Loans / Halden");
    }

    @Test
    void aMessageIsReadWhenOneGoesOnToAnotherIfOneLikes() {
        arrive(3);
        HabitStore habits = cabinet.bean(HabitStore.class);
        Habits now = habits.of(person.id());
        habits.keep(
                person.id(),
                new Habits(
                        now.pane(),
                        now.density(),
                        Habits.WHEN_LEFT,
                        now.opens(),
                        false,
                        false,
                        true,
                        false,
                        now.scheme(),
                        now.letters()));
        Desk desk = desk().press("ArrowDown").showsMessage("Letter 1");
        assertThat(row("Letter 1")).hasClass(java.util.regex.Pattern.compile(".*\\bnew\\b.*"));
        desk.press("ArrowDown").showsMessage("Letter 2");
        desk.unread("Inbox", 2);
        assertThat(row("Letter 1")).not().hasClass(java.util.regex.Pattern.compile(".*\\bnew\\b.*"));
        desk.press("a").says("Archived").showsMessage("Letter 3").unread("Inbox", 1);
        Await.until("it is read", () -> cabinet.counts(person.id(), "Archive").equals("1/0"));
    }

    @Test
    void aConversationIsOneRowThatOpensAndIsFiledWhole() {
        cabinet.arrives(museum, TestMail.from("o@grebe.example", "Crates").named("q1"));
        cabinet.arrives(
                museum,
                TestMail.from("o@grebe.example", "Re: Crates").named("q2", "q1").at(Cabinet.MORNING.plusSeconds(60)));
        cabinet.arrives(
                museum,
                cabinet.mailbox(museum, "Sent"),
                TestMail.from("me@quay.example", "Re: Crates").named("q3", "q2").at(Cabinet.MORNING.plusSeconds(90)));
        arrive(1);
        Desk desk = desk().listsInAll(3);
        window.page.locator("summary[data-key=v]").click();
        window.page.getByLabel("A conversation is one row").check();
        window.button("Arrange").click();
        desk.listsInAll(2);
        assertThat(window.page.locator(".fold")).containsText("3");
        desk.press("ArrowDown").showsMessage("Re: Crates").press("ArrowRight").listsInAll(4);
        assertThat(window.page.locator(".row.inner .lies").first()).hasText("in Sent");
        desk.press("ArrowLeft")
                .listsInAll(2)
                .press("a")
                .says("Archived: 2 messages")
                .showsMessage("Letter 1");
        desk.press("z").says("Undone").listsInAll(2);
    }

    @Test
    void allThatThereIsIsSelectedByPressingTwice() {
        arrive(60);
        Desk desk = desk();
        assertThat(window.page.locator("#pills")).hasAttribute("data-size", "60");
        desk.press("Control+a");
        assertThat(window.page.locator("#figures")).hasText("50 selected");
        assertThat(window.page.locator("#select-all")).hasText("Select all 60");
        desk.press("Control+a");
        assertThat(window.page.locator("#figures")).hasText("60 selected");
        desk.press("a").says("Archived: 60 messages").listsInAll(0);
        desk.press("z").says("Undone: Archived: 60 messages").listsInAll(50).unread("Inbox", 60);
    }

    @Test
    void foldersAreDraggedIntoEachOtherAndBesideEachOther() {
        cabinet.folder(person.id(), "Loans");
        cabinet.folder(person.id(), "Returned");
        cabinet.folder(person.id(), "Schools");
        arrive(1);
        Desk desk = desk();
        desk.drawer("Returned").dragTo(desk.drawer("Loans"));
        desk.says("Returned is Loans / Returned now");
        assertThat(desk.drawer("Loans / Returned")).isVisible();
        desk.drawer("Schools").dragTo(desk.drawer("Loans"), new Locator.DragToOptions().setTargetPosition(40, 2));
        assertThat(window.page.locator("#cabinet [data-own]").first()).hasAttribute("data-name", "Schools");
        desk.drawer("Loans")
                .click(new Locator.ClickOptions().setButton(com.microsoft.playwright.options.MouseButton.RIGHT));
        window.page
                .getByRole(AriaRole.MENUITEM, new Page.GetByRoleOptions().setName("Keep at the top"))
                .click();
        assertThat(window.page.locator("#cabinet [data-own]").first()).hasAttribute("data-name", "Loans");
    }

    @Test
    void placesAndCommandsAreFoundByAFewLetters() {
        cabinet.folder(person.id(), "Loans/Halden");
        arrive(2);
        Desk desk = desk();
        desk.press("p").type("hald");
        assertThat(window.page.locator("#place-choices li[aria-selected=true]")).containsText("Halden");
        desk.press("Enter");
        assertThat(window.page.locator("#place-title")).hasText("Loans / Halden");
        desk.goTo("Inbox").press("ArrowDown").showsMessage("Letter 1");
        desk.press("/").type("archive");
        assertThat(window.page.locator("#finds li").first()).containsText("Archive");
        desk.press("ArrowDown", "Enter").says("Archived").showsMessage("Letter 2");
    }

    @Test
    void aKeyIsChangedWhereItIsShown() {
        arrive(2);
        Desk desk = desk().press("?");
        window.page
                .getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions()
                                .setName("A, change the key of: Archive")
                                .setExact(true))
                .click();
        desk.press("x");
        assertThat(window.page.locator("#keys[open]")).hasCount(0);
        assertThat(window.page.locator("[data-deed=archive] kbd")).hasText("X");
        assertThat(window.page.locator("#rows")).isFocused();
        desk.press("ArrowDown")
                .showsMessage("Letter 1")
                .press("a")
                .press("x")
                .says("Archived")
                .showsMessage("Letter 2");
        desk.listsInAll(1);
    }

    @Test
    void newMailIsToldWhereTheListIsScrolledAndNothingJumps() {
        arrive(40);
        Desk desk = desk().listsInAll(40);
        window.page.locator("#rows").evaluate("rows => { rows.parentElement.scrollTop = 700; }");
        Locator seen = row("Letter 18");
        double before = seen.boundingBox().y;
        cabinet.arrives(museum, TestMail.from("new@halden.example", "Just in").at(Cabinet.MORNING.plusSeconds(5)));
        assertThat(window.page.locator("#news")).hasText("1 new");
        org.assertj.core.api.Assertions.assertThat(seen.boundingBox().y).isEqualTo(before);
        window.page.locator("#news").click();
        assertThat(row("Just in")).isVisible();
        assertThat(window.page.locator("#news")).isHidden();
        desk.listsInAll(41);
    }
}
