package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.filing.Rule;
import app.schublade.store.account.Account;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.work.UnfinishedActStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

@ExtendWith(Office.Extension.class)
class RecordPagesTest {
    private final Cabinet cabinet;
    private final Office office;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    RecordPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    private long rule(String domain, String folder) {
        return cabinet.rules.save(person.id(), cabinet.filing(person.id(), domain, folder));
    }

    private long arrives(String from, String subject) {
        return cabinet.arrives(account, TestMail.from(from, subject));
    }

    private long files(String folder, Long... messages) {
        long id = cabinet.folder(person.id(), folder).id();
        return cabinet.filing
                .act(person.id(), Cause.HAND, "Filed into " + folder, List.of(messages), state -> state.in(id))
                .batch();
    }

    private List<String> lines(String query) {
        return browser.get("/record" + query).page().select(".done").stream()
                .map(line -> line.select(".subject").text() + ": "
                        + line.select(".what").text() + ", "
                        + line.select(".by").text()
                        + (line.hasClass("undone") ? ", undone" : ""))
                .toList();
    }

    @Test
    void everythingThatWasFiledIsThereWithItsReason() {
        rule("wharf.example", "Wharf");
        arrives("anna@wharf.example", "By rule");
        long hand = arrives("ben@quay.example", "By hand");
        files("Quay", hand);
        assertThat(lines(""))
                .containsExactly(
                        "By hand: Inbox → Quay, by hand",
                        "By rule: Inbox → Wharf, From wharf.example: from wharf.example");
        assertThat(browser.get("/record").page().select(".day h2").text()).isEqualTo("Today");
    }

    @Test
    void itIsAskedByRuleFolderDayAndAccount() {
        long wharf = rule("wharf.example", "Wharf");
        rule("pier.example", "Pier");
        arrives("anna@wharf.example", "One");
        arrives("anna@pier.example", "Two");
        Account other = cabinet.account(person.id(), "TS");
        long third = cabinet.arrives(other, TestMail.from("c@quay.example", "Three"));
        files("Wharf", third);
        String today = LocalDate.now(ZoneId.systemDefault()).toString();
        assertThat(lines("?rule=" + wharf)).singleElement().asString().startsWith("One");
        assertThat(lines("?folder=" + cabinet.folder(person.id(), "Wharf").id()))
                .hasSize(2);
        assertThat(lines("?account=" + other.id())).singleElement().asString().startsWith("Three");
        assertThat(lines("?by=HAND")).singleElement().asString().startsWith("Three");
        assertThat(lines("?by=RULES&account=" + account.id())).hasSize(2);
        assertThat(lines("?rule=&folder=&account=&day=" + today)).hasSize(3);
        assertThat(lines("?day=2020-01-01")).isEmpty();
        assertThat(browser.get("/record?day=2020-01-01").page().select(".empty").text())
                .contains("No match.");
    }

    @Test
    void anActOnSeveralIsTakenBackAtOnceOrLineByLine() {
        Long[] all = LongStream.range(0, 3)
                .map(i -> arrives("ben@quay.example", "No " + i))
                .boxed()
                .toArray(Long[]::new);
        long batch = files("Quay", all);
        Document page = browser.get("/record").page();
        assertThat(page.select(".act").text()).isEqualTo("Filed into Quay Undo all of it");
        assertThat(browser.post("/undo/" + batch + "/" + all[0]).notice()).isEqualTo("Undone: Filing.");
        assertThat(lines("")).filteredOn(line -> line.endsWith("undone")).hasSize(1);
        assertThat(browser.post("/undo/" + batch).notice()).isEqualTo("Undone: Filed into Quay.");
        assertThat(lines("")).hasSize(3).allMatch(line -> line.endsWith("undone"));
        assertThat(browser.get("/record").page().select(".act button")).isEmpty();
        assertThat(cabinet.lies(person.id(), all[2])).isEqualTo("Inbox");
    }

    /** As if its second part had failed. */
    private long cutOff(Map<String, Object> request, Long... messages) {
        UnfinishedActStore acts = office.bean(UnfinishedActStore.class);
        long batch = acts.begin(person.id(), Cause.HAND, "Filed into Quay: 4 messages", request, List.of(messages));
        long quay = cabinet.folder(person.id(), "Quay").id();
        List<Long> done = List.of(messages).subList(0, 2);
        acts.part(
                batch,
                2,
                () -> "COPY".equals(request.get("deed"))
                        ? cabinet.copier.copyInto(person.id(), "", done, quay, batch)
                        : cabinet.filing.actFurther(person.id(), Cause.HAND, "", done, state -> state.in(quay), batch));
        assertThatThrownBy(() -> acts.part(batch, 1, () -> {
                    cabinet.filing.actFurther(
                            person.id(), Cause.HAND, "", List.of(messages[2]), state -> state.in(quay), batch);
                    throw new IllegalStateException("killed");
                }))
                .hasMessage("killed");
        acts.standsStill(batch);
        return batch;
    }

