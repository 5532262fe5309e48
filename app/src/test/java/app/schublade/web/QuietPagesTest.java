package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.noise.MutedStore;
import app.schublade.store.noise.QuietStore;
import app.schublade.store.user.NotificationStore;
import app.schublade.store.user.NotificationStore.Notification;
import app.schublade.store.user.PeopleStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Mail at set hours, and what the user is told of. */
@ExtendWith(Office.Extension.class)
class QuietPagesTest {
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;
    private final QuietStore quiet;
    private final NotificationStore notifications;

    QuietPagesTest(Office office) {
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
        quiet = office.bean(QuietStore.class);
        notifications = office.bean(NotificationStore.class);
        wants("", "RULES");
    }

    private void wants(String hours, String notices, Object... more) {
        Object[] fields = new Object[4 + more.length];
        fields[0] = "hours";
        fields[1] = hours;
        fields[2] = "notices";
        fields[3] = notices;
        System.arraycopy(more, 0, fields, 4, more.length);
        assertThat(browser.post("/quiet", fields).header("Location")).isEqualTo("/quiet");
    }

    /** An hour that does not come while the test runs. */
    private static String laterHour() {
        LocalTime far = LocalTime.now(ZoneId.systemDefault()).plusHours(12);
        return far.getHour() + ":" + (far.getMinute() < 10 ? "0" : "") + far.getMinute();
    }

    private long arrives(String from, String subject) {
        return cabinet.arrives(
                account, TestMail.from(from, subject).at(Instant.now().plusSeconds(1)));
    }

    private String inbox() {
        return browser.get("/mail/inbox").page().select(".list").text();
    }

    private List<String> told(long after) {
        return notifications.after(person.id(), after, 20).stream()
                .map(Notification::subject)
                .toList();
    }

    private int unread() {
        return cabinet.places.of(person.id(), null).special(SpecialUse.INBOX).unread();
    }

