package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;

/** What one does all day, by keyboard and pointer. */
@ExtendWith(Office.Extension.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class DeskJourneysTest {
    private final Office office;
    private final Cabinet cabinet;
    private final Window window;
    private CurrentUser person;
    private Account museum;
    private Account club;

    DeskJourneysTest(Office office) {
        this.office = office;
        this.cabinet = Cabinet.of(office);
        this.window = new Window(office);
    }

    @BeforeEach
    void somebodyNew() {
        person = office.person();
        museum = cabinet.account(person.id(), "MU", "loans@quay.example");
        club = cabinet.account(person.id(), "RC");
        window.leave();
    }

    @AfterAll
    void close() {
        window.close();
    }

    private void arrive(int messages) {
        for (int i = 1; i <= messages; i++) {
            cabinet.arrives(
                    i % 2 == 0 ? club : museum,
                    TestMail.from("Halden <office@halden.example>", "Letter " + i)
                            .at(Cabinet.MORNING.minus(Duration.ofHours(i))));
        }
    }

    private Desk desk() {
        Desk desk = window.logIn(person, Office.PASSWORD);
        assertThat(window.page.locator("#rows")).isFocused();
        return desk;
    }

    @Test
    void whatLiesInTheTrashIsDeletedForGoodAfterAQuestion() {
        cabinet.jdbc
                .sql("update account set protocol = 'POP3' where user_id = ?")
                .param(person.id())
                .update();
        arrive(3);
        Desk desk =
                desk().press("ArrowDown", "Delete").says("Moved to the trash").press("Delete");
        desk.says("Moved to the trash").listsInAll(1).goTo("Trash").listsInAll(2);
        desk.press("ArrowDown").showsMessage("Letter 1").press("Delete");
        assertThat(window.page.locator("#sure")).containsText("Delete this message for good?");
        desk.press("Escape").lists("Letter 1").press("Delete").press("Enter");
        desk.says("Deleted for good: 1 message").listsNot("Letter 1").showsMessage("Letter 2");
        desk.press("z").says("Undone: Moved to the trash");
    }

    @Test
    void aBacklogIsWorkedThroughByKeysAlone() {
        arrive(6);
        cabinet.folder(person.id(), "Loans/Halden");
        Desk desk = desk().unread("Inbox", 6);
        desk.press("ArrowDown").showsMessage("Letter 1");
        desk.press("a").says("Archived").listsNot("Letter 1").showsMessage("Letter 2");
        desk.press("Delete").says("Moved to the trash").showsMessage("Letter 3");
        desk.fileInto("hald").says("Filed into Loans / Halden").showsMessage("Letter 4");
        desk.press("g").says("Flagged").goTo("Flagged").lists("Letter 4");
        desk.goTo("Inbox").listsInAll(3);
        desk.press("z").says("Undone: Flagged");
        desk.press("z").says("Undone: Filed into Loans / Halden").lists("Letter 3");
        desk.press("z").says("Undone: Moved to the trash").lists("Letter 2");
        desk.press("z").says("Undone: Archived").listsInAll(6);
    }

    @Test
    void theStripFilesWhereTheSendersMailGoes() {
        arrive(5);
        Desk desk = desk();
        desk.press("ArrowDown").showsMessage("Letter 1").fileInto("Lenders").says("Filed into Lenders");
        desk.showsMessage("Letter 2");
        assertThat(window.page.locator("#slots [data-key='1']")).containsText("Lenders");
        desk.press("1").says("Filed into Lenders").showsMessage("Letter 3").unread("Lenders", 2);
    }

    @Test
    void readAndUnreadAreCountedEverywhereAtOnce() {
        arrive(4);
        Desk desk = desk().unread("Inbox", 4).unreadOfAccount("MU", 2).unreadOfAccount("RC", 2);
        Page other = window.another("/mail/inbox");
        desk.press("ArrowDown").showsMessage("Letter 1").unread("Inbox", 3).unreadOfAccount("MU", 1);
        assertThat(other.locator("#place-inbox .plate")).hasText("3");
        assertThat(other.locator(".row.new")).hasCount(3);
        assertThat(other.locator("#figures")).containsText("3 unread of 4");
        desk.press("u").says("Marked as unread").unread("Inbox", 4);
        assertThat(other.locator(".row.new")).hasCount(4);
        desk.press("z").unread("Inbox", 3);
        other.close();
    }

    @Test
    void severalAreSelectedAndFiledInOneGo() {
        arrive(8);
        Desk desk = desk();
        desk.press("ArrowDown").showsMessage("Letter 1").press("Shift+ArrowDown", "Shift+ArrowDown");
        assertThat(window.page.locator(".bar small")).hasText("3 selected");
        desk.fileInto("Loans").says("Filed into Loans: 3 messages").listsInAll(5);
        desk.press("Control+a", "a").says("Archived: 5 messages").listsInAll(0);
        assertThat(window.page.locator(".empty")).containsText("The Inbox is empty");
        desk.press("z").listsInAll(5).press("z").listsInAll(8);
    }

    @Test
    void messagesAreDraggedOntoADrawer() {
        arrive(3);
        cabinet.folder(person.id(), "Loans/Kestrel Island");
        Desk desk = desk().drag("Letter 2", "Loans / Kestrel Island");
        desk.says("Filed into Loans / Kestrel Island").listsNot("Letter 2").unread("Loans / Kestrel Island", 1);
    }

    @Test
    void aFolderIsMadeInsideTheOneWhereOneStands() {
        cabinet.folder(person.id(), "Loans");
        Desk desk = desk().goTo("Loans").press("n");
        assertThat(window.page.locator(".new-folder input[name=path]")).hasValue("Loans / ");
        desk.type("Returned").press("Enter").says("Created the folder Loans / Returned");
        desk.goTo("Returned")
                .goTo("Inbox")
                .press("n")
                .type("Schools")
                .press("Enter")
                .says("Created the folder Schools");
    }

    @Test
    void aChipNarrowsToOneAccountAndBackWorks() {
        arrive(6);
        Desk desk = desk().listsInAll(6).narrowTo("RC").listsInAll(3);
        desk.open("Letter 2").page().goBack();
        desk.listsInAll(6);
        window.page.reload();
        desk.listsInAll(6);
    }

    @Test
    void newMailShowsWithoutAskingAndNothingJumps() {
        arrive(40);
        Desk desk = desk();
        window.page.locator(".row").nth(30).scrollIntoViewIfNeeded();
        window.page.locator(".scroll").evaluate("box => { box.scrollTop = 900; }");
        Object before = firstInView();
        cabinet.arrives(museum, TestMail.from("a@b.example", "Just in").at(Cabinet.MORNING));
        desk.unread("Inbox", 41).lists("Just in");
        org.assertj.core.api.Assertions.assertThat(firstInView()).isEqualTo(before);
    }

    private Object firstInView() {
        return window.page.evaluate("""
                () => { const top = document.querySelector('.scroll').getBoundingClientRect().top;
                    const row = [...document.querySelectorAll('.row')].find((one) => one.getBoundingClientRect().bottom > top);
                    return row.id + '@' + Math.round(row.getBoundingClientRect().top - top); }
                """);
    }

    @Test
    void aLongListGoesOnAsOneScrolls() {
        arrive(140);
        Desk desk = desk().listsInAll(50);
        window.page.locator(".scroll").evaluate("box => { box.scrollTop = box.scrollHeight; }");
        desk.listsInAll(100);
        window.page.locator(".scroll").evaluate("box => { box.scrollTop = box.scrollHeight; }");
        desk.listsInAll(140);
    }

    @Test
    void pagesThatWereLeftDoNothingAnyMore() {
        arrive(2);
        Desk desk = desk().goTo("Archive").goTo("Inbox").goTo("Trash").goTo("Inbox");
        desk.press("ArrowDown").showsMessage("Letter 1").press("f");
        assertThat(window.page.locator("dialog[open]")).hasCount(1);
        desk.press("Escape").press("a").says("Archived").listsInAll(1);
        desk.press("z").says("Undone: Archived.").listsInAll(2);
        org.assertj.core.api.Assertions.assertThat(
                        cabinet.undo.latest(person.id()).changed())
                .as("it was archived once only")
                .isEmpty();
    }

    @Test
    void theKeysOfThePageAreShown() {
        desk().press("?");
        assertThat(window.page.getByRole(AriaRole.DIALOG)).containsText("Move to the trash");
        assertThat(window.page.getByRole(AriaRole.DIALOG)).containsText("Go through the list");
        window.button("Close").click();
        assertThat(window.page.locator("#keys")).isHidden();
    }

    @Test
    void whatCannotBeDoneIsSaid() {
        arrive(1);
        Desk desk = desk();
        desk.press("a").says("Select a message first");
        desk.press("n").type("/").press("Enter").says("A folder needs a name.");
        desk.press("Escape");
        desk.press("ArrowDown").showsMessage("Letter 1");
    }

    @Test
    void htmlMailIsShownInAFrameThatCanDoNothing() {
        cabinet.arrives(
                museum,
                TestMail.from("News <n@b.example>\nContent-Type: text/html; charset=utf-8", "Circular")
                        .saying("<h1>News</h1><script>parent.document.title = 'caught'</script>"
                                + "<img src='https://b.example/pixel.png'>"));
        desk().open("Circular");
        assertThat(window.page.frameLocator("#sheet iframe").locator("h1")).hasText("News");
        assertThat(window.page.locator("#sheet .outside")).containsText("Pictures from outside are not shown");
        assertThat(window.page).hasTitle("Inbox · Schublade");
        assertThat(window.page.frameLocator("#sheet iframe").locator("script, img[src^=http]"))
                .hasCount(0);
    }

    @Test
    void aRuleThatCannotBeIsRefusedAndNothingTypedIsLost() {
        arrive(1);
        RuleEditor editor =
                desk().open("Letter 1").makeRule().keepOnly("from").name("Deep").fileInto("Fine");
        assertThat(window.button("Save, and file this one")).isEnabled();
        // Written past the trial run, as by somebody who types and saves in one breath.
        window.page
                .locator("fieldset[data-part=then] input[data-text]")
                .evaluate("input => { input.value = 'a/'.repeat(13); }");
        window.button("Save for new mail only").click();
        editor.says("12 is the limit");
        assertThat(window.page).hasURL(java.util.regex.Pattern.compile(".*/rules/new\\?message=.*"));
        assertThat(window.page.getByLabel("The rule's name")).hasValue("Deep");
        editor.fileInto("Fine").saveForNewMail().says("Saved “Deep” for new mail");
    }

    @Test
    void rulesAreKeptInOrderByKeys() {
        arrive(2);
        desk().open("Letter 1")
                .makeRule()
                .keepOnly("from")
                .name("First")
                .fileInto("One")
                .alsoMarkRead()
                .saveForNewMail();
        window.open("/mail/inbox");
        new Desk(window.page)
                .open("Letter 2")
                .makeRule()
                .keepOnly("from")
                .name("Second")
                .fileInto("Two")
                .trialSays("taken by rule 1")
                .saveForNewMail()
                .lists(2, "Second")
                .press("ArrowUp")
                .lists(1, "Second")
                .press("o")
                .says("“Second” is off now")
                .press("Delete");
        RuleEditor list = new RuleEditor(window.page).lists(1, "First").says("Deleted “Second”");
        list.press("z")
                .says("Undone: Deleted the rule “Second”.")
                .lists(1, "Second")
                .lists(2, "First");
    }

    @Test
    void aRuleThatIsBeingWrittenIsThereAgainUntilItIsSaved() {
        arrive(2);
        desk();
        window.open("/rules/new");
        Locator name = window.page.locator("#rule-form input[name=name]");
        Locator first = window.page.locator("#rule-form input[name=thenText]").first();
        name.fill("Half a rule");
        first.fill("Somewhere");
        window.page.reload();
        assertThat(name).hasValue("Half a rule");
        assertThat(first).hasValue("Somewhere");
        assertThat(window.page.locator("#rule-begun")).isVisible();
        window.open("/mail/inbox");
        window.open("/rules/new");
        assertThat(name).hasValue("Half a rule");
        window.button("Add a line: When all of these").click();
        window.page.locator("#rule-form input[name=whenText]").first().fill("halden.example");
        window.button("Save for new mail only").click();
        new RuleEditor(window.page).says("Saved “Half a rule”").lists(1, "Half a rule");
        window.open("/rules/new");
        assertThat(name).hasValue("");
        name.fill("Another");
        window.page.reload();
        window.button("Start over").click();
        assertThat(window.page.locator("#rule-begun")).isHidden();
        assertThat(name).hasValue("");
    }

    @Test
    void whoComesBackToALongListIsWhereOneWas() {
        arrive(120);
        Desk desk = desk();
        Locator rows = window.page.locator(".row");
        assertThat(rows).hasCount(50);
        window.page.locator("#more").scrollIntoViewIfNeeded();
        assertThat(rows).hasCount(100);
        desk.open("Letter 90");
        window.page
                .locator("header a", new Page.LocatorOptions().setHasText("Rules"))
                .click();
        assertThat(window.page).hasURL(Pattern.compile(".*/rules"));
        window.page.goBack();
        assertThat(window.page.locator(".row.current")).containsText("Letter 90");
        assertThat(window.page.locator(".row.current")).isInViewport();
        desk.showsMessage("Letter 90").press("ArrowDown").showsMessage("Letter 91");
    }
}
