package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.find.SavedSearchStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.Browser.Answer;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.web.util.UriUtils;

/** Searching: what is found, what it is understood as, what is offered, and searches that are kept. */
@ExtendWith(Office.Extension.class)
class FindPagesTest {
    private final Cabinet cabinet;
    private final Office office;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;
    private final SavedSearchStore saved;

    FindPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU", "loans@quay.example");
        saved = cabinet.bean(SavedSearchStore.class);
        arrives("Ottoline Grebe <o@grebe.example>", "Haftpflichtversicherung KD-77812", "Die Überführung der Kiste.");
        arrives("Anna Müller <anna@wharf.example>", "Invoices for the sails", "Two crates, please.");
        arrives("Ben <ben@pier.example>", "Nothing", "An old house in the harbour, said Anna Müller.");
        cabinet.index.index(account.id(), 100);
    }

    private long arrives(String from, String subject, String text) {
        return cabinet.arrives(
                account,
                TestMail.from(from, subject)
                        .to("The Council <council@quay.example>")
                        .saying(text));
    }

    private static String find(String words) {
        return "/mail/find?words=" + UriUtils.encode(words, StandardCharsets.UTF_8);
    }

    private List<String> found(String words) {
        return browser.get(find(words)).page().select(".row .s b").eachText();
    }

    /** What people type, and could not find by whole words alone. */
    @ParameterizedTest
    @CsvSource({
        "invoic, Invoices for the sails",
        "versicherung, Haftpflichtversicherung KD-77812",
        "uberfuhrung, Haftpflichtversicherung KD-77812",
        "ueberfuehrung, Haftpflichtversicherung KD-77812",
        "77812, Haftpflichtversicherung KD-77812",
        "KD-778, Haftpflichtversicherung KD-77812",
        "grebe.example, Haftpflichtversicherung KD-77812",
        "from mueller, Invoices for the sails",
        "from anna, Invoices for the sails",
        "about sails, Invoices for the sails",
        "'\"old house\"', Nothing",
        "mueller harbour, Nothing",
        "to the council sails, Invoices for the sails",
        "in mu from ben, Nothing",
        "crates not from ottoline, Invoices for the sails"
    })
    void findsWhatPeopleType(String words, String subject) {
        assertThat(found(words)).containsExactly(subject);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"nvo", "\"old harbour\"", "from sails", "about crates", "in trash", "before 2001", "file sails"})
    void findsNothingElse(String words) {
        assertThat(found(words)).isEmpty();
    }

    /** Nothing that is typed breaks the page, what is offered, or how much is where. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "a\u0000b",
                "'\\ | & ! <-> :*",
                "%_%",
                "\ud800",
                "\"",
                "in \"",
                "from \u0000",
                "<script>alert(1)</script>",
                "\u202eabc",
                "c++ or c#",
                "東京",
                "or or or",
                "31.2.2024 to 1.1.2020"
            })
    void whateverIsTypedIsAnswered(String typed) {
        String words = UriUtils.encode(typed, StandardCharsets.UTF_8);
        Answer page = browser.get("/mail/find?words=" + words);
        assertThat(page.status()).isIn(200, 302);
        assertThat(page.text()).doesNotContain("<script>alert");
        assertThat(browser.part("/mail/find?words=" + words, "facets").status()).isIn(200, 302);
        assertThat(browser.part("/find/suggest?letters=" + words + "&place=" + words, "x")
                        .status())
                .isEqualTo(200);
        assertThat(browser.get("/rules/new?words=" + words).status()).isEqualTo(200);
        assertThat(browser.post("/searches", "name", typed, "words", typed).status())
                .isIn(302, 422);
    }

    /** Words of a message as odd as can be are written down, and found. */
    @Test
    void whateverIsInAMessageIsWrittenDown() {
        long odd = arrives(
                "\"\u0000 ' \\\\ \" <x@odd.example>",
                "Odd",
                "needle " + "x".repeat(3_000) + " '' \\ \u0000 C++ がか 東京タワー " + "w1 ".repeat(40_000) + " ending");
        assertThat(cabinet.index.index(account.id(), 100)).isEqualTo(1);
        for (String words : List.of("needle", "c++", "が", "東京", "\"京タ\"", "w1 odd")) {
            assertThat(browser.get(find(words)).page().select(".row").eachAttr("data-id"))
                    .as(words)
                    .containsExactly(String.valueOf(odd));
        }
        assertThat(found("か 東京 京東")).isEmpty();
    }

    @Test
    void saysWhatWasUnderstoodAndTakesItBack() {
        Document page = browser.get(find("crates from anna")).page();
        assertThat(page.select(".term").eachText()).hasSize(2);
        assertThat(page.select(".term:not(.plain) summary").text()).isEqualTo("from anna");
        String words = page.expectFirst(".term:not(.plain) .take-back").attr("href");
        Document plain = browser.get(words).page();
        assertThat(plain.select(".term:not(.plain)")).isEmpty();
        assertThat(plain.select("#find").val()).isEqualTo("crates \"from\" anna");
        String not = page.select(".term:not(.plain) .menu-sheet a").stream()
                .filter(one -> one.text().equals("Not this"))
                .findFirst()
                .orElseThrow()
                .attr("href");
        assertThat(browser.get(not).page().select(".term:not(.plain) summary").text())
                .isEqualTo("not from anna");
        assertThat(browser.get(find("zzzzq from anna"))
                        .page()
                        .select("#rows .empty")
                        .text())
                .isEqualTo("No match for: with “zzzzq”, from anna.");
    }

    @Test
    void aRowShowsWhereTheWordStands() {
        arrives(
                "Long <l@long.example>",
                "A long letter",
                "and so on ".repeat(60) + "then the figurehead came " + "and so on ".repeat(60));
        cabinet.index.index(account.id(), 100);
        assertThat(browser.get(find("figurehea")).page().select(".row em").text())
                .startsWith("… ")
                .contains("then the figurehead came");
    }

    @Test
    void howMuchIsWhereAndWhatJunkAndTrashWouldAdd() {
        long trash = cabinet.places.special(person.id(), SpecialUse.TRASH);
        long thrown = arrives("Anna Müller <anna@wharf.example>", "Sails thrown away", "x");
        cabinet.index.index(account.id(), 100);
        cabinet.filing.act(person.id(), Cause.HAND, "Delete", List.of(thrown), state -> state.in(trash));
        long loans = cabinet.folder(person.id(), "Loans").id();
        List<Long> sails = browser.get(find("sails")).page().select(".row").eachAttr("data-id").stream()
                .map(Long::valueOf)
                .toList();
        cabinet.filing.act(person.id(), Cause.HAND, "File", sails, state -> state.in(loans));
        Document facets = browser.part(find("an"), "facets").page();
        assertThat(facets.select("#figures").text()).isEqualTo("2 messages");
        assertThat(facets.select("#left-out a").text()).isEqualTo("1 more in Junk and Trash");
        assertThat(facets.select(".facet:has(h2:contains(Where)) .bar-line").eachText())
                .containsExactly("Inbox 1", "Loans 1");
        String inLoans = facets.select(".bar-line:contains(Loans)").attr("href");
        assertThat(browser.get(inLoans).page().select(".row .s b").eachText())
                .containsExactly("Invoices for the sails");
        assertThat(browser.get(facets.select("#left-out a").attr("href"))
                        .page()
                        .select(".row .s b")
                        .eachText())
                .containsExactly("Sails thrown away");
    }

    @Test
    void offersPeopleMessagesAndWordsThatThereAre() {
        Document offered = browser.part("/find/suggest?letters=ott", "x").page();
        assertThat(offered.select("li").eachAttr("data-name"))
                .contains("from Ottoline Grebe", "Haftpflichtversicherung KD-77812");
        assertThat(browser.part("/find/suggest?letters=versicherunsumm", "x")
                        .page()
                        .select("li")
                        .eachAttr("data-name"))
                .isEmpty();
        Document meant = browser.part("/find/suggest?letters=haftpflichtversichrung", "x")
                .page();
        assertThat(meant.select("li").text()).isEqualTo("did you mean");
        assertThat(meant.select("li").attr("data-name")).isEqualTo("haftpflichtversicherung");
        cabinet.folder(person.id(), "Loans");
        assertThat(browser.part("/find/suggest?letters=sails&place=Loans", "x")
                        .page()
                        .select("li")
                        .eachAttr("data-name"))
                .first()
                .isEqualTo("sails in Loans");
        browser.get(find("invoices sails"));
        assertThat(browser.part("/find/suggest?letters=", "x")
                        .page()
                        .select("li")
                        .eachAttr("data-name"))
                .containsExactly("invoices sails");
        browser.post("/searches/recent/forget");
        assertThat(browser.part("/find/suggest?letters=", "x").page().select("li"))
                .isEmpty();
    }

    @Test
    void aSearchIsKeptChangedAndTakenBack() {
        long loans = cabinet.folder(person.id(), "Loans").id();
        assertThat(browser.post("/searches", "name", "In Loans", "words", "in loans unread")
                        .status())
                .isEqualTo(302);
        long id = saved.of(person.id()).get(0).id();
        assertThat(browser.get("/mail/inbox").page().select("#search-" + id).text())
                .isEqualTo("In Loans");
        cabinet.filing.act(
                person.id(),
                Cause.HAND,
                "File",
                browser.get("/mail/inbox").page().select(".row").eachAttr("data-id").stream()
                        .map(Long::valueOf)
                        .limit(2)
                        .toList(),
                state -> state.in(loans));
        Document opened = browser.get("/mail/search/" + id).page();
        assertThat(opened.select("h1").text()).isEqualTo("In Loans");
        assertThat(opened.select(".row")).hasSize(2);
        assertThat(opened.select("#search-" + id + " .count").text()).isEqualTo("2");

        FolderStore folders = cabinet.bean(FolderStore.class);
        folders.rename(person.id(), folders.portrait(person.id(), loans).orElseThrow(), FolderPath.parse("Lending"));
        cabinet.folder(person.id(), "Loans");
        Document renamed = browser.get("/mail/search/" + id).page();
        assertThat(renamed.select(".row")).hasSize(2);
        assertThat(renamed.select("#find").val()).isEqualTo("in \"Lending\" unread");

        Document changed =
                browser.get("/mail/search/" + id + "?words=in%20Lending").page();
        assertThat(changed.select(".keeps button:contains(Save the changes)")).hasSize(1);
        browser.post("/searches/" + id, "name", "Lent", "words", "in Lending", "ifUnread", "true");
        assertThat(saved.of(person.id())).singleElement().satisfies(one -> {
            assertThat(one.name()).isEqualTo("Lent");
            assertThat(one.words()).isEqualTo("in Lending");
            assertThat(one.ifUnread()).isTrue();
        });
        browser.post("/searches/" + id + "/remove");
        assertThat(saved.of(person.id())).isEmpty();
        assertThat(browser.get("/mail/search/" + id).status()).isEqualTo(404);
        cabinet.undo.latest(person.id());
        assertThat(saved.of(person.id())).hasSize(1);
        cabinet.undo.latest(person.id());
        assertThat(saved.of(person.id()).get(0).name()).isEqualTo("In Loans");
    }

    @Test
    void aRuleTakesNewMailByWhatWasSearchedFor() {
        Document editor = browser.get("/rules/new?words="
                        + UriUtils.encode(
                                "\"old house\" from anna@wharf.example not about sails in inbox unread file list.pdf",
                                StandardCharsets.UTF_8))
                .page();
        assertThat(editor.select("p.decide").text())
                .isEqualTo("Left out, because a rule acts on mail as it arrives: in Inbox, unread.");
        assertThat(editor.select("[data-text]").eachAttr("value")).contains("anna@wharf.example");
        assertThat(browser.get("/rules/new?words=" + UriUtils.encode("crates or sails", StandardCharsets.UTF_8))
                        .page()
                        .select("p.decide"))
                .isEmpty();
    }

    @Test
    void searchesHaveAnOrder() {
        for (String name : List.of("A", "B", "C")) {
            browser.post("/searches", "name", name, "words", name);
        }
        long c = saved.of(person.id()).get(2).id();
        long a = saved.of(person.id()).get(0).id();
        for (List<String> put : List.of(List.of("before", "C A B"), List.of("after", "A C B"), List.of("", "A B C"))) {
            if (put.get(0).isEmpty()) {
                browser.post("/searches/" + c + "/put");
            } else {
                browser.post("/searches/" + c + "/put", "other", a, "where", put.get(0));
            }
            assertThat(String.join(
                            " ",
                            saved.of(person.id()).stream()
                                    .map(SavedSearchStore.SavedSearch::name)
                                    .toList()))
                    .isEqualTo(put.get(1));
        }
    }

    @Test
    void whatCannotBeSavedIsSaid() {
        browser.post("/searches", "name", "Sails", "words", "sails");
        assertThat(browser.post("/searches", "name", "sails", "words", "x").text())
                .contains("There is a saved search “sails” already.");
        assertThat(browser.post("/searches", "name", "Empty", "words", "--").text())
                .contains("There is nothing to search for.");
        assertThat(browser.post("/searches", "name", " ", "words", "x").text())
                .contains("A saved search needs a name.");
        long id = saved.of(person.id()).get(0).id();
        Browser stranger = new Browser(office, office.person());
        assertThat(stranger.get("/mail/search/" + id).status()).isEqualTo(404);
        assertThat(stranger.post("/searches/" + id + "/remove").status()).isEqualTo(404);
        assertThat(saved.of(person.id())).hasSize(1);
    }
}