    @Test
    void betweenTwoLooksTheInboxShowsNothingNewButFromKeyPeople() {
        cabinet.bean(PeopleStore.class).markKey(person.id(), "ottoline@halden.example", true);
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "shop.example", "Shopping"));
        int before = unread();
        wants(laterHour(), "RULES");
        long waits = arrives("anna@wharf.example", "The ferry");
        long filed = arrives("bo@shop.example", "Receipt");
        arrives("ottoline@halden.example", "The mast");
        arrives(account.address(), "To myself");
        cabinet.arrives(
                account,
                TestMail.from("old@wharf.example", "Of last year")
                        .at(Instant.now().minus(Duration.ofDays(300))));

        assertThat(inbox())
                .contains("The mast", "To myself", "Of last year", "new mail")
                .doesNotContain("The ferry");
        assertThat(strip("/mail/flagged")).contains("New mail", "Look now");
        assertThat(unread()).isEqualTo(before + 3);
        Document tray = browser.get("/mail/inbox?account=MU").page();
        assertThat(tray.select("#chips .chip b, #chips .unread, #chips a").text())
                .contains(String.valueOf(before + 3));
        assertThat(cabinet.places.unreadInInbox(person.id())).containsEntry(account.id(), before + 3);
        assertThat(cabinet.lies(person.id(), filed)).isEqualTo("Shopping");
        String folder = browser.get("/message/" + waits).header("Location");
        String opened = browser.get(folder).header("Location");
        assertThat(browser.get(opened).page().select(".read").text()).contains("The ferry");
        assertThat(cabinet.wrongCounts()).isEmpty();

        assertThat(browser.post("/quiet/look").header("Location")).isEqualTo("/mail/inbox");
        assertThat(inbox()).contains("The ferry");
        assertThat(unread()).isEqualTo(before + 4);
        arrives("anna@wharf.example", "The next ferry");
        assertThat(inbox()).as("the look is over").doesNotContain("The next ferry");
        wants("", "RULES");
        assertThat(inbox()).contains("The next ferry");
        assertThat(strip("/mail/inbox")).doesNotContain("Look now");
    }

    /** Neither unfolded in the list nor below what is open. */
    @Test
    void aConversationShowsNothingThatWaits() {
        wants("", "RULES");
        long shown = cabinet.arrives(
                account,
                TestMail.from("anna@wharf.example", "The lock")
                        .named("lock")
                        .at(Instant.now().plusSeconds(1)));
        wants(laterHour(), "RULES");
        long waits = cabinet.arrives(
                account,
                TestMail.from("anna@wharf.example", "Re: The lock")
                        .named("lock2", "lock")
                        .saying("It holds.")
                        .at(Instant.now().plusSeconds(2)));
        for (boolean waiting : List.of(true, false)) {
            assertThat(cabinet.lists.conversationOf(person.id(), shown, 10))
                    .extracting(line -> line.row().id())
                    .as("unfolded")
                    .isEqualTo(waiting ? List.of(shown) : List.of(waits, shown));
            assertThat(browser.get("/mail/inbox?open=" + shown)
                            .page()
                            .select("#sheet")
                            .text()
                            .contains("It holds."))
                    .isEqualTo(!waiting);
            browser.post("/quiet/look");
        }
    }

    private String strip(String place) {
        return browser.get(place).page().select("#strip").text();
    }

    /** What waits and is filed by hand, or by an undo, is nowhere out of sight. */
    @Test
    void whatIsFiledNoLongerWaits() {
        wants(laterHour(), "RULES");
        long waits = arrives("anna@wharf.example", "Tides");
        browser.post("/act", "deed", "file", "ids", waits, "path", "Sea");
        assertThat(cabinet.lies(person.id(), waits)).isEqualTo("Sea");
        browser.post("/undo");
        assertThat(cabinet.lies(person.id(), waits)).isEqualTo("Inbox");
        assertThat(inbox()).contains("Tides");
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    @Test
    void whoseTimeHasComeLooks() {
        wants("0:00, 23:59", "RULES");
        assertThat(quiet.due()).doesNotContain(person.id());
        cabinet.jdbc
                .sql("update quiet set looked_at = now() - interval '25 hours' where user_id = ?")
                .param(person.id())
                .update();
        long waits = arrives("anna@wharf.example", "Overnight");
        assertThat(inbox()).doesNotContain("Overnight");
        assertThat(quiet.due()).contains(person.id());
        quiet.look(person.id());
        assertThat(quiet.due()).doesNotContain(person.id());
        assertThat(inbox()).contains("Overnight");
        assertThat(waits).isPositive();
    }

    /** Mail comes in and is looked for at the same time: nothing that came before the last look waits after it. */
    @Test
    void nothingIsLeftBehindByALook() throws Exception {
        wants(laterHour(), "RULES");
        cabinet.inbox(account);
        ExecutorService two = Executors.newFixedThreadPool(4);
        try {
            List<Callable<Long>> work = new ArrayList<>();
            for (int i = 0; i < 12; i++) {
                String subject = "Wave " + i;
                work.add(() -> cabinet.arrives(
                        account, TestMail.from("sea@wharf.example", subject).at(Instant.now())));
                work.add(() -> (long) quiet.look(person.id()));
            }
            for (Future<Long> one : two.invokeAll(work)) {
                one.get();
            }
        } finally {
            two.shutdownNow();
        }
        Instant last = quiet.of(person.id()).lookedAt();
        assertThat(cabinet.jdbc
                        .sql("select count(*) from message where user_id = ? and held and received_at <= ?")
                        .params(person.id(), java.sql.Timestamp.from(last))
                        .query(Integer.class)
                        .single())
                .isZero();
        quiet.look(person.id());
        assertThat(inbox()).contains("Wave 0", "Wave 11");
    }

    @Test
    void theUserIsToldOfWhomAndWhatHeOrSheWants() {
        cabinet.bean(PeopleStore.class).markKey(person.id(), "key@halden.example", true);
        cabinet.arrives(
                account,
                cabinet.mailbox(account, "Sent"),
                TestMail.from(account.address(), "Dear Jon").to("jon@pier.example"));
        long start = notifications.last(person.id());
        arrives("nobody@pier.example", "Nothing");
        assertThat(told(start)).isEmpty();
        wants("", "KEY_PEOPLE");
        arrives("key@halden.example", "From the key person");
        arrives("jon@pier.example", "Jon, untold");
        wants("", "KNOWN_PEOPLE");
        arrives("jon@pier.example", "From Jon");
        arrives("nobody@pier.example", "Still nothing");
        wants("", "EVERYBODY");
        arrives("nobody@pier.example", "From nobody");
        cabinet.arrives(
                account,
                TestMail.from("nobody@pier.example", "Imported")
                        .at(Instant.now().minus(Duration.ofDays(2))));
        cabinet.arrives(
                account,
                cabinet.mailbox(account, "Junk"),
                TestMail.from("nobody@pier.example", "Win").at(Instant.now()));
        assertThat(told(start)).containsExactly("From the key person", "From Jon", "From nobody");
    }

    @Test
    void theUserIsToldOfASearchALabelAndARuleButNeverOfAMutedConversation() {
        browser.post("/searches", "words", "subject mooring", "name", "Moorings");
        long search = cabinet.jdbc
                .sql("select id from saved_search where user_id = ? and name = 'Moorings'")
                .param(person.id())
                .query(Long.class)
                .single();
        LabelRef label = cabinet.places.label(person.id(), FolderPath.parse("Contract"));
        cabinet.rules.save(
                person.id(),
                new Rule(
                        0,
                        "Contracts",
                        true,
                        List.of(Correspondent.sender("law.example")),
                        List.of(),
                        List.of(new Effect.SetLabel(label, true)),
                        false));
        wants("", "RULES", "search", search, "label", label.id(), "label", 999_999_999L);
        long start = notifications.last(person.id());
        arrives("anna@wharf.example", "The Mooring is loose");
        arrives("anna@wharf.example", "Lunch");
        arrives("lex@law.example", "Clause nine");
        assertThat(told(start)).containsExactly("The Mooring is loose", "Clause nine");

        wants("", "EVERYBODY");
        long first = cabinet.arrives(
                account,
                TestMail.from("anna@wharf.example", "Chatter").named("chatter").at(Instant.now()));
        MutedStore muted = cabinet.bean(MutedStore.class);
        muted.mute(person.id(), muted.conversation(person.id(), first).orElseThrow());
        long now = notifications.last(person.id());
        cabinet.arrives(
                account,
                TestMail.from("anna@wharf.example", "Re: Chatter")
                        .named("more", "chatter")
                        .to("all@wharf.example")
                        .at(Instant.now()));
        assertThat(told(now)).isEmpty();

        wants(laterHour(), "EVERYBODY");
        arrives("lex@law.example", "Clause ten");
        assertThat(told(now)).as("between two looks").isEmpty();
    }

    @Test
    void whatIsNoTimeIsSaidAndNothingIsChanged() {
        wants("9:00", "KEY_PEOPLE");
        Browser.Answer answer = browser.post("/quiet", "hours", "9:00, 25:00", "notices", "EVERYBODY");
        assertThat(answer.text()).contains("25:00", "not a time of day");
        assertThat(quiet.of(person.id()).hours().shown()).isEqualTo("9:00");
        assertThat(quiet.of(person.id()).notices()).isEqualTo(QuietStore.Notices.KEY_PEOPLE);
    }
}
