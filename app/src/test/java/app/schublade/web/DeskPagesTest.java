package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.Browser.Answer;
import app.schublade.web.frame.CurrentUser;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@ExtendWith(Office.Extension.class)
class DeskPagesTest {
    private final Cabinet cabinet;
    private final Office office;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    DeskPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU", "loans@quay.example");
    }

    private long arrives(String subject) {
        return cabinet.arrives(
                account, TestMail.from("Ottoline <o@grebe.example>", subject).to("loans@quay.example"));
    }

    /** What is kept for a place by its address, as its grouping, is the same however one came there. */
    @Test
    void theInboxHasOneAddress() {
        long inbox = cabinet.places.special(person.id(), SpecialUse.INBOX);
        assertThat(browser.get("/mail/folder/" + inbox + "?open=5&account=MU").header("Location"))
                .isEqualTo("/mail/inbox?open=5&account=MU");
        assertThat(browser.get("/mail/folder/" + inbox).header("Location")).isEqualTo("/mail/inbox");
    }

    @Test
    void whatWasWrittenLongBeforeItCameSaysWhen() {
        long old = cabinet.arrives(
                account,
                TestMail.from("Ottoline <o@grebe.example>", "An old letter\nDate: Sun, 3 Mar 2019 10:00:00 +0000"));
        assertThat(browser.get("/mail/inbox?open=" + old)
                        .page()
                        .select("#sheet .who")
                        .text())
                .contains(", written ")
                .contains("2019");
        long fresh = cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", "Without a date"));
        assertThat(browser.get("/mail/inbox?open=" + fresh)
                        .page()
                        .select("#sheet .who")
                        .text())
                .doesNotContain("written");
    }

    @Test
    void theInboxShowsWhoWhatWhenAndTheCounts() {
        long id = arrives("Crack in the deck");
        Document page = browser.get("/mail/inbox").page();
        Element row = page.expectFirst("#m" + id);
        assertThat(row.select(".w").text()).isEqualTo("Ottoline");
        assertThat(row.select(".s b").text()).isEqualTo("Crack in the deck");
        assertThat(row.select(".via").text()).isEqualTo("→ loans@");
        assertThat(row.select(".c").text()).isEqualTo("MU");
        assertThat(row.hasClass("new")).isTrue();
        assertThat(page.select("#place-inbox .plate").text()).isEqualTo("1");
        assertThat(page.select("#chip-MU b").text()).isEqualTo("1");
        assertThat(page.select(".bar small").text()).isEqualTo("1 unread");
        assertThat(page.title()).isEqualTo("Inbox · Schublade");
    }

    @Test
    void theListIsFetchedInPagesThatFollowEachOther() {
        for (int i = 0; i < 120; i++) {
            cabinet.arrives(
                    account, TestMail.from("a@b.example", "No " + i).at(Cabinet.MORNING.minus(Duration.ofHours(i))));
        }
        List<String> seen = new ArrayList<>();
        Document page = browser.get("/mail/inbox").page();
        while (true) {
            page.select(".row .s b").forEach(subject -> seen.add(subject.text()));
            Element more = page.selectFirst("#more");
            if (more == null) {
                break;
            }
            page = browser.part(more.attr("hx-get"), "more").page();
            assertThat(page.selectFirst("#rows")).isNull();
        }
        assertThat(seen).hasSize(120).doesNotHaveDuplicates().startsWith("No 0").endsWith("No 119");
        assertThat(browser.part("/mail/inbox?rows=120", "rows").page().select("#rows .row"))
                .hasSize(120);
    }

    @Test
    void anOpenMessageIsReadAgainAtTheSameAddress() {
        long id = arrives("Crack in the deck");
        Document page = browser.get("/mail/inbox?open=" + id).page();
        assertThat(page.select("#sheet h2").text()).isEqualTo("Crack in the deck");
        assertThat(page.select("#sheet .who").text())
                .contains("o@grebe.example", "loans@quay.example", "an alias of Account MU");
        assertThat(page.select("#rule-slot").attr("href")).isEqualTo("/rules/new?message=" + id);
        assertThat(browser.get("/message/" + id).header("Location")).endsWith("?open=" + id);
        Document part = browser.part("/message/" + id, "sheet").page();
        assertThat(part.select("#sheet h2").text()).isEqualTo("Crack in the deck");
        assertThat(part.select("#slots").attr("hx-swap-oob")).isEqualTo("true");
    }

    @Test
    void markupInAMessageIsText() {
        cabinet.arrives(
                account,
                TestMail.from("\"<img src=x>\" <a@b.example>", "<script>alert(1)</script>")
                        .saying("<b>bold</b>"));
        Document page = browser.get("/mail/inbox").page();
        assertThat(page.select(".row img, .row script")).isEmpty();
        assertThat(page.select(".row .s b").text()).isEqualTo("<script>alert(1)</script>");
        assertThat(page.select(".row em").text()).isEqualTo("<b>bold</b>");
    }

    @Test
    void deedsAnswerWithANoticeAndTheNewCounts() {
        long id = arrives("One");
        Answer filed = browser.post("/act", "ids", id, "deed", "file", "path", "Loans / Halden", "here", "/mail/inbox");
        assertThat(filed.notice()).isEqualTo("Filed into Loans / Halden");
        assertThat(filed.page().select("#notice [data-posts=/undo]")).hasSize(1);
        assertThat(filed.page().select("#cabinet").attr("hx-swap-oob")).isEqualTo("true");
        assertThat(filed.page()
                        .select("#cabinet [data-name='Loans / Halden'] .plate")
                        .text())
                .isEqualTo("1");
        assertThat(cabinet.lies(person.id(), id)).isEqualTo("Loans / Halden");

        assertThat(browser.post("/undo").notice()).isEqualTo("Undone: Filed into Loans / Halden.");
        assertThat(cabinet.lies(person.id(), id)).isEqualTo("Inbox");
        assertThat(browser.post("/undo").notice()).isEqualTo("Nothing left to undo.");
    }

    @Test
    void eachDeedDoesWhatItSays() {
        long id = arrives("One");
        assertThat(browser.post("/act", "ids", id, "deed", "read").notice()).isEqualTo("Marked as read");
        assertThat(browser.post("/act", "ids", id, "deed", "read").notice())
                .isEqualTo("No change: that is how it is already.");
        assertThat(browser.post("/act", "ids", id, "deed", "unread").notice()).isEqualTo("Marked as unread");
        assertThat(browser.post("/act", "ids", id, "deed", "flag").notice()).isEqualTo("Flagged");
        assertThat(browser.get("/mail/flagged").page().select(".row")).hasSize(1);
        assertThat(browser.post("/act", "ids", id, "deed", "unflag").notice()).isEqualTo("Flag cleared");
        assertThat(browser.post("/act", "ids", id, "deed", "glance").page().select("#notice"))
                .isEmpty();
        assertThat(cabinet.messages.row(person.id(), id).orElseThrow().unread()).isFalse();
        assertThat(browser.post("/act", "ids", id, "deed", "archive").notice()).isEqualTo("Archived");
        assertThat(cabinet.lies(person.id(), id)).isEqualTo("Archive");
        assertThat(browser.post("/act", "ids", id, "deed", "delete").notice()).isEqualTo("Moved to the trash");
        assertThat(cabinet.lies(person.id(), id)).isEqualTo("Trash");
    }

    @Test
    void aFlagThatIsClearedLeavesItsMessageInTheListOfWhatIsDone() {
        long once = arrives("Long ago");
        long today = arrives("Just now");
        List.of(once, today).forEach(id -> browser.post("/act", "ids", id, "deed", "flag"));
        assertThat(browser.get("/mail/done").text()).contains("Nothing done yet.");
        List.of(once, today).forEach(id -> browser.post("/act", "ids", id, "deed", "unflag"));
        cabinet.jdbc
                .sql("update message set done_on = done_on - 40 where id = ?")
                .param(once)
                .update();
        Document done = browser.get("/mail/done").page();
        assertThat(done.select(".row .s b").eachText()).containsExactly("Just now", "Long ago");
        assertThat(done.select("#rows .div").eachText()).first().isEqualTo("Today");
        assertThat(browser.get("/mail/find?words=done%20today").page().select(".row"))
                .hasSize(1);
        assertThat(browser.part("/message/" + today, "sheet")
                        .page()
                        .select("dt:contains(Done) + dd")
                        .text())
                .isEqualTo("today");
        browser.post("/undo");
        assertThat(browser.get("/mail/done").page().select(".row .s b").eachText())
                .containsExactly("Long ago");
        assertThat(browser.get("/mail/flagged").page().select(".row")).hasSize(1);
        browser.post("/act", "ids", once, "deed", "flag");
        assertThat(browser.get("/mail/done").page().select(".row")).isEmpty();
        browser.post("/undo");
        assertThat(browser.get("/mail/done").page().select(".row")).hasSize(1);
    }

    @Test
    void whatCannotBeIsSaidInTheStrip() {
        long id = arrives("One");
        Answer deep = browser.post("/act", "ids", id, "deed", "file", "path", "a/".repeat(13));
        assertThat(deep.status()).isEqualTo(422);
        assertThat(deep.page().select("#notice .problem").text()).contains("12 is the limit");
        assertThat(browser.post("/act", "ids", id, "deed", "file", "place", 999_999)
                        .text())
                .contains("This folder is gone");
        assertThat(browser.post("/act", "ids", id, "deed", "explode").status()).isEqualTo(422);
        assertThat(browser.post("/folders", "path", " / ").text()).contains("A folder needs a name.");
        assertThat(cabinet.lies(person.id(), id)).isEqualTo("Inbox");
    }

    @Test
    void foldersAreMadeAndPicked() {
        assertThat(browser.post("/folders", "path", "Loans / Halden Foundation").notice())
                .isEqualTo("Created the folder Loans / Halden Foundation");
        assertThat(browser.post("/folders", "path", "loans/halden foundation").notice())
                .isEqualTo("There is a folder Loans / Halden Foundation already.");
        Document choices = browser.get("/folders/pick?letters=half").page();
        assertThat(choices.select("li[data-path]").text()).isEqualTo("Make half and file there");
        choices = browser.get("/folders/pick?letters=hal").page();
        assertThat(choices.expectFirst("li[data-place]").text()).isEqualTo("Loans / Halden Foundation");
        assertThat(choices.expectFirst("li[data-place]").attr("aria-selected")).isEqualTo("true");
        assertThat(browser.get("/folders/pick").page().text()).doesNotContain("Sent", "Drafts");
    }

    @Test
    void emptyPlacesSayWhatBelongsThere() {
        assertThat(browser.get("/mail/inbox").page().select(".empty").text()).contains("The Inbox is empty");
        assertThat(browser.get("/mail/inbox?unread=on").page().select(".empty").text())
                .startsWith("Nothing here is unread.")
                .contains("Show everything");
        assertThat(browser.get("/mail/find?words=galleon")
                        .page()
                        .select(".empty")
                        .text())
                .isEqualTo("No match for: with “galleon”.");
        long folder = cabinet.folder(person.id(), "New").id();
        assertThat(browser.get("/mail/folder/" + folder).page().select(".empty").text())
                .contains("press F");
    }

    @Test
    void anEmptyCabinetLeadsToTheFirstAccount() {
        Document page = new Browser(office, office.person()).get("/mail/inbox").page();
        assertThat(page.select(".empty a").attr("href")).isEqualTo("/accounts");
        assertThat(page.select("#figures").text()).isEqualTo("empty");
    }

    @Test
    void labelsAndCategoriesShow() {
        long id = arrives("One");
        long label = cabinet.places
                .label(person.id(), FolderPath.parse("Objects/Ship models"))
                .id();
        long category = cabinet.places.category(person.id(), "Next").id();
        cabinet.filing.act(
                person.id(),
                Cause.HAND,
                "x",
                List.of(id),
                state -> state.labelled(Set.of(label)).categorised(category));
        Document page = browser.get("/mail/label/" + label).page();
        assertThat(page.select("#m" + id + " .chip").text()).isEqualTo("Ship models");
        assertThat(page.select("#m" + id + " .rank").attr("title")).isEqualTo("Next");
        assertThat(page.select("#label-" + label + " .count").text()).isEqualTo("1");
        assertThat(page.select("#m" + id + " .lies").text()).isEqualTo("in Inbox");
    }

    @Test
    void aChipNarrowsEverythingToItsAccount() {
        Account club = cabinet.account(person.id(), "RC");
        arrives("Museum mail");
        cabinet.arrives(club, TestMail.from("a@b.example", "Club mail"));
        Document page = browser.get("/mail/inbox?account=RC").page();
        assertThat(page.select(".row .s b").eachText()).containsExactly("Club mail");
        assertThat(page.select("#chip-RC").attr("aria-pressed")).isEqualTo("true");
        assertThat(page.select("#chip-RC").attr("href")).isEqualTo("/mail/inbox");
        assertThat(page.select("#chip-MU").attr("href")).isEqualTo("/mail/inbox?account=MU");
        assertThat(page.select("#place-inbox .plate").text()).isEqualTo("1");
        Document cabinetOnly =
                browser.part("/cabinet?here=/mail/inbox&account=RC", "x").page();
        assertThat(cabinetOnly.select("#place-inbox").attr("href")).isEqualTo("/mail/inbox?account=RC");
    }

    @Test
    void whatIsSearchedStaysInTheAddressWhateverItIs() {
        arrives("Größe 100% & more");
        cabinet.index.index(account.id(), 100);
        Document page = browser.get("/mail/find?words=gr%C3%B6%C3%9Fe%20100%25&account=MU")
                .page();
        assertThat(page.select("#find").val()).isEqualTo("größe 100%");
        assertThat(page.select(".term summary").eachText()).containsExactly("größe", "100%");
        String open = page.select(".row").attr("href");
        assertThat(browser.get(open).page().select("#sheet h2").text()).isEqualTo("Größe 100% & more");
        assertThat(page.select("#chip-MU").attr("href")).startsWith("/mail/find?words=gr%C3%B6%C3%9Fe%20100%25");
        assertThat(browser.get("/mail/find?words=").header("Location")).isEqualTo("/mail/inbox");
    }

    /** Everything of one user, asked for by another. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "/message/%d",
                "/message/%d/html",
                "/message/%d/source",
                "/message/%d/part/0",
                "/mail/folder/%d",
                "/mail/label/%d",
                "/rules/%d"
            })
    void nobodySeesWhatBelongsToOthers(String address) {
        long id = arrives("Mine");
        long folder = cabinet.folder(person.id(), "Mine").id();
        long label = cabinet.places.label(person.id(), FolderPath.parse("Mine")).id();
        long rule = cabinet.rules.save(person.id(), cabinet.filing(person.id(), "b.example", "Mine"));
        long one = address.contains("folder")
                ? folder
                : address.contains("label") ? label : address.contains("rules") ? rule : id;
        String mine = address.formatted(one);
        if (!mine.endsWith("part/0")) {
            assertThat(browser.get(mine).status()).isIn(200, 302);
        }
        Browser stranger = new Browser(office, office.person());
        assertThat(stranger.get(mine).status()).isEqualTo(404);
        assertThat(stranger.part(mine, "sheet").text()).doesNotContain("Mine");
    }

    @Test
    void nobodyMovesWhatBelongsToOthers() {
        long id = arrives("Mine");
        Browser stranger = new Browser(office, office.person());
        assertThat(stranger.post("/act", "ids", id, "deed", "delete").notice()).startsWith("No change");
        assertThat(stranger.post("/act", "ids", id, "deed", "file", "path", "Stolen")
                        .notice())
                .startsWith("No change");
        assertThat(cabinet.lies(person.id(), id)).isEqualTo("Inbox");
        assertThat(stranger.get("/mail/find?words=mine").page().select(".row")).isEmpty();
    }

    @Test
    void attachmentsAreSavedNeverShown() {
        long id = arrives("One");
        Answer source = browser.get("/message/" + id + "/source");
        assertThat(source.header("Content-Disposition"))
                .startsWith("attachment")
                .contains(".eml");
        assertThat(source.header("Content-Security-Policy")).isEqualTo("default-src 'none'; sandbox");
        assertThat(source.response().getContentType()).isEqualTo("application/octet-stream");
        assertThat(source.text()).contains("Subject: One");
        assertThat(browser.get("/message/" + id + "/part/7").status()).isEqualTo(404);
    }

    @Test
    void aListThatIsFetchedMeanwhileTakesNoNoticeFromThePageItIsFor() {
        String folder = "/folders/" + cabinet.folder(person.id(), "Loans").id();
        String itsMail = browser.post(folder, "path", "Lending").header("Location");
        assertThat(browser.part(itsMail, "rows").status()).isEqualTo(200);
        assertThat(browser.get(itsMail).notice()).isEqualTo("The folder is called Lending now");
        assertThat(browser.get(itsMail).notice()).as("said once").isEmpty();
    }

    @Test
    void aFolderIsRenamedAndDeletedOnItsOwnPage() {
        long loans = cabinet.folder(person.id(), "Loans").id();
        cabinet.folder(person.id(), "Loans/Halden");
        cabinet.folder(person.id(), "Schools");
        long message = arrives("Lent");
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(message), state -> state.in(loans));
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "grebe.example", "Loans/Halden"));
        assertThat(browser.get("/mail/folder/" + loans)
                        .page()
                        .select(".edit-place")
                        .attr("href"))
                .isEqualTo("/folders/" + loans);
        assertThat(browser.get("/mail/inbox").page().select(".edit-place")).isEmpty();
        Document page = browser.get("/folders/" + loans).page();
        assertThat(page.select("main").text())
                .contains("1 message goes to the trash", "The folder in it goes too", "From grebe.example");

        assertThat(browser.post("/folders/" + loans, "path", "schools").notice())
                .contains("There is a folder schools already");
        assertThat(browser.post("/folders/" + loans, "path", "Loans/Inner").notice())
                .contains("cannot be inside itself");
        browser.post("/folders/" + loans, "path", "Lending");
        assertThat(cabinet.lies(person.id(), message)).isEqualTo("Lending");
        assertThat(cabinet.rules.book(person.id()).rules().get(0).sentence()).contains("Lending / Halden");

        browser.post("/folders/" + loans + "/delete");
        assertThat(cabinet.lies(person.id(), message)).isEqualTo("Trash");
        assertThat(browser.get("/mail/folder/" + loans).status()).isEqualTo(404);
        assertThat(browser.get("/rules").status()).isEqualTo(200);
        browser.post("/undo");
        assertThat(cabinet.lies(person.id(), message)).isEqualTo("Lending");
        long ruled = arrives("Filed into what was deleted");
        assertThat(cabinet.lies(person.id(), ruled)).isEqualTo("Lending / Halden");
        assertThat(cabinet.wrongCounts()).isEmpty();
        Browser stranger = new Browser(office, office.person());
        assertThat(stranger.post("/folders/" + loans + "/delete").status()).isEqualTo(404);
        assertThat(stranger.get("/folders/" + cabinet.places.inbox(person.id())).status())
                .isEqualTo(404);
    }
}