    /** As if its process had been killed a minute ago. */
    private void abandoned(long batch) {
        cabinet.jdbc
                .sql("update unfinished_act set seen_at = now() - interval '1 minute' where batch_id = ?")
                .param(batch)
                .update();
    }

    @Test
    void anActWhoseProcessHasEndedGoesOnByItself() {
        Long[] all = four();
        long batch = cutOff(Map.of("deed", "FILE", "path", "Quay"), all);
        abandoned(batch);
        ends(batch);
        assertThat(places(all)).containsOnly("Quay");
        assertThat(browser.post("/undo").notice()).isEqualTo("Undone: Filed into Quay: 4 messages.");
        assertThat(places(all)).containsOnly("Inbox");
    }

    @Test
    void anActThatCannotBeGoneOnWithWaitsForItsUser() {
        Long[] all = four();
        long batch = cutOff(Map.of("deed", "LABEL", "place", 999_999_999L, "on", true), all);
        abandoned(batch);
        UnfinishedActStore acts = office.bean(UnfinishedActStore.class);
        Await.until("it is given up", () -> acts.abandoned().stream().noneMatch(one -> one.batch() == batch));
        assertThat(acts.progress(person.id(), batch))
                .get()
                .extracting(UnfinishedActStore.ActProgress::done)
                .isEqualTo(2);
    }

    @Test
    void takingBackThatWasCutOffGoesOnByItself() {
        Long[] all = four();
        long batch = files("Quay", all);
        cabinet.jdbc
                .sql("update batch set undoing_at = now() - interval '1 minute' where id = ?")
                .param(batch)
                .update();
        Await.until("it is taken back", () -> places(all).stream().allMatch("Inbox"::equals));
    }

    /** In another window, or by another process. */
    @Test
    void whatIsBeingTakenBackIsNotTakenBackTwice() {
        Long[] all = four();
        files("Quay", all[0]);
        long batch = files("Wharf", all[1]);
        cabinet.jdbc
                .sql("update batch set undoing_at = now() where id = ?")
                .param(batch)
                .update();
        assertThat(browser.post("/undo/" + batch).notice()).isEqualTo("Nothing left to undo.");
        assertThat(browser.post("/undo").notice()).isEqualTo("Undone: Filed into Quay.");
        assertThat(places(all[0], all[1])).containsExactly("Inbox", "Wharf");
        cabinet.jdbc
                .sql("update batch set undoing_at = '-infinity' where id = ?")
                .param(batch)
                .update();
        assertThat(browser.post("/undo").notice()).isEqualTo("Undone: Filed into Wharf.");
    }

    @Test
    void anActIsStoppedBetweenItsPartsByItsUserOnly() {
        Long[] all = four();
        long batch = cutOff(Map.of("deed", "FILE", "path", "Quay"), all);
        UnfinishedActStore acts = office.bean(UnfinishedActStore.class);
        new Browser(office, office.person()).post("/act/" + batch + "/stop");
        acts.part(batch, 0, () -> ActOutcome.NOTHING);
        browser.post("/act/" + batch + "/stop");
        assertThatThrownBy(() -> acts.part(batch, 1, () -> {
                    throw new AssertionError("nothing more was to be done");
                }))
                .isInstanceOf(UnfinishedActStore.Stopped.class);
        acts.standsStill(batch);
        browser.post("/act/" + batch + "/rest");
        ends(batch);
        assertThat(places(all)).containsOnly("Quay");
    }

    private Long[] four() {
        return LongStream.range(0, 4)
                .map(i -> arrives("ben@quay.example", "No " + i))
                .boxed()
                .toArray(Long[]::new);
    }

    private void ends(long batch) {
        UnfinishedActStore acts = office.bean(UnfinishedActStore.class);
        Await.until("it is done", () -> acts.progress(person.id(), batch).isEmpty());
    }

    private List<String> places(Long... messages) {
        return Stream.of(messages).map(id -> cabinet.lies(person.id(), id)).toList();
    }

