package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DueDate;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Routine;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.rule.RoutineStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** By keys: an Inbox is worked through with routines, and all of it is taken back. */
@ExtendWith(Office.Extension.class)
class RoutineJourneyTest {
    private static final int MESSAGES = 12;
    private static final int MANY = 60;

    private final Office office;

    RoutineJourneyTest(Office office) {
        this.office = office;
    }

    @Test
    void anInboxIsClearedByRoutinesAndPutBack() {
        CurrentUser person = office.person();
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "MU");
        for (int i = 1; i <= MESSAGES; i++) {
            cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", "Report " + i));
        }
        try (Window window = new Window(office)) {
            window.logIn(person, Office.PASSWORD);
            Page page = window.page;
            Desk desk = new Desk(page);
            desk.press("ArrowDown").showsMessage("Report 12");
            desk.press("8").says("Done").showsMessage("Report 11");
            desk.press("q").type("wait").press("Enter");
            desk.says("Waiting").showsMessage("Report 10");
            desk.press("4").says("To do today");
            assertThat(page.locator(".row.current, .row[aria-selected=true]").first())
                    .hasClass(java.util.regex.Pattern.compile("flagged"));
            desk.press("Control+a").press("8").says("Done: 10 messages");
            assertThat(page.locator(".row")).hasCount(0);
            assertThat(cabinet.counts(person.id(), "Inbox")).startsWith("0");
            desk.press("z").says("Undone: Done: 10 messages");
            assertThat(page.locator(".row")).hasCount(MESSAGES - 2);
            desk.press("z").says("Undone: To do today");
            desk.press("z").says("Undone: Waiting");
            desk.press("z").says("Undone: Done");
            assertThat(page.locator(".row")).hasCount(MESSAGES);

            desk.press("Control+a").press("8"); // Of more than ten it says first what it will do.
            assertThat(page.locator("#sure")).containsText("Done, for 12 messages?");
            assertThat(page.locator("#sure")).containsText("Undo takes all of it back.");
            assertThat(page.locator("#sure")).containsText("file into Archive");
            desk.press("Escape");
            assertThat(page.locator(".row")).hasCount(MESSAGES);
        }
    }

    /** A line shows a field for its text where it needs one, and none where not. */
    @Test
    void aRoutineIsMadeFromNothingAnswersAtOnceAndIsTakenBack() {
        CurrentUser person = office.person();
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "MU");
        cabinet.canSend(account.id());
        cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", "Report 1"));
        try (Window window = new Window(office)) {
            window.logIn(person, Office.PASSWORD);
            Page page = window.page;
            page.navigate(office.address() + "/routines");
            Locator form = page.locator("#another form.fields");
            form.getByLabel("Name").fill("Thank at once");
            Locator kinds = form.locator("select[name=thenKind]");
            Locator texts = form.locator("input[name=thenText]");
            assertThat(texts.first()).isHidden();
            kinds.first().selectOption("ANSWER_AT_ONCE");
            assertThat(texts.first()).isFocused();
            page.keyboard().type("Thank you. // Tilda");
            kinds.nth(1).selectOption("FILE");
            assertThat(texts.nth(1)).isVisible();
            kinds.nth(1).selectOption("ARCHIVE");
            assertThat(texts.nth(1)).isHidden();
            assertThat(kinds).hasCount(3);
            kinds.nth(2).selectOption("READ");
            assertThat(kinds).hasCount(4); // There is always room for one more.
            form.getByText("Add it").click();
            assertThat(page.locator(".routine h2")).hasCount(7);
            page.navigate(office.address() + "/mail/inbox");
            Desk desk = new Desk(page);
            desk.press("ArrowDown").showsMessage("Report 1");
            desk.press("q").type("thank at").press("Enter");
            desk.says("Thank at once");
            assertThat(page.locator(".row")).hasCount(0);
            Await.until(
                    "the answer is on its way",
                    () -> cabinet.outgoing.of(person.id()).size() == 1);
            desk.press("z").says("Undone: Thank at once");
            assertThat(page.locator(".row")).hasCount(1);
            assertThat(cabinet.outgoing.of(person.id())).isEmpty();
        }
    }

    @Test
    void aRoutineAsksForItsDayAndIsDraggedToAnotherKey() {
        CurrentUser person = office.person();
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "MU");
        cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", "Report 1"));
        RoutineStore routines = cabinet.bean(RoutineStore.class);
        routines.of(person.id());
        FolderRef tickler = cabinet.places.shared(person.id(), SpecialUse.TICKLER);
        Effect asked = new Effect.Tickle(tickler, new DueDate.Asked());
        long day = routines.save(
                person.id(), new Routine(0, "On its day", List.of(new Effect.MarkRead(true), asked), List.of()));
        try (Window window = new Window(office)) {
            window.logIn(person, Office.PASSWORD);
            Page page = window.page;
            page.navigate(office.address() + "/routines");
            page.locator(".routine h2")
                    .nth(1)
                    .dragTo(page.locator(".routine h2").first());
            assertThat(page.locator(".routine h2").first()).hasText("4 To do");
            routines.putBefore(person.id(), day, routines.of(person.id()).get(0).id());
            page.navigate(office.address() + "/mail/inbox");
            Desk desk = new Desk(page);
            desk.press("ArrowDown").showsMessage("Report 1");
            desk.press("4");
            assertThat(page.locator("#routine-day-title")).isVisible();
            desk.press("Escape");
            assertThat(page.locator(".row")).hasCount(1);
            desk.press("4");
            page.locator("[data-kind=routine-day] button", new Page.LocatorOptions().setHasText("Tomorrow"))
                    .click();
            desk.says("On its day");
            assertThat(page.locator(".row")).hasCount(0);
            Await.until(
                    "it waits there",
                    () -> cabinet.counts(person.id(), "Tickler").startsWith("1"));
            desk.press("z").says("Undone: On its day");
            assertThat(page.locator(".row")).hasCount(1);
        }
    }

    /** One after the other, by what each asks for: 60 messages, and as many undos. */
    @Test
    void sixtyMessagesAreClearedOneByOneAndAllOfThemPutBack() {
        CurrentUser person = office.person();
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "MU");
        cabinet.folder(person.id(), "Loans");
        cabinet.canSend(account.id());
        cabinet.jdbc
                .sql(
                        "insert into habits (user_id, pane, density, opens, unread_only, hidden_too, trays) values (?, 'RIGHT', 'SINGLE', 'inbox', false, false, false)")
                .param(person.id())
                .update();
        for (int i = 1; i <= MANY; i++) {
            cabinet.arrives(account, TestMail.from("Ottoline <o%d@grebe.example>".formatted(i % 7), "Letter " + i));
        }
        String before = states(cabinet, person);
        try (Window window = new Window(office)) {
            window.logIn(person, Office.PASSWORD);
            Desk desk = new Desk(window.page);
            desk.press("ArrowDown");
            int pressed = 1;
            for (int i = MANY; i >= 1; i--) {
                desk.showsMessage("Letter " + i);
                pressed += clear(desk, window.page, i);
                String left = i - 1 + "/";
                Await.until(
                        "Letter %d leaves".formatted(i),
                        () -> cabinet.counts(person.id(), "Inbox").startsWith(left));
            }
            System.out.println("An Inbox of %d messages is cleared: %d keys".formatted(MANY, pressed));
            for (int i = 1; i <= MANY; i++) {
                desk.press("z");
                String back = i + "/";
                Await.until(
                        "undo " + i, () -> cabinet.counts(person.id(), "Inbox").startsWith(back));
            }
            assertThat(states(cabinet, person)).isEqualTo(before);
            assertThat(cabinet.wrongCounts()).isEmpty();
        }
    }

    /** Returns how many keys that took. */
    private static int clear(Desk desk, Page page, int message) {
        switch (message % 6) {
            case 0 -> desk.press("8");
            case 1 -> desk.press("a");
            case 2 -> desk.press("Delete");
            case 3 -> desk.press("6");
            case 4 -> {
                desk.press("t");
                assertThat(page.locator(".due-dialog[open] .choices button").first())
                        .isFocused();
                desk.press("Enter");
                return 2;
            }
            default -> {
                desk.fileInto("Loa");
                return 5;
            }
        }
        return 1;
    }

    private static String states(Cabinet cabinet, CurrentUser person) {
        return cabinet.jdbc.sql("""
                        select string_agg(concat_ws(':', m.id, m.folder_id, m.unread, m.flagged, m.due_on, m.category_id, m.until_on,
                            array(select label_id from message_label l where l.message_id = m.id)), ' ' order by m.id)
                        from message m where m.user_id = ?
                        """).param(person.id()).query(String.class).single();
    }

    @Test
    void aRoutineThatAnswersOpensTheAnswer() {
        CurrentUser person = office.person();
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "MU");
        long message = cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", "The keys"));
        try (Window window = new Window(office)) {
            window.logIn(person, Office.PASSWORD);
            Desk desk = new Desk(window.page);
            desk.press("ArrowDown").showsMessage("The keys");
            desk.press("9");
            assertThat(window.page.locator("#compose [name=to]")).hasValue("Ottoline <o@grebe.example>");
            assertThat(window.page.locator("#compose .editor").innerText()).startsWith("Thank you.");
            assertThat(cabinet.lies(person.id(), message)).isEqualTo("Archive");
        }
    }
}
