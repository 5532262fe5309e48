package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.place.FolderPath;
import app.schublade.store.account.Account;
import app.schublade.store.triage.StandingDayStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.google.gson.JsonObject;
import com.microsoft.playwright.CDPSession;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.BoundingBox;
import com.microsoft.playwright.options.MouseButton;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;

/** Columns, copies, touch, and how soon the next message is there. */
@ExtendWith(Office.Extension.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class DeskChoicesJourneyTest {
    private final Office office;
    private final Cabinet cabinet;
    private final Window window;
    private final Page page;
    private CurrentUser person;
    private Account museum;

    DeskChoicesJourneyTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        window = new Window(office);
        page = window.page;
    }

    @BeforeEach
    void somebodyNew() {
        person = office.person();
        museum = cabinet.account(person.id(), "MU");
        window.leave();
    }

    @AfterAll
    void close() {
        window.close();
    }

    private Desk deskWith(int messages) {
        for (int i = 1; i <= messages; i++) {
            cabinet.arrives(
                    museum,
                    TestMail.from("Halden <office@halden.example>", "Letter " + i)
                            .at(Cabinet.MORNING.minus(Duration.ofHours(i))));
        }
        Desk desk = window.logIn(person, Office.PASSWORD);
        assertThat(page.locator("#rows")).isFocused();
        return desk;
    }

    private Locator head(String column) {
        return page.locator("#heads").getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(column));
    }

    private double width(String column) {
        return head(column).locator("..").boundingBox().width;
    }

    @Test
    void columnsAreChosenDrawnWiderAndPutElsewhere() {
        Desk desk = deskWith(3).press("v");
        page.getByLabel("In columns, in place of two lines").check();
        page.getByLabel("Labels", new Page.GetByLabelOptions().setExact(true)).uncheck();
        window.button("Arrange").click();
        assertThat(page.locator("#heads button")).hasText(new String[] {"Sender", "Subject", "Date", "Size"});

        double before = width("Sender");
        BoundingBox grip = head("Sender").locator("..").locator(".grip").boundingBox();
        page.mouse().move(grip.x + 5, grip.y + 5);
        page.mouse().down();
        page.mouse().move(grip.x + 45, grip.y + 5);
        page.mouse().up();
        org.assertj.core.api.Assertions.assertThat(width("Sender")).isGreaterThan(before + 30);

        head("Date").dragTo(head("Sender"));
        assertThat(page.locator("#heads button")).hasText(new String[] {"Date", "Sender", "Subject", "Size"});
        assertThat(page.locator(".row").first().locator(":scope > :nth-child(3 of :not(.visually-hidden))"))
                .hasClass("t");
        head("Sender").focus();
        desk.press("Control+ArrowRight");
        assertThat(page.locator("#heads button")).hasText(new String[] {"Date", "Subject", "Sender", "Size"});

        head("Subject").click();
        assertThat(page.locator("#heads i.up")).hasCount(1);
        page.reload();
        assertThat(page.locator("#heads button")).hasText(new String[] {"Date", "Subject", "Sender", "Size"});
        org.assertj.core.api.Assertions.assertThat(width("Sender")).isGreaterThan(before + 30);
    }

    @Test
    void aMessageIsCopiedByItsKeyAndTheCopyTakenBack() {
        cabinet.folder(person.id(), "Loans");
        Desk desk = deskWith(1).press("ArrowDown").showsMessage("Letter 1").press("c");
        page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("A few letters"))
                .fill("Loa");
        assertThat(page.locator("#copy-choices li[aria-selected=true]")).containsText("Loans");
        desk.press("Enter").says("Copied into Loans").unread("Loans", 1).lists("Letter 1");
        desk.press("z").says("Undone: Copied into Loans").unread("Loans", 0);
    }

    @Test
    void aMessageIsReadInFullAndBackShowsTheListWhereItWas() {
        Desk desk = deskWith(40).press("ArrowDown", "End").showsMessage("Letter 40");
        double scrolled = ((Number) page.evaluate("document.querySelector('.scroll').scrollTop")).doubleValue();
        org.assertj.core.api.Assertions.assertThat(scrolled).isPositive();
        desk.press("Enter");
        assertThat(page.locator(".list .scroll")).isHidden();
        desk.press("ArrowUp").showsMessage("Letter 39");
        page.goBack();
        assertThat(page.locator(".list .scroll")).isVisible();
        assertThat(page.locator(".row.current")).containsText("Letter 39");
        assertThat(page.locator(".row.current")).isInViewport();
        page.locator(".row.current").dblclick();
        assertThat(page.locator(".list .scroll")).isHidden();
        desk.press("Escape");
        assertThat(page.locator(".list .scroll")).isVisible();
        assertThat(page.locator("#rows")).isFocused();
    }

    @Test
    void severalLabelsArePutOnInOneGoAndLeaveRoomForTheSubject() {
        for (String label : List.of("Alpha", "Beta")) {
            cabinet.places.label(person.id(), FolderPath.parse(label));
        }
        Desk desk = deskWith(1).press("ArrowDown").showsMessage("Letter 1").press("l");
        Locator chosen = page.locator("#label-choices li[aria-selected=true]");
        desk.type("Gamma");
        assertThat(chosen).containsText("Make Gamma");
        desk.press("Enter");
        assertThat(chosen).containsText("take off");
        for (String label : List.of("Alpha", "Beta")) {
            desk.type(label.substring(0, 2));
            assertThat(chosen).hasText(label);
            desk.press("Enter");
            assertThat(chosen).containsText("take off");
        }
        desk.press("Escape");
        assertThat(page.locator(".row .chip")).hasText(new String[] {"Alpha", "+2"});
        assertThat(page.locator(".row .more-labels")).hasAttribute("title", "Beta, Gamma");
    }

    @Test
    void foldersOfLateComeFirstWhereNothingIsTyped() {
        cabinet.folder(person.id(), "Alpha");
        cabinet.folder(person.id(), "Omega");
        Desk desk = deskWith(2).press("ArrowDown").showsMessage("Letter 1").fileInto("Omega");
        desk.says("Filed into Omega").showsMessage("Letter 2").press("f");
        assertThat(page.locator("#folder-choices li").first()).hasText("Omega");
    }

    @Test
    void aPlaceThatIsSeldomUsedIsHiddenAndComesBack() {
        deskWith(1);
        Locator junk = page.locator("#cabinet").getByText("Junk");
        junk.click(new Locator.ClickOptions().setButton(MouseButton.RIGHT));
        page.locator("#place-menu").getByText("Hide it").click();
        assertThat(junk).isHidden();
        page.locator("#cabinet").getByText("more").click();
        assertThat(junk).isVisible();
        page.locator("#cabinet").getByText("less").click();
        assertThat(junk).isHidden();
    }

    @Test
    void theCabinetIsAsWideAsItIsDragged() {
        deskWith(1);
        double before = page.locator(".cab").boundingBox().width;
        BoundingBox edge = page.locator("[data-splits=cabinet]").boundingBox();
        page.mouse().move(edge.x + 4, edge.y + 200);
        page.mouse().down();
        page.mouse().move(edge.x + 84, edge.y + 200);
        page.mouse().up();
        page.reload();
        org.assertj.core.api.Assertions.assertThat(page.locator(".cab").boundingBox().width)
                .isBetween(before + 70, before + 90);
        page.locator("[data-splits=cabinet]").dblclick();
        org.assertj.core.api.Assertions.assertThat(page.locator(".cab").boundingBox().width)
                .isEqualTo(before);
    }

    @Test
    void aMessageThatIsDraggedOntoTheTicklerIsAskedForItsDay() {
        Desk desk = deskWith(1);
        desk.message("Letter 1").dragTo(page.locator("#place-tickler"));
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Tomorrow"))
                .click();
        desk.says("In the tickler until").listsNot("Letter 1");
    }

    /** Held over the tickler its days open, one's own among them, and can be dropped on. */
    @Test
    void aMessageIsDroppedOnADayOfTheTickler() {
        cabinet.bean(StandingDayStore.class)
                .add(person.id(), "Saturday morning", DayOfWeek.SATURDAY, LocalTime.of(9, 0));
        Desk desk = deskWith(2);
        desk.message("Letter 1").hover();
        page.mouse().down();
        page.locator("#place-tickler").hover();
        page.locator("#place-tickler").hover(); // A browser tells of a drag by the second move.
        Locator day = page.locator(".drop-days [data-day]", new Page.LocatorOptions().setHasText("Saturday morning"));
        day.hover();
        day.hover();
        assertThat(day).hasClass(java.util.regex.Pattern.compile("over"));
        page.mouse().up();
        desk.says("In the tickler until").listsNot("Letter 1");
        assertThat(page.locator(".drop-days")).hasCount(0);

        desk.message("Letter 2").hover();
        page.mouse().down();
        page.locator("#place-tickler").hover();
        page.locator("#place-tickler").hover();
        assertThat(page.locator(".drop-days")).isVisible();
        page.locator("#rows").hover();
        page.locator("#rows").hover();
        assertThat(page.locator(".drop-days")).hasCount(0);
        page.mouse().up();
        assertThat(page.locator(".row")).hasCount(1);
    }

    @Test
    void aMessageIsDraggedByTouchAndAnswersALongTouchWithItsMenu() {
        cabinet.folder(person.id(), "Loans");
        Desk desk = deskWith(3);
        Touch touch = new Touch(page);
        touch.press(page.locator(".row").nth(1)).moveTo(page.locator("#cabinet [data-name=Loans]"));
        assertThat(page.locator("#cabinet [data-name=Loans]")).hasClass(java.util.regex.Pattern.compile("over"));
        touch.release();
        desk.says("Filed into Loans").listsNot("Letter 2");
        touch.press(page.locator(".row").first()).release();
        assertThat(page.locator("#place-menu [role=menuitem]").first()).containsText("Archive");
    }

    /** A finger. */
    private static final class Touch {
        private final CDPSession session;
        private final Page page;
        private double x;
        private double y;

        Touch(Page page) {
            this.page = page;
            session = page.context().newCDPSession(page);
        }

        private void send(String type, boolean down) {
            String point = down ? "{\"x\":%s,\"y\":%s}".formatted(x, y) : "";
            session.send(
                    "Input.dispatchTouchEvent",
                    new com.google.gson.Gson()
                            .fromJson(
                                    "{\"type\":\"%s\",\"touchPoints\":[%s]}".formatted(type, point), JsonObject.class));
        }

        Touch press(Locator what) {
            BoundingBox box = what.boundingBox();
            x = box.x + 60;
            y = box.y + 10;
            send("touchStart", true);
            page.waitForTimeout(420);
            return this;
        }

        Touch moveTo(Locator what) {
            BoundingBox box = what.boundingBox();
            double fromX = x;
            double fromY = y;
            for (int i = 1; i <= 5; i++) {
                x = fromX + (box.x + 20 - fromX) * i / 5;
                y = fromY + (box.y + 8 - fromY) * i / 5;
                send("touchMove", true);
            }
            return this;
        }

        void release() {
            send("touchEnd", false);
        }
    }

    @Test
    void aMessageGoesIntoTheTicklerAndComesBackWhenItIsWanted() {
        Desk desk = deskWith(2);
        desk.press("ArrowDown", "t");
        page.locator("dialog[open]")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Tomorrow"))
                .click();
        desk.says("In the tickler until tomorrow").listsNot("Letter 1").showsMessage("Letter 2");
        desk.goTo("Tickler").lists("Letter 1");
        assertThat(page.locator(".row .tickle")).hasText("back tomorrow");
        desk.open("Letter 1").press("t");
        page.locator("dialog[open]")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Back now"))
                .click();
        desk.says("Out of the tickler").listsNot("Letter 1");
        desk.goTo("Inbox").lists("Letter 1").press("z");
        desk.says("Undone").listsNot("Letter 1");
        desk.open("Letter 2").press("t");
        page.locator("dialog[open] [data-writes]").click();
        desk.says("In the tickler until they write, or").listsNot("Letter 2");
        desk.goTo("Tickler").open("Letter 2");
        assertThat(page.locator("#sheet .who")).containsText("back when they write, or");
        cabinet.arrives(
                museum,
                TestMail.from("Halden <office@halden.example>", "Once more").at(Instant.now()));
        cabinet.tickler.bringBackWritten(person.id());
        desk.goTo("Inbox").lists("Letter 2");
    }

    @Test
    void peopleAreProposedAsTheirNamesAreTyped() {
        Desk desk = deskWith(1);
        cabinet.index.index(museum.id(), 10);
        desk.press("w");
        Locator to = new Composer(page).to;
        to.pressSequentially("hal");
        assertThat(page.locator("#known-people option")).hasAttribute("value", "Halden <office@halden.example>");
        page.navigate(page.url().replaceFirst("/write/.*", "/rules/new"));
        page.locator("[data-add=when]").first().click();
        page.locator("[name=whenText]").first().pressSequentially("hal");
        assertThat(page.locator("#known-sender option")).hasAttribute("value", "office@halden.example");
    }

    @Test
    void aRuleTellsOfNewMailInTheStrip() {
        cabinet.rules.save(
                person.id(),
                new Rule(
                        0,
                        "Ferry",
                        true,
                        List.of(Correspondent.sender("halden.example")),
                        List.of(),
                        List.of(new Effect.Notify(true)),
                        false));
        Desk desk = deskWith(1);
        page.waitForSelector("html[data-live]");
        cabinet.arrives(museum, TestMail.from("Halden <office@halden.example>", "The ferry is late"));
        desk.says("Halden: The ferry is late");
    }

    @Test
    void thePageMeasuresHowSoonTheNextMessageIsThere() {
        Desk desk = deskWith(40);
        for (int i = 1; i <= 30; i++) {
            desk.press("ArrowDown").showsMessage("Letter " + i);
        }
        Await.until("all are measured", () -> measured().size() == 30);
        List<Double> sorted = measured().stream().sorted().toList();
        System.out.printf(
                "From the key to the next message: median %.0f ms, p95 %.0f ms%n", sorted.get(15), sorted.get(28));
        org.assertj.core.api.Assertions.assertThat(sorted).allMatch(millis -> millis > 0);
    }

    @SuppressWarnings("unchecked")
    private List<Double> measured() {
        return ((List<Number>)
                        page.evaluate("() => performance.getEntriesByName('next-message').map((one) => one.duration)"))
                .stream().map(Number::doubleValue).toList();
    }
}
