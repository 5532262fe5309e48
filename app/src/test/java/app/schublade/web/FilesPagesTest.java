package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Part;
import app.schublade.mail.MailHost;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.SendingStore;
import app.schublade.sync.Synchroniser;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.Objects;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Files of messages that are written, messages that are passed on, and whom nobody is to know of. */
@ExtendWith(Office.Extension.class)
class FilesPagesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final OutgoingStore outgoing;
    private final SendingStore sending;
    private final OutgoingFileStore files;

    FilesPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        outgoing = office.bean(OutgoingStore.class);
        sending = office.bean(SendingStore.class);
        files = office.bean(OutgoingFileStore.class);
    }

    private Account account() {
        Account account = cabinet.account(person.id(), "MU");
        cabinet.bean(AccountStore.class)
                .connect(
                        person.id(),
                        account.id(),
                        new Account.Hosts(
                                account.hosts().protocol(),
                                account.hosts().receiving(),
                                new MailHost("127.0.0.1", 1, MailHost.Encryption.NONE, "a"),
                                account.hosts().proof()),
                        "x");
        return account;
    }

    private String begun(String address, Object... fields) {
        return browser.post(address, fields).header("Location");
    }

    private long id(String address) {
        return Long.parseLong(address.substring(address.lastIndexOf('/') + 1));
    }

    private Document add(String address, String name, String content) {
        return browser.upload(
                        address + "/files?name=" + name + "&type=application/pdf",
                        content.getBytes(StandardCharsets.US_ASCII))
                .page();
    }

    private void send(String address, Object... more) {
        assertThat(sent(address, more).status()).isEqualTo(302);
    }

    private Browser.Answer sent(String address, Object... more) {
        Document page = browser.get(address).page();
        Object[] usual = {
            "from", page.select("#compose option[selected]").val(),
            "to", "anna@wharf.example",
            "cc", "",
            "subject", page.select("#compose [name=subject]").val(),
            "body", page.select("textarea").val()
        };
        Object[] all = new Object[usual.length + more.length];
        System.arraycopy(usual, 0, all, 0, usual.length);
        System.arraycopy(more, 0, all, usual.length, more.length);
        return browser.post(address + "/send", all);
    }

    private ParsedMail written(String address) {
        return MimeReader.read(sending.source(id(address)).orElseThrow());
    }

    @Test
    void filesAreAddedTakenOutAndGoAlong() {
        account();
        String address = begun("/write");
        assertThat(add(address, "List%20of%20crates.pdf", "one")
                        .select("#files .name")
                        .eachText())
                .containsExactly("List of crates.pdf");
        Document two = add(address, "Second.pdf", "two");
        assertThat(two.select("#files .name").eachText()).containsExactly("List of crates.pdf", "Second.pdf");
        String out = two.expectFirst("#files button").attr("data-file-out");
        assertThat(browser.post(out).page().select("#files .name").eachText()).containsExactly("Second.pdf");
        assertThat(browser.get(address).page().select("#files .name").eachText())
                .containsExactly("Second.pdf");
        send(address);
        assertThat(written(address).attachments()).singleElement().satisfies(part -> {
            assertThat(part.name()).isEqualTo("Second.pdf");
            assertThat(new String(part.content(), StandardCharsets.US_ASCII)).isEqualTo("two");
        });
        assertThat(browser.upload(address + "/files?name=late.pdf", new byte[1]).text())
                .contains("on its way already");
    }

    @Test
    void whatIsTooLargeIsSaidAndNothingIsLost() {
        account();
        String address = begun("/write");
        add(address, "small.pdf", "small");
        assertThat(browser.upload(address + "/files?name=huge.pdf", new byte[OutgoingFileStore.MAX_BYTES - 2])
                        .text())
                .contains("With “huge.pdf” this message would be too large");
        assertThat(browser.upload(address + "/files?name=huge.pdf", new byte[OutgoingFileStore.MAX_BYTES + 7])
                        .status())
                .isEqualTo(422);
        assertThat(files.of(id(address)))
                .extracting(OutgoingFileStore.DraftFile::name)
                .containsExactly("small.pdf");
        Browser stranger = new Browser(office, office.person());
        assertThat(stranger.upload(address + "/files?name=x.pdf", new byte[1]).status())
                .isEqualTo(404);
        assertThat(stranger.post(address + "/files/"
                                + files.of(id(address)).get(0).id() + "/remove")
                        .status())
                .isEqualTo(404);
        assertThat(files.of(id(address))).hasSize(1);
    }

    @Test
    void aDiscardedDraftComesBackWithItsFiles() {
        account();
        String address = begun("/write");
        add(address, "small.pdf", "small");
        browser.post(address + "/discard");
        assertThat(browser.get(address).status()).isEqualTo(404);
        cabinet.undo.latest(person.id());
        assertThat(browser.get(address).page().select("#files .name").eachText())
                .containsExactly("small.pdf");
    }

    @Test
    void aMessageIsPassedOnWithItsTextAndFiles() {
        Account account = account();
        long message = cabinet.arrives(account, """
                From: Ottoline <o@grebe.example>
                To: loans@quay.example
                Subject: Crack in the deck
                MIME-Version: 1.0
                Content-Type: multipart/mixed; boundary=x

                --x
                Content-Type: text/plain

                Dear Tilda,
                --x
                Content-Type: application/pdf; name=crack.pdf
                Content-Disposition: attachment; filename=crack.pdf

                pdf
                --x--
                """.replace("\n", "\r\n").getBytes(StandardCharsets.US_ASCII));
        String address = begun("/forward", "ids", message);
        Document page = browser.get(address).page();
        assertThat(page.select("#compose [name=subject]").val()).isEqualTo("Fwd: Crack in the deck");
        assertThat(page.select("textarea").val()).contains("Forwarded from Ottoline <o@grebe.example>", "Dear Tilda,");
        assertThat(page.select("#files .name").eachText()).containsExactly("crack.pdf");

        String whole = begun("/forward", "ids", message, "attached", "true");
        send(whole);
        assertThat(written(whole).attachments()).singleElement().satisfies(part -> {
            assertThat(part.type()).isEqualTo("message/rfc822");
            assertThat(part.name()).isEqualTo("Crack in the deck.eml");
            assertThat(MimeReader.read(part.content()).subject()).isEqualTo("Crack in the deck");
        });
        assertThat(new Browser(office, office.person())
                        .post("/forward", "ids", message)
                        .status())
                .isEqualTo(404);
    }

    @Test
    void severalMessagesGoAlongAsTheyCame() {
        Account account = account();
        long one = cabinet.arrives(account, TestMail.from("a@wharf.example", "One"));
        long two = cabinet.arrives(account, TestMail.from("b@wharf.example", "Two"));
        String address = begun("/forward", "ids", one + "," + two + "," + one + ",999999999");
        assertThat(browser.get(address).page().select("#compose [name=subject]").val())
                .isEqualTo("Fwd: 2 messages");
        send(address);
        assertThat(written(address).attachments()).extracting(Part::name).containsExactly("One.eml", "Two.eml");
    }

    @Test
    void aMessageLeavesLaterAndCanBeHadBackUntilThen() {
        account();
        String address = begun("/write");
        assertThat(sent(address, "at", "own", "own", "").text()).contains("Choose the day and the hour");
        assertThat(sent(address, "at", "2020-01-01T08:00").text()).contains("from now on");
        assertThat(sent(address, "at", "2120-01-01T08:00").text()).contains("up to a year");
        String morning = browser.get(address)
                .page()
                .expectFirst(".send-later button[name=at]:contains(Tomorrow)")
                .val();
        send(address, "at", morning);
        Document waiting = browser.get("/outgoing").page();
        assertThat(waiting.select(".outgoing .how").text())
                .startsWith("leaves on ")
                .endsWith(", 08:00");
        LocalDateTime due = LocalDateTime.parse(morning);
        assertThat(Objects.requireNonNull(written(address).sent()))
                .as("the date is when it leaves")
                .isEqualTo(due.atZone(ZoneId.systemDefault()).toInstant());
        assertThat(browser.post(address + "/recall").header("Location")).isEqualTo(address);
        assertThat(browser.get("/outgoing").page().select(".outgoing .how").text())
                .isEqualTo("not sent yet");
        send(address, "at", "own", "own", morning);
        assertThat(outgoing.byId(person.id(), id(address)).orElseThrow().dueAt())
                .isEqualTo(due.atZone(ZoneId.systemDefault()).toInstant());
    }

    @Test
    void replyToAllAddsTheOthersToTheAnswerThatWasBegun() {
        Account account = account();
        long message = cabinet.arrives(
                account,
                TestMail.from("Ottoline <o@grebe.example>", "Crates")
                        .to("Ben <ben@pier.example>, " + account.address()));
        String address = begun("/answer/" + message);
        assertThat(browser.get(address).page().select("[name=cc]").val()).isEmpty();
        assertThat(begun("/answer/" + message, "all", "true")).isEqualTo(address);
        assertThat(browser.get(address).page().select("[name=cc]").val()).isEqualTo("Ben <ben@pier.example>");
        begun("/answer/" + message, "all", "true");
        assertThat(browser.get(address).page().select("[name=cc]").val()).isEqualTo("Ben <ben@pier.example>");
    }

    @Test
    void whomNobodyIsToKnowOfGetsItAndStandsNowhere() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(20))) {
            Account account = office.addAndImport(person, hosts, "MU");
            String address = begun("/write");
            send(address, "bcc", "Secret <secret@elsewhere.example>");
            assertThat(new String(sending.source(id(address)).orElseThrow(), StandardCharsets.UTF_8))
                    .doesNotContainIgnoringCase("bcc")
                    .doesNotContain("secret");
            cabinet.jdbc
                    .sql("update outgoing set due_at = now() where user_id = ?")
                    .param(person.id())
                    .update();
            Await.until("it is sent", () -> outgoing.count(person.id()) == 0);
            assertThat(hosts.sentElsewhere()).as("one for each of the two").hasSize(2);
            office.bean(Synchroniser.class).forget(account.id());
        }
    }
}
