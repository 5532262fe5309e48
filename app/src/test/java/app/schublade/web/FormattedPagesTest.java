package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.store.account.Account;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What is written with formatting, and below the message that it answers. */
@ExtendWith(Office.Extension.class)
class FormattedPagesTest {
    private static final String PLACE = "answer";

    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    FormattedPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU", "loans@quay.example");
    }

    private long letter(String subject) {
        return cabinet.arrives(
                account,
                TestMail.from("Anna <anna@wharf.example>", subject)
                        .to("loans@quay.example")
                        .saying("Two crates.\n\n> How many?"));
    }

    private Outgoing draft() {
        return cabinet.outgoing.of(person.id()).get(0);
    }

    private Object[] typed(Object... more) {
        List<Object> all = new ArrayList<>(List.of(
                "from",
                account.id() + " loans@quay.example",
                "to",
                "anna@wharf.example",
                "cc",
                "",
                "subject",
                "Re: Crates"));
        all.addAll(Arrays.asList(more));
        return all.toArray();
    }

    @Test
    void anAnswerBeginsBelowItsMessage() {
        long message = letter("Crates");
        Browser.Answer begun = browser.postFor(PLACE, "/answer/" + message);
        assertThat(begun.header("HX-Push-Url"))
                .as("the address of the page stays")
                .isEqualTo("false");
        Document part = begun.page();
        assertThat(part.select("#answer #compose [name=to]").val()).isEqualTo("Anna <anna@wharf.example>");
        assertThat(part.select("#answer [name=html]").val())
                .startsWith("<p><br></p>")
                .contains(
                        "Anna wrote:</p><blockquote><p>Two crates.</p><blockquote><p>How many?</p></blockquote></blockquote>");
        assertThat(part.select("#slots [data-sends-on]").val())
                .as("nothing likely to file into")
                .isEqualTo("archive");
        assertThat(browser.post("/answer/" + message).header("Location"))
                .as("elsewhere on a page of its own")
                .isEqualTo("/write/" + draft().id());
        assertThat(browser.part("/message/" + message, "sheet")
                        .page()
                        .select("#answer")
                        .text())
                .contains("You began an answer");
        assertThat(draft().text().body()).contains("\n> Two crates.").contains("\n>> How many?");
    }

    @Test
    void whereNothingWasWrittenNothingStays() {
        long message = letter("Crates");
        browser.postFor(PLACE, "/answer/" + message);
        Document left =
                browser.postFor(PLACE, "/write/" + draft().id() + "/leave").page();
        assertThat(left.select("#answer").text()).isEmpty();
        assertThat(cabinet.outgoing.of(person.id())).isEmpty();

        browser.postFor(PLACE, "/answer/" + message);
        long id = draft().id();
        browser.post("/write/" + id + "/keep", typed("body", "", "html", "<p>Yes.</p>"));
        left = browser.postFor(PLACE, "/write/" + id + "/leave").page();
        assertThat(left.select("#answer").text()).contains("You began an answer");
        assertThat(draft().text().body()).isEqualTo("Yes.");

        browser.post("/forward", "ids", message);
        long forwarded = draft().id();
        browser.upload("/write/" + forwarded + "/files?name=a.txt", new byte[] {'a'});
        browser.postFor(PLACE, "/write/" + forwarded + "/leave");
        assertThat(cabinet.outgoing.byId(person.id(), forwarded))
                .as("a file was added")
                .isPresent();
    }

    @Test
    void nothingThatActsIsKept() {
        browser.postFor(PLACE, "/answer/" + letter("Crates"));
        long id = draft().id();
        String hostile = "<p onclick=\"x()\">Hello <b>Anna</b><script>x()</script><img src=x onerror=x()></p>"
                + "<a href=\"javascript:x()\">here</a><style>body{display:none}</style>";
        browser.post("/write/" + id + "/keep", typed("body", "ignored", "html", hostile));
        DraftText kept = draft().text();
        assertThat(kept.html()).isEqualTo("<p>Hello <b>Anna</b></p><a>here</a>");
        assertThat(kept.body()).isEqualTo("Hello Anna\n\nhere");
        assertThat(browser.get("/write/" + id)
                        .page()
                        .select("#compose [name=html]")
                        .val())
                .isEqualTo(kept.html());
    }

    @Test
    void leavesWithItsFormattingAndIsPlainForThoseWhoWantThat() {
        hasServerToSendFrom();
        long message = letter("Crates");
        browser.postFor(PLACE, "/answer/" + message);
        long id = draft().id();
        Browser.Answer sent = browser.postFor(
                PLACE,
                "/write/" + id + "/send",
                typed("body", "", "html", "<p>Two <b>large</b> ones</p>", "then", "archive"));
        assertThat(sent.header("HX-Trigger-After-Swap"))
                .isEqualTo("{\"answer-closed\":{\"sent\":true,\"then\":\"archive\"}}");
        assertThat(sent.page().select("#answer").text()).isEmpty();
        ParsedMail mail = MimeReader.read(cabinet.sending.source(id).orElseThrow());
        assertThat(mail.html()).contains("<p>Two <b>large</b> ones</p>");
        assertThat(mail.text().strip()).isEqualTo("Two large ones");

        browser.post("/write/" + id + "/recall");
        browser.postFor(PLACE, "/write/" + id + "/send", typed("body", "Two large ones\n", "then", "evil\"}"));
        mail = MimeReader.read(cabinet.sending.source(id).orElseThrow());
        assertThat(mail.html()).isNull();
        Document next =
                browser.postFor(PLACE, "/answer/" + letter("More crates")).page();
        assertThat(next.select("[name=html]").val())
                .as("she was written to in plain text")
                .isEmpty();

        long other = draft().id();
        browser.post("/write/" + other + "/send", typed("body", "", "html", "<p>x</p>"));
        next = browser.postFor(PLACE, "/answer/" + letter("Still more")).page();
        assertThat(next.select("[name=html]").val())
                .as("and with formatting since")
                .isNotEmpty();
    }

    /** Nothing leaves in the time that this takes. */
    private void hasServerToSendFrom() {
        cabinet.canSend(account.id());
    }

    @Test
    void eachAddressHasItsSignature() {
        cabinet.jdbc
                .sql("update account set signature = 'Tilda, museum' where id = ?")
                .param(account.id())
                .update();
        browser.post(
                "/accounts/" + account.id() + "/aliases",
                "address",
                "loans@quay.example",
                "note",
                "lenders",
                "signature",
                "Tilda <Loans>\n\nQuay 1");
        browser.post(
                "/accounts/" + account.id() + "/aliases", "address", "shop-*@quay.example", "signature", "For shops");
        browser.postFor(PLACE, "/answer/" + letter("Crates"));
        assertThat(draft().text().html()).contains("<p>-- <br>Tilda &lt;Loans&gt;</p><p>Quay 1</p><p>On ");
        assertThat(draft().text().body()).contains("\n-- \nTilda <Loans>\n");
        Document page = browser.get(browser.post("/write").header("Location")).page();
        assertThat(page.select("#compose option").eachAttr("data-signature"))
                .containsExactly("Tilda, museum", "Tilda <Loans>\n\nQuay 1");
        long shop = cabinet.arrives(
                account, TestMail.from("a@shop.example", "Order").to("shop-9@quay.example"));
        browser.postFor(PLACE, "/answer/" + shop);
        assertThat(draft().text().body()).contains("\n-- \nFor shops\n");
        assertThat(browser.post(
                                "/accounts/" + account.id() + "/aliases",
                                "address",
                                "x@quay.example",
                                "signature",
                                "x".repeat(5_001))
                        .status())
                .isEqualTo(422);
    }

    @Test
    void whatIsMarkedAloneIsQuoted() {
        browser.postFor(PLACE, "/answer/" + letter("Crates"), "marked", "Two <crates>");
        assertThat(draft().text().html()).contains("wrote:</p><blockquote><p>Two &lt;crates&gt;</p></blockquote>");
        assertThat(draft().text().body()).contains("> Two <crates>").doesNotContain("How many");
    }

    @Test
    void bothAreToldWhicheverItWasWrittenIn() {
        browser.postFor(PLACE, "/answer/" + letter("Crates"));
        long id = draft().id();
        browser.post("/write/" + id + "/keep", typed("body", "a\n> b & c"));
        assertThat(browser.get("/write/" + id + "/text").text())
                .contains("\"html\":\"<p>a</p><blockquote><p>b &amp; c</p></blockquote>\"")
                .contains("\"text\":\"a\\n> b & c\"");
        CurrentUser other = office.person();
        assertThat(new Browser(office, other).get("/write/" + id + "/text").status())
                .isEqualTo(404);
        assertThat(new Browser(office, other).post("/write/" + id + "/leave").status())
                .as("nothing of others is told or done")
                .isEqualTo(200);
        assertThat(cabinet.outgoing.byId(person.id(), id)).isPresent();
    }

    private Browser.Answer keeps(Browser window, long id, String body, String... more) {
        List<Object> all = new ArrayList<>(List.of(typed("body", body)));
        all.addAll(List.of(more));
        return window.post("/write/" + id + "/keep", all.toArray());
    }

    @Test
    void whatWasWrittenInAnotherWindowIsToldAndNotWrittenOver() {
        browser.post("/write");
        long id = draft().id();
        String first =
                keeps(browser, id, "From here").page().select("#draft-version").val();
        assertThat(first).isEqualTo("1");
        Browser other = new Browser(office, person);
        assertThat(keeps(other, id, "From there", "version", "1").status()).isEqualTo(200);

        Browser.Answer refused = keeps(browser, id, "From here again", "version", "1");
        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.header("HX-Reswap")).isEqualTo("none");
        assertThat(refused.header("HX-Push-Url"))
                .as("the page stays where it is")
                .isEqualTo("false");
        assertThat(refused.page().select("#draft-elsewhere [role=alert]").text())
                .contains("changed in another window")
                .contains("Keep what is here");
        assertThat(browser.get("/write/" + id + "/elsewhere?version=1").page().text())
                .contains("another window");
        assertThat(browser.get("/write/" + id + "/elsewhere?version=2").page().text())
                .isEmpty();
        Object[] sent = {"to", "anna@wharf.example", "version", "1"};
        List<Object> fields = new ArrayList<>(List.of(typed("body", "From here again")));
        fields.addAll(List.of(sent));
        assertThat(browser.postFor(PLACE, "/write/" + id + "/send", fields.toArray())
                        .status())
                .as("nor is it sent")
                .isEqualTo(422);
        assertThat(draft().state()).isEqualTo(OutgoingStore.OutgoingState.DRAFT);
        assertThat(draft().text().body()).isEqualTo("From there");

        assertThat(keeps(browser, id, "From here again", "version", "1", "over", "true")
                        .page()
                        .select("#draft-version")
                        .val())
                .isEqualTo("3");
        assertThat(draft().text().body()).isEqualTo("From here again");
        assertThat(keeps(other, id, "From there once more", "version", "2").status())
                .isEqualTo(422);
    }

    @Test
    void whatIsGoneInAnotherWindowIsBegunAnewIfOneWants() {
        browser.post("/write");
        long id = draft().id();
        browser.post("/write/" + id + "/discard");
        assertThat(keeps(browser, id, "From here")
                        .page()
                        .select("#draft-elsewhere")
                        .text())
                .contains("sent or discarded in another window");
        Browser.Answer anew = keeps(browser, id, "From here", "over", "true");
        assertThat(anew.header("HX-Redirect")).isEqualTo("/write/" + draft().id());
        assertThat(draft().text().body()).isEqualTo("From here");
        assertThat(draft().id()).isNotEqualTo(id);
        long foreign = draft().id();
        Browser other = new Browser(office, office.person());
        assertThat(keeps(other, foreign, "Mine now", "over", "true").status())
                .as("not from an address of one's own")
                .isEqualTo(422);
        assertThat(draft().text().body()).isEqualTo("From here");
    }

    /** As every browser shows it: a PNG of one pixel. */
    private static byte[] pixel() {
        return Base64.getDecoder()
                .decode(
                        "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==");
    }

    @Test
    void aPictureStandsInTheTextAndIsNoFileBesideIt() {
        browser.post("/write");
        long id = draft().id();
        String address = "/write/" + id + "/pictures";
        String called = browser.upload(address + "?name=Plan.png", pixel()).text();
        Browser.Answer shown = browser.get(address + "/" + called);
        assertThat(shown.header("Content-Type")).isEqualTo("image/png");
        assertThat(shown.header("Content-Security-Policy")).contains("sandbox");
        assertThat(new Browser(office, office.person())
                        .get(address + "/" + called)
                        .status())
                .isEqualTo(404);
        assertThat(browser.get(address + "/unknown@inline").status()).isEqualTo(404);
        assertThat(browser.upload(address + "?name=a.svg", "<svg/>".getBytes(StandardCharsets.UTF_8))
                        .status())
                .isEqualTo(422);
        String html = "<p>See <img src=\"cid:" + called + "\" alt=\"Plan\" width=\"9\"></p>";
        keeps(browser, id, "", "html", html);
        assertThat(draft().text().html()).isEqualTo(html);
        assertThat(draft().text().body()).isEqualTo("See [picture: Plan]");
        assertThat(browser.get("/write/" + id).page().select("#files li")).isEmpty();

        cabinet.jdbc
                .sql(
                        "update account set out_host = '127.0.0.1', out_port = 9, out_encryption = 'NONE', out_login = 'x'")
                .update();
        browser.post("/write/" + id + "/send", typed("body", "", "html", html, "version", "1"));
        ParsedMail mail = MimeReader.read(cabinet.sending.source(id).orElseThrow());
        assertThat(mail.html()).contains("cid:" + called);
        assertThat(mail.parts()).singleElement().satisfies(one -> {
            assertThat(one.contentId()).isEqualTo(called);
            assertThat(one.content()).isEqualTo(pixel());
            assertThat(one.name()).isEqualTo("Plan.png");
        });
    }

    @Test
    void aDraftOfAnotherProgramIsWrittenOnAndIsNoPartOfItsConversation() {
        long question = letter("Crates");
        long left = cabinet.arrives(
                account,
                cabinet.mailbox(account, "Drafts"),
                TestMail.from("loans@quay.example", "Re: Crates")
                        .to("anna@wharf.example")
                        .saying("Half a sen"));
        cabinet.jdbc
                .sql(
                        "update message set conversation_id = (select conversation_id from message where id = ?) where id = ?")
                .params(question, left)
                .update();
        Document sheet = browser.part("/message/" + left, "sheet").page();
        assertThat(sheet.select(".answers button").text()).isEqualTo("R Continue writing");
        assertThat(sheet.select(".thread").text()).contains("One more in this conversation");
        assertThat(browser.part("/message/" + question, "sheet").page().select(".thread"))
                .isEmpty();

        String address = browser.post("/continue/" + left).header("Location");
        assertThat(browser.get(address).page().select("[name=to]").val()).isEqualTo("anna@wharf.example");
        assertThat(draft().text().body().strip()).isEqualTo("Half a sen");
        assertThat(browser.post("/continue/" + left).header("Location")).isEqualTo(address);
        assertThat(new Browser(office, office.person())
                        .post("/continue/" + left)
                        .status())
                .isEqualTo(404);
    }
}
