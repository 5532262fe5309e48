package app.schublade.web.triage;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.triage.ReminderStore;
import app.schublade.store.triage.ReminderStore.Reminder;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.Browser;
import app.schublade.web.frame.CurrentUser;
import java.time.LocalDateTime;
import java.util.List;
import java.util.stream.IntStream;
import org.jsoup.nodes.Document;
import org.jsoup.select.Elements;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What is due at a time of day is told of when that comes, once, and shown until somebody has seen to it. */
@ExtendWith(Office.Extension.class)
class ReminderTest {
    private final Cabinet cabinet;
    private final ReminderStore reminders;
    private final ReminderClock clock;
    private final CurrentUser person;
    private final long user;
    private final Account account;
    private final Browser browser;

    ReminderTest(Office office) {
        cabinet = Cabinet.of(office);
        reminders = office.bean(ReminderStore.class);
        clock = office.bean(ReminderClock.class);
        person = office.person();
        user = person.id();
        account = cabinet.account(user, "MU");
        browser = new Browser(office, person);
    }

    private long arrives(String subject) {
        return cabinet.arrives(account, TestMail.from("Anna <anna@wharf.example>", subject));
    }

    private DayTime minutes(int later) {
        LocalDateTime at = cabinet.zones.reached(user).plusMinutes(later);
        return new DayTime(at.toLocalDate(), at.toLocalTime());
    }

    private String due(long message, Object when) {
        return browser.post("/act", "deed", "due", "ids", message, "due", when).text();
    }

    /** Several processes look at once, again and again. */
    private void timePasses() {
        IntStream.range(0, 4).parallel().forEach(one -> clock.go());
    }

    private List<String> shown() {
        return browser.get("/rules").page().select(".reminders article > a").eachText();
    }

    private int notified() {
        return cabinet.jdbc
                .sql("select count(*) from notification where user_id = ? and due")
                .param(user)
                .query(Integer.class)
                .single();
    }

    @Test
    void isToldOfOnceAndShownUntilItIsDone() {
        long message = arrives("Hull <survey>");
        assertThat(due(message, minutes(-1))).contains("Flagged, due ");
        due(arrives("Later"), minutes(20));
        due(arrives("Some day"), cabinet.zones.today(user));
        assertThat(shown()).isEmpty();
        timePasses();
        timePasses();
        assertThat(shown()).containsExactly("Hull <survey>");
        assertThat(notified()).isEqualTo(1);

        browser.post("/act", "deed", "unflag", "ids", message);
        assertThat(shown()).as("it is done").isEmpty();
        browser.post("/undo");
        assertThat(shown()).containsExactly("Hull <survey>");
        timePasses();
        assertThat(notified()).as("nobody is told twice").isEqualTo(1);
        cabinet.filing.act(
                user,
                Cause.HAND,
                "x",
                List.of(message),
                state -> state.in(cabinet.places.special(user, SpecialUse.TRASH)));
        assertThat(shown()).as("it was thrown away").isEmpty();
    }

    /** As its buttons do: they are pressed as the page shows them. */
    @Test
    void isPutOffAndClosedWhereItIsShown() {
        long message = arrives("Hull survey");
        due(message, minutes(-3));
        timePasses();
        Document page = browser.get("/mail/inbox").page();
        Elements buttons = page.select(".reminders button");
        assertThat(buttons.eachText()).containsExactly("Done", "In an hour", "Tomorrow", "×");
        assertThat(page.select("#m" + message + " .due.over")).hasSize(1);

        browser.post(buttons.get(1).attr("data-posts"));
        assertThat(shown()).isEmpty();
        assertThat(cabinet.messages.row(user, message).orElseThrow().due()).isIn(minutes(60), minutes(59));
        timePasses();
        assertThat(notified()).isEqualTo(1);

        browser.post(buttons.get(2).attr("data-posts"));
        assertThat(cabinet.messages.row(user, message).orElseThrow().due())
                .isEqualTo(new DayTime(
                        cabinet.zones.today(user).plusDays(1), minutes(-3).time()));
        browser.post("/undo");
        browser.post("/undo");
        assertThat(shown()).as("as it was").containsExactly("Hull survey");

        Reminder one = reminders.open(user, 9).get(0);
        reminders.close(user + 1, one.id());
        assertThat(shown()).as("somebody else has nothing to say").hasSize(1);
        browser.post(buttons.get(3).attr("data-posts"));
        assertThat(shown()).isEmpty();
        assertThat(cabinet.messages.row(user, message).orElseThrow().flagged()).isTrue();
    }

    @Test
    void manyAreNotAllShown() {
        for (int i = 0; i < 6; i++) {
            due(arrives("Letter " + i), minutes(-10 + i));
        }
        timePasses();
        assertThat(shown()).containsExactly("Letter 5", "Letter 4", "Letter 3");
        assertThat(browser.get("/rules").page().select(".reminders .others").text())
                .isEqualTo("More that is due");
    }

    @Test
    void comesByMailOnceToWhoeverWantsIt() {
        Account foreign = cabinet.account(cabinet.user(), "CL");
        browser.post("/quiet", "hours", "", "notices", "RULES", "reminders", foreign.id());
        assertThat(reminders.mailedTo(user)).isEmpty();
        browser.post("/quiet", "hours", "", "notices", "RULES", "reminders", account.id());
        assertThat(reminders.mailedTo(user)).contains(account.id());
        assertThat(browser.get("/quiet")
                        .page()
                        .select("[name=reminders] [selected]")
                        .attr("value"))
                .isEqualTo(String.valueOf(account.id()));
        due(arrives("Hull survey"), minutes(-1));
        timePasses();
        timePasses();
        assertThat(cabinet.outgoing.of(user)).hasSize(1);
        ParsedMail mail = MimeReader.read(
                cabinet.sending.source(cabinet.outgoing.of(user).get(0).id()).orElseThrow());
        assertThat(mail.subject()).isEqualTo("Due: Hull survey");
        assertThat(mail.to()).extracting(one -> one.email()).containsExactly(account.address());
        assertThat(mail.words()).contains("Due " + minutes(-1).day(), "From Anna", "Clear its flag");

        browser.post("/quiet", "hours", "", "notices", "RULES", "reminders", "");
        due(arrives("Another"), minutes(-1));
        timePasses();
        assertThat(cabinet.outgoing.of(user)).hasSize(1);
    }

    @Test
    void whatIsNoTimeIsRefused() {
        long message = arrives("Hull survey");
        assertThat(due(message, "2026-02-30")).contains("is not a day; write 2026-12-01, or 2026-12-01 15:00");
        assertThat(due(message, "tomorrow")).contains("Flagged, due tomorrow");
        assertThat(due(message, "tomorrow noon")).contains("is not a day");
        assertThat(browser.post("/act", "deed", "tickler", "ids", message, "due", "in an hour")
                        .text())
                .contains("In the tickler until to");
        assertThat(browser.post("/act", "deed", "tickler", "ids", message, "due", minutes(0))
                        .text())
                .contains("Choose a time that is still to come");
    }
}
