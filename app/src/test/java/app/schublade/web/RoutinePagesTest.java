package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.Routine;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.message.Address;
import app.schublade.core.place.FolderPath;
import app.schublade.store.account.Account;
import app.schublade.store.message.ListRow;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.OutgoingStore.OutgoingState;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RoutineStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.sql.Timestamp;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import org.jsoup.nodes.Document;
import org.jsoup.select.Elements;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Routines: made, used, undone; and what they say when a place of theirs is gone. */
@ExtendWith(Office.Extension.class)
class RoutinePagesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final RoutineStore routines;
    private final Browser browser;
    private final Account account;
    private final long user;
    private final long message;

    RoutinePagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        routines = office.bean(RoutineStore.class);
        CurrentUser person = office.person();
        browser = new Browser(office, person);
        user = person.id();
        account = cabinet.account(user, "MU");
        message = cabinet.arrives(account, TestMail.from("anna@wharf.example", "Two crates"));
    }

    private Routine named(String name) {
        return routines.of(user).stream()
                .filter(one -> one.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void whatWasDoneLastIsMadeARoutine() {
        assertThat(browser.get("/routines").page().select("#another").text()).doesNotContain("You did this last");
        LocalDate inThree = LocalDate.now(ZoneOffset.UTC).plusDays(3);
        browser.post("/act", "deed", "read", "ids", message, "on", true);
        browser.post("/act", "deed", "due", "ids", message, "due", inThree + " 15:00");
        browser.post("/act", "deed", "unflag", "ids", message);
        assertThat(row().due()).isNull();
        browser.post("/undo");
        assertThat(row().due()).isEqualTo(DayTime.parse(inThree + " 15:00"));
        browser.post("/act", "deed", "file", "ids", message, "path", "Loans / Halden");
        assertThat(browser.get("/routines").page().select("#another").text())
                .contains("You did this last to “Two crates”: Mark as read, ", "file into Loans / Halden");
        Document filled = browser.get("/routines?example=true").page();
        Elements kinds = filled.select("#another select[name=thenKind] option[selected]");
        assertThat(kinds.eachAttr("value")).containsExactly("READ", "DUE", "FILE");
        assertThat(filled.select("#another input[name=thenText]").eachAttr("value"))
                .startsWith("", "after 3 days at 15:00", "Loans / Halden");

        browser.post(
                "/routines/0",
                "name",
                "As before",
                "thenKind",
                "READ",
                "thenText",
                "",
                "thenKind",
                "DUE",
                "thenText",
                "after 3 days",
                "thenKind",
                "FILE",
                "thenText",
                "Loans / Halden");
        long other =
                cabinet.arrives(cabinet.accounts.of(user).get(0), TestMail.from("ben@wharf.example", "Three crates"));
        assertThat(named("As before").sentence())
                .isEqualTo("Mark as read, flag, due after 3 days, file into Loans / Halden");
        assertThat(other).isPositive();
    }

    @Test
    void aRoutineHasTheStepsOfARule() {
        cabinet.rules.save(user, cabinet.filing(user, "shop.example", "Shopping"));
        long rule = cabinet.rules.all(user).get(0).id();
        Document filled = browser.get("/routines?rule=" + rule).page();
        assertThat(filled.select("#another select[name=thenKind] option[selected]")
                        .eachAttr("value"))
                .containsExactly("FILE");
        assertThat(filled.select("#another input[name=thenText]").val()).isEqualTo("Shopping");
        assertThat(browser.get("/routines?rule=999999").status()).isEqualTo(200);
    }

    private ListRow row() {
        return cabinet.messages.row(user, message).orElseThrow();
    }

    private String use(String name) {
        return browser.post(
                        "/act",
                        "deed",
                        "routine",
                        "ids",
                        message,
                        "place",
                        named(name).id())
                .text();
    }

    @Test
    void oneBeginsWithSixAndEachDoesWhatItSays() {
        assertThat(browser.get("/mail/inbox").text()).contains("data-does=\"Routine: To do today\"", "data-key=\"9\"");
        use("To do today");
        assertThat(row().flagged()).isTrue();
        assertThat(row().due()).isEqualTo(DayTime.on(LocalDate.now(ZoneOffset.UTC)));
        assertThat(row().unread()).isFalse();
        use("Waiting");
        assertThat(cabinet.lies(user, message)).isEqualTo("Archive");
        assertThat(row().due())
                .isGreaterThan(DayTime.on(LocalDate.now(ZoneOffset.UTC).plusDays(4)));
        use("Done");
        assertThat(row().flagged()).isFalse();
    }

    @Test
    void oneUndoTakesAllOfItBack() {
        use("Waiting");
        browser.post("/undo");
        assertThat(cabinet.lies(user, message)).isEqualTo("Inbox");
        assertThat(row().due()).isNull();
        assertThat(row().flagged()).isFalse();
        assertThat(row().unread()).isTrue();
        use("Read later");
        assertThat(cabinet.lies(user, message)).isEqualTo("Tickler");
        assertThat(row().until())
                .isEqualTo(DayTime.on(LocalDate.now(ZoneOffset.UTC).plusDays(3)));
    }

    private void make(String name, String... kindsAndTexts) {
        List<Object> fields = new ArrayList<>(List.of("name", name));
        for (int i = 0; i < kindsAndTexts.length; i += 2) {
            fields.addAll(List.of("thenKind", kindsAndTexts[i], "thenText", kindsAndTexts[i + 1]));
        }
        browser.post("/routines/0", fields.toArray());
    }

    @Test
    void aDayThatARoutineAsksForIsGivenWhenItIsUsed() {
        make("On its day", "TICKLER", "ask", "LABEL", "Wood");
        assertThat(named("On its day").sentence())
                .isEqualTo("Into the tickler, back on a day that you are asked for, label Wood");
        assertThat(browser.get("/routines/pick?letters=On").page().select("li").attr("data-asks-day"))
                .isEqualTo("true");
        assertThat(use("On its day")).contains("“On its day” asks for a day: choose one.");
        Object[] asked = {
            "deed", "routine", "ids", message, "place", named("On its day").id(), "due", "2020-01-01"
        };
        assertThat(browser.post("/act", asked).text()).contains("Choose a time that is still to come");
        assertThat(row().labels()).as("nothing of it was done").isEmpty();
        LocalDate day = LocalDate.now(ZoneOffset.UTC).plusDays(5);
        asked[asked.length - 1] = day + " 09:30";
        browser.post("/act", asked);
        assertThat(cabinet.lies(user, message)).isEqualTo("Tickler");
        assertThat(row().until()).hasToString(day + " 09:30");
        assertThat(row().labels()).hasSize(1);
        browser.post("/undo");
        assertThat(cabinet.lies(user, message)).isEqualTo("Inbox");
        assertThat(row().labels()).isEmpty();
    }

    /** To each of several, with the rest of the routine; while it can be, all of it is taken back. */
    @Test
    void anAnswerIsSentAtOnceAndTakenBack() {
        cabinet.canSend(account.id());
        long other = cabinet.arrives(account, TestMail.from("Ben <ben@wharf.example>", "Crates"));
        make("Thank all", "ANSWER_AT_ONCE", "Thank you. // Tilda", "ARCHIVE", "");
        assertThat(named("Thank all").sentence()).isEqualTo("Answer “Thank you. Tilda” at once, file into Archive");
        Object[] both = {
            "deed",
            "routine",
            "ids",
            message + "," + other,
            "place",
            named("Thank all").id()
        };
        browser.post("/act", both);
        List<Outgoing> sent = cabinet.outgoing.of(user);
        assertThat(sent).hasSize(2).allMatch(one -> one.state() == OutgoingState.WAITING);
        Outgoing answer = sent.stream()
                .filter(one -> Long.valueOf(other).equals(one.answers()))
                .findFirst()
                .orElseThrow();
        ParsedMail mail = MimeReader.read(cabinet.sending.source(answer.id()).orElseThrow());
        assertThat(mail.subject()).isEqualTo("Re: Crates");
        assertThat(mail.to()).extracting(Address::email).containsExactly("ben@wharf.example");
        assertThat(mail.words()).startsWith("Thank you.\nTilda").contains("Some text.");
        assertThat(cabinet.lies(user, other)).isEqualTo("Archive");
        browser.post("/undo");
        assertThat(cabinet.lies(user, other)).isEqualTo("Inbox");
        assertThat(cabinet.outgoing.of(user)).isEmpty();

        browser.post("/answer/" + other);
        assertThat(browser.post("/act", both).text())
                .as("what is being written is not sent behind one's back")
                .contains("You are writing an answer to “Crates” already.");
        assertThat(cabinet.outgoing.of(user)).hasSize(1).allMatch(Outgoing::isOpen);
        assertThat(cabinet.lies(user, other)).isEqualTo("Inbox");
        assertThat(browser.post("/rules", RuleFields.visits("thenKind", "ANSWER_AT_ONCE", "thenText", "Yes."))
                        .text())
                .contains("A rule cannot answer “Yes.” at once; a routine can.");
        assertThat(browser.get("/rules/new").text()).contains(">answer<").doesNotContain("answer at once");
    }

    @Test
    void whatARoutineSendsIsAwaited() {
        cabinet.canSend(account.id());
        make("Ask the yard", "FORWARD", "yard@pier.example // Can you?", "AWAIT", "3 days");
        use("Ask the yard");
        LocalDate by = LocalDate.now(ZoneOffset.UTC).plusDays(3);
        assertThat(cabinet.jdbc
                        .sql(
                                "select a.until from awaited_ahead a join outgoing o on o.message_id = a.internet_id where o.user_id = ?")
                        .param(user)
                        .query(Timestamp.class)
                        .single()
                        .toInstant())
                .isEqualTo(by.atTime(17, 0).toInstant(ZoneOffset.UTC));
        make("Ask back", "ANSWER", "Could you tell me more?", "AWAIT", "3 days");
        String draft = browser.post(
                        "/answer",
                        "message",
                        message,
                        "routine",
                        named("Ask back").id())
                .header("Location");
        assertThat(browser.get(draft).page().select("input[name=await]").val()).isEqualTo(by.toString());
        assertThat(browser.post("/routines/0", "name", "Odd", "thenKind", "AWAIT", "thenText", "2030-01-01")
                        .text())
                .contains("Say after how many days");
        assertThat(browser.post("/rules", RuleFields.visits("thenKind", "AWAIT", "thenText", "3 days"))
                        .text())
                .contains("A rule cannot tell you if nobody has answered after 3 days; a routine can.");
        assertThat(browser.post("/rules", RuleFields.visits("thenKind", "DUE", "thenText", "ask"))
                        .text())
                .contains("A rule cannot flag, due on a day that you are asked for; a routine can.");
        assertThat(browser.get("/rules/new").text()).doesNotContain("tell me if nobody has answered");
    }

    @Test
    void theyStandInTheOrderIntoWhichTheyAreDragged() {
        List<String> names =
                new ArrayList<>(routines.of(user).stream().map(Routine::name).toList());
        browser.post(
                "/routines/" + named("Done").id() + "/place",
                "before",
                named("To do today").id());
        names.remove("Done");
        names.add(0, "Done");
        assertThat(routines.of(user)).extracting(Routine::name).isEqualTo(names);
        browser.post("/routines/" + named("Done").id() + "/place", "before", 0);
        assertThat(routines.of(user)).extracting(Routine::name).endsWith("Done");
        browser.post("/undo");
        assertThat(routines.of(user)).extracting(Routine::name).isEqualTo(names);
        Browser other = new Browser(office, office.person());
        assertThat(other.post("/routines/" + named("Done").id() + "/place", "before", 0)
                        .status())
                .isEqualTo(404);
    }

    @Test
    void aRoutineForwardsWithoutAnotherPressAndIsTakenBackAsAWhole() throws Exception {
        browser.post(
                "/routines/0",
                "name",
                "To the tasks",
                "thenKind",
                "FORWARD",
                "thenText",
                "tasks@tool.example",
                "thenKind",
                "ARCHIVE",
                "thenText",
                "");
        assertThat(named("To the tasks").sentence()).isEqualTo("Forward to tasks@tool.example, file into Archive");
        assertThat(use("To the tasks")).contains("has no server to send from yet");
        assertThat(cabinet.lies(user, message))
                .as("nothing is done if it cannot be sent")
                .isEqualTo("Inbox");
        assertThat(cabinet.outgoing.of(user)).isEmpty();

        cabinet.canSend(account.id());
        assertThat(use("To the tasks")).contains("To the tasks");
        assertThat(cabinet.lies(user, message)).isEqualTo("Archive");
        OutgoingStore.Outgoing one = cabinet.outgoing.of(user).get(0);
        assertThat(one.state()).isEqualTo(OutgoingStore.OutgoingState.WAITING);
        ParsedMail mail = MimeReader.read(cabinet.sending.source(one.id()).orElseThrow());
        assertThat(mail.to()).containsExactly(new Address("", "tasks@tool.example"));
        assertThat(mail.subject()).startsWith("Fwd: ");
        browser.post("/undo");
        assertThat(cabinet.outgoing.of(user)).as("it has not left yet").isEmpty();
        assertThat(cabinet.lies(user, message)).isEqualTo("Inbox");

        use("To the tasks");
        cabinet.jdbc
                .sql("update outgoing set claimed = true where user_id = ?")
                .param(user)
                .update();
        assertThat(browser.post("/undo").text()).contains("The message to tasks@tool.example has left already");
        assertThat(cabinet.outgoing.of(user)).hasSize(1);
        assertThat(cabinet.lies(user, message)).as("the rest is undone").isEqualTo("Inbox");
    }

    @Test
    void aRoutineIsMadeMovedDuplicatedDeletedAndBroughtBack() {
        browser.get("/routines");
        browser.post(
                "/routines/0",
                "name",
                " Crates  in ",
                "thenKind",
                "FILE",
                "thenText",
                "Loans / Crates",
                "thenKind",
                "",
                "thenText",
                "x",
                "thenKind",
                "LABEL",
                "thenText",
                "Wood");
        Routine made = named("Crates in");
        assertThat(made.sentence()).isEqualTo("File into Loans / Crates, label Wood");
        assertThat(browser.get("/folders/" + cabinet.folder(user, "Loans").id()).text())
                .contains("These file into it and will be paused: the routine Crates in.");
        use("Crates in");
        assertThat(cabinet.lies(user, message)).isEqualTo("Loans / Crates");
        browser.post("/routines/" + made.id() + "/duplicate");
        browser.post("/routines/" + named("Crates in 2").id() + "/up");
        assertThat(routines.of(user)).extracting(Routine::name).endsWith("Crates in 2", "Crates in");
        browser.post("/routines/" + made.id() + "/remove");
        assertThat(routines.of(user)).extracting(Routine::name).doesNotContain("Crates in");
        browser.post("/undo");
        assertThat(named("Crates in").steps()).isEqualTo(made.steps());
        assertThat(browser.post("/routines/0", "name", "crates IN").text()).contains("There is a routine");
        assertThat(browser.post("/routines/0", "name", " ").text()).contains("A routine needs a name");
    }

    @Test
    void thoseToBeginWithComeBackByOnePress() {
        routines.of(user).forEach(one -> browser.post("/routines/" + one.id() + "/remove"));
        assertThat(routines.of(user)).isEmpty();
        browser.post("/routines/begin");
        browser.post("/routines/begin");
        assertThat(routines.of(user)).hasSize(6);
    }

    @Test
    void aPlaceThatIsGoneIsToldAndComesBackWithItsUndo() {
        browser.post(
                "/routines/0",
                "name",
                "Wood",
                "thenKind",
                "LABEL",
                "thenText",
                "Wood",
                "thenKind",
                "READ",
                "thenText",
                "");
        Places.Label wood =
                cabinet.places.of(user, null).label(FolderPath.parse("Wood")).orElseThrow();
        assertThat(browser.get("/labels").text()).contains("These use it and will be paused: the routine Wood.");
        browser.post("/labels/" + wood.id() + "/remove");
        assertThat(use("Wood")).contains("names what is gone: the label Wood");
        assertThat(row().unread()).as("nothing of it was done").isTrue();
        assertThat(browser.get("/routines").text()).contains("It names what is gone: the label Wood");
        browser.post("/undo");
        use("Wood");
        assertThat(row().labels()).containsExactly(wood.id());
    }

    @Test
    void aRoutineThatAnswersBeginsTheAnswerWithItsText() {
        browser.post(
                "/act",
                "deed",
                "routine",
                "ids",
                message,
                "place",
                named("Thank and file").id());
        assertThat(cabinet.lies(user, message)).isEqualTo("Archive");
        String draft = browser.post(
                        "/answer",
                        "message",
                        message,
                        "routine",
                        named("Thank and file").id())
                .header("Location");
        String page = browser.get(draft).text();
        assertThat(page).contains("anna@wharf.example", "Thank you.", "Re: Two crates");
    }

    @Test
    void itIsFoundByAFewLettersAndNobodyElsesIs() {
        assertThat(browser.get("/routines/pick?letters=wai").text())
                .contains("Waiting")
                .doesNotContain("Read later");
        Browser other = new Browser(office, office.person());
        Routine ours = named("Done");
        assertThat(other.post("/act", "deed", "routine", "ids", message, "place", ours.id())
                        .text())
                .contains("This routine is gone");
        assertThat(other.post("/routines/" + ours.id(), "name", "Mine").text()).contains("This routine is gone");
        assertThat(List.of(named("Done").name())).containsExactly("Done");
    }
}
