package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What is done with all of a list at once, and what its figures say of it. */
@ExtendWith(Office.Extension.class)
class AllThatMatchPagesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    AllThatMatchPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    private long arrives(String subject) {
        return cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", subject));
    }

    private long folder(String path) {
        return cabinet.folder(person.id(), path).id();
    }

    private long label(String path) {
        return cabinet.places
                .label(person.id(), app.schublade.core.place.FolderPath.parse(path))
                .id();
    }

    @Test
    void allOfAFolderIsReadOrThrownAwayAndComesBack() {
        long loans = folder("Loans");
        long one = arrives("One");
        long two = arrives("Two");
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(one, two), state -> state.in(loans));
        assertThat(browser.get("/folders/" + loans + "/menu").page().text()).contains("Empty it: 2 to the trash");
        assertThat(browser.post("/folders/" + loans + "/all/read").notice())
                .isEqualTo("Marked as read: all of Loans, 2 messages");
        assertThat(cabinet.counts(person.id(), "Loans")).isEqualTo("2/0");
        assertThat(browser.post("/folders/" + loans + "/all/empty").notice()).isEqualTo("Emptied Loans, 2 messages");
        assertThat(cabinet.counts(person.id(), "Trash")).isEqualTo("2/0");
        browser.post("/undo");
        browser.post("/undo");
        assertThat(cabinet.counts(person.id(), "Loans")).isEqualTo("2/2");
        assertThat(browser.post("/folders/" + loans + "/all/burn").status()).isEqualTo(404);
    }

    @Test
    void filtersShowTheirCountsAndAllThatMatchIsDoneInOneGo() {
        for (int i = 0; i < 60; i++) {
            arrives("No " + i);
        }
        Document pills = browser.part("/mail/inbox?unread=on", "pills").page();
        assertThat(pills.select("#pill-FILES small").text()).isEqualTo("0");
        assertThat(pills.select("#pills").attr("data-size")).isEqualTo("60");
        assertThat(pills.select("#figures").text()).isEqualTo("60 unread");
        assertThat(browser.post("/act", "all", "/mail/inbox?unread=on", "deed", "archive")
                        .notice())
                .isEqualTo("Archived: 60 messages");
        assertThat(cabinet.counts(person.id(), "Archive")).isEqualTo("60/60");
        browser.post("/undo");
        assertThat(cabinet.counts(person.id(), "Inbox")).isEqualTo("60/60");
        assertThat(browser.post("/act", "all", "/rules", "deed", "archive").status())
                .isEqualTo(422);
    }

    @Test
    void aLabelsFigureHeedsItsFilters() {
        long label = label("Values");
        List<Long> some = List.of(arrives("A"), arrives("B"), arrives("C"));
        cabinet.filing.act(person.id(), Cause.HAND, "Label", some, state -> state.with(label, true));
        cabinet.filing.act(person.id(), Cause.HAND, "Read", some.subList(0, 2), state -> state.unread(false));
        assertThat(figures("/mail/label/" + label)).isEqualTo("1 unread of 3");
        assertThat(figures("/mail/label/" + label + "?unread=on")).isEqualTo("1 unread");
        assertThat(figures("/mail/flagged")).isEqualTo("empty");
    }

    private String figures(String address) {
        return browser.part(address, "pills").page().select("#figures").text();
    }

    /** What one has sent, or thrown away, is found too; it does not go along into a folder. */
    @Test
    void whatIsFiledOfASearchLeavesSentAndTrashAlone() {
        long loans = folder("Loans");
        List<Long> found = List.of(arrives("Crate 1"), arrives("Crate 2"), arrives("Crate 3"));
        cabinet.index.index(account.id(), 100);
        long sent = cabinet.places.special(person.id(), SpecialUse.SENT);
        long trash = cabinet.places.special(person.id(), SpecialUse.TRASH);
        cabinet.filing.act(person.id(), Cause.HAND, "Sent", found.subList(1, 2), state -> state.in(sent));
        cabinet.filing.act(person.id(), Cause.HAND, "Trash", found.subList(2, 3), state -> state.in(trash));
        assertThat(browser.post("/act", "all", "/mail/find?words=crate", "deed", "file", "place", loans)
                        .notice())
                .isEqualTo("Filed into Loans. 1 message in Sent, Drafts, Junk or Trash stays there");
        assertThat(cabinet.lies(person.id(), found.get(0))).isEqualTo("Loans");
        assertThat(cabinet.lies(person.id(), found.get(1))).isEqualTo("Sent");
        assertThat(browser.post("/act", "all", "/mail/folder/" + trash, "deed", "file", "place", loans)
                        .notice())
                .as("from the trash itself it does")
                .isEqualTo("Filed into Loans");
    }

    @Test
    void soManyMessagesThatItTakesAWhileAreOneActWithItsProgress() {
        int many = 5_200;
        cabinet.jdbc
                .sql("""
                        with added as (
                            insert into message (user_id, account_id, folder_id, received_at, unread, flagged, attachments)
                            select :user, :account, :inbox, now() - n * interval '1 minute', false, false, 0
                            from generate_series(1, :many) n returning id, account_id),
                        headed as (
                            insert into message_head (message_id, account_id, internet_id, size, sender_name, sender_address,
                                recipients, subject, snippet, sent_to, refs)
                            select id, account_id, id || '@quay.example', 1, '', '', '', '', '', '{}', '{}' from added)
                        insert into folder_count (folder_id, account_id, total, unread) values (:inbox, :account, :many, 0)
                        """)
                .param("user", person.id())
                .param("account", account.id())
                .param("inbox", cabinet.places.inbox(person.id()))
                .param("many", many)
                .update();
        Document begun = browser.post("/act", "all", "/mail/inbox", "deed", "archive", "here", "/mail/inbox")
                .page();
        String address = begun.select("#notice [hx-get]").attr("hx-get");
        assertThat(address).startsWith("/act/").contains("?here=/mail/inbox");
        assertThat(begun.select("#notice progress").attr("max")).isEqualTo("5200");
        Await.until(
                "the act is done",
                () -> !browser.get(address)
                        .page()
                        .select("#notice [data-posts=/undo]")
                        .isEmpty());
        assertThat(browser.get(address).notice()).isEqualTo("Archived: 5,200 messages");
        assertThat(cabinet.counts(person.id(), "Archive")).isEqualTo("5200/0");
        assertThat(new Browser(office, office.person()).get(address).text()).doesNotContain("Archived");
        Document undoing = browser.post("/undo").page();
        assertThat(undoing.select("#notice .told").text()).startsWith("Taking back: Archived: 5,200 messages");
        String asked = undoing.select("#notice [hx-get]").attr("hx-get");
        Await.until("it is taken back", () -> browser.get(asked).notice().equals("Undone: Archived: 5,200 messages."));
        assertThat(cabinet.counts(person.id(), "Inbox")).isEqualTo("5200/0");
        assertThat(browser.post("/act", "ids", 1).status()).isEqualTo(422);
    }

    @Test
    void theTrashIsEmptiedForGood() {
        long message = arrives("Old");
        assertThat(browser.post("/trash/empty").notice()).isEqualTo("The trash is empty already.");
        assertThat(browser.get("/trash/empty").text()).isEmpty();
        browser.post("/act", "ids", message, "deed", "delete");
        assertThat(browser.get("/trash/empty").text()).isEqualTo("Delete the message in the trash for good?");
        Browser.Answer emptied = browser.post("/trash/empty");
        assertThat(emptied.text()).contains("Deleted for good: 1 message");
        assertThat(browser.get("/record/acts").page().select("li:first-child").text())
                .contains("Deleted for good")
                .contains("for good")
                .doesNotContain("Undo");
    }
}