    @Test
    void anActThatWasCutOffSaysSoAndIsGoneOnWith() {
        Long[] all = four();
        long batch = cutOff(Map.of("deed", "FILE", "path", "Quay"), all);
        assertThat(places(all)).containsExactly("Quay", "Quay", "Inbox", "Inbox");
        assertThat(browser.get("/act/" + batch).notice())
                .isEqualTo("Filed into Quay: 4 messages: it was cut off after 2 of 4."
                        + " H goes on with it or takes it back.");
        assertThat(browser.get("/record/acts").page().select("li").get(0).text())
                .contains("Filed into Quay: 4 messages (2 of them done)", "Go on", "Undo");
        assertThat(new Browser(office, office.person())
                        .post("/act/" + batch + "/rest")
                        .notice())
                .as("another user's")
                .contains("That is finished, or was undone.");
        browser.post("/act/" + batch + "/rest");
        ends(batch);
        assertThat(places(all)).containsOnly("Quay");
        assertThat(browser.get("/record/acts").page().select("li").get(0).text())
                .contains("Filed into Quay: 4 messages")
                .doesNotContain("of them done", "Go on");
        assertThat(browser.post("/undo").notice()).isEqualTo("Undone: Filed into Quay: 4 messages.");
        assertThat(places(all)).containsOnly("Inbox");
    }

    @Test
    void whatWasCopiedBeforeItWasCutOffIsNotCopiedAgain() {
        Long[] all = four();
        long batch = cutOff(Map.of("deed", "COPY", "path", "Quay"), all);
        browser.post("/act/" + batch + "/rest");
        ends(batch);
        assertThat(cabinet.jdbc
                        .sql("select count(*) from message where folder_id = ?")
                        .param(cabinet.folder(person.id(), "Quay").id())
                        .query(Integer.class)
                        .single())
                .isEqualTo(4);
    }

    @Test
    void anActThatWasCutOffIsTakenBackAsFarAsItCame() {
        Long[] all = four();
        long batch = cutOff(Map.of("deed", "FILE", "path", "Quay"), all);
        assertThat(browser.post("/undo").notice()).isEqualTo("Undone: Filed into Quay: 4 messages (2 of them done).");
        assertThat(places(all)).containsOnly("Inbox");
        assertThat(browser.post("/act/" + batch + "/rest").notice()).startsWith("That is finished, or was undone.");
        assertThat(places(all)).containsOnly("Inbox");
    }

    @Test
    void notThisOneBringsItBackAndOffersTheNarrowerRule() {
        long rule = rule("wharf.example", "Wharf");
        arrives("anna@wharf.example", "Loan of a crate");
        arrives("anna@wharf.example", "Loan of a model");
        long wrong = arrives("ben@wharf.example", "Lunch on Friday");
        Element form = browser.get("/record").page().select(".done form").get(0);
        String narrower = browser.post(form.attr("action"), "rule", rule).header("Location");
        assertThat(narrower).isEqualTo("/rules/%d?spare=%d".formatted(rule, wrong));
        assertThat(cabinet.lies(person.id(), wrong)).isEqualTo("Inbox");
        Document page = browser.get(narrower).page();
        assertThat(page.select("#notice .told").text()).isEqualTo("The message is as it was before the rule.");
        assertThat(page.select(".narrower").text())
                .contains("from ben@wharf.example", "“Lunch on Friday”", "It would still have taken all 2 others.");
        assertThat(page.select("input[name=unlessText]").val()).isEqualTo("ben@wharf.example");
        Rule kept = cabinet.rules.book(person.id()).rules().get(0);
        assertThat(kept.unless()).as("only offered").isEmpty();
        assertThat(lines("?rule=" + rule).get(0)).endsWith("undone");
    }

    @Test
    void olderLinesFollowInPages() {
        Long[] all = LongStream.range(0, 130)
                .map(i -> arrives("ben@quay.example", "No " + i))
                .boxed()
                .toArray(Long[]::new);
        files("Quay", all);
        Document page = browser.get("/record?by=HAND").page();
        assertThat(page.select(".done")).hasSize(100);
        Document older = browser.get(page.select(".turn a").attr("href")).page();
        assertThat(older.select(".done")).hasSize(30);
        assertThat(older.select(".turn a").attr("href")).isEqualTo("/record?by=HAND");
    }

    @Test
    void nobodySeesOrChangesOthersRecord() {
        long message = arrives("ben@quay.example", "Mine");
        long batch = files("Quay", message);
        Browser stranger = new Browser(office, office.person());
        assertThat(stranger.get("/record").page().select(".done")).isEmpty();
        stranger.post("/undo/" + batch);
        stranger.post("/record/%d/%d/spare".formatted(batch, message), "rule", 1);
        assertThat(cabinet.lies(person.id(), message)).isEqualTo("Quay");
    }
}
