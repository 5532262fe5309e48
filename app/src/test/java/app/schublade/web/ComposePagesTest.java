package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.message.Address;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.standin.DemoAccount;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.OutgoingState;
import app.schublade.sync.Synchroniser;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

@ExtendWith(Office.Extension.class)
class ComposePagesTest {
    private final Cabinet cabinet;
    private final Office office;
    private final CurrentUser person;
    private final Browser browser;
    private final OutgoingStore outgoing;

    ComposePagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        outgoing = office.bean(OutgoingStore.class);
    }

    private String begun(String address) {
        return browser.post(address).header("Location");
    }

    private static String value(Document page, String name) {
        return page.select("#compose [name=" + name + "]").val();
    }

    private Object[] fields(Document page, String to, String body) {
        return new Object[] {
            "from",
            page.select("#compose option[selected]").val(),
            "to",
            to,
            "cc",
            value(page, "cc"),
            "subject",
            value(page, "subject"),
            "body",
            body
        };
    }

    /** What was sent leaves at once, without the time to take it back. */
    private void hurry() {
        cabinet.jdbc
                .sql("update outgoing set due_at = now() where user_id = ? and state = 'WAITING'")
                .param(person.id())
                .update();
    }

    @Test
    void anAnswerGoesOutFromTheAliasAndItsCopyLiesInSent() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(20))) {
            Account account = office.addAndImport(person, hosts, "MU");
            hosts.deliver("ottoline@grebe.example", "loans@lanternquay.example", "Crack in the deck", "Dear Tilda,");
            Await.until(
                    "it arrives",
                    () -> browser.get("/mail/find?words=Crack").text().contains("Crack in the deck"));
            String id = browser.get("/mail/inbox").page().select(".row").stream()
                    .filter(row -> row.text().contains("Crack in the deck"))
                    .findFirst()
                    .orElseThrow()
                    .attr("data-id");
            String address = begun("/answer/" + id);
            Document page = browser.get(address).page();
            assertThat(page.select("#compose option[selected]").text()).startsWith("loans@lanternquay.example");
            assertThat(value(page, "to")).isEqualTo("ottoline@grebe.example");
            assertThat(value(page, "subject")).isEqualTo("Re: Crack in the deck");
            assertThat(page.select("textarea").val()).contains("> Dear Tilda,");

            browser.post(address + "/send", fields(page, value(page, "to"), "It will be seen to.\n"));
            assertThat(browser.get("/outgoing").page().select(".outgoing .how").text())
                    .isEqualTo("leaves in a moment");
            hurry();
            Await.until("it is sent", () -> outgoing.count(person.id()) == 0);
            List<MimeMessage> sent = hosts.sentElsewhere();
            assertThat(sent).hasSize(1);
            ByteArrayOutputStream source = new ByteArrayOutputStream();
            sent.get(0).writeTo(source);
            ParsedMail mail = MimeReader.read(source.toByteArray());
            assertThat(mail.from()).isEqualTo(new Address(person.name(), "loans@lanternquay.example"));
            assertThat(mail.text().strip()).isEqualTo("It will be seen to.");
            assertThat(mail.references()).hasSize(1);
            long folder = cabinet.places.special(person.id(), SpecialUse.SENT);
            Await.until(
                    "its copy lies in Sent",
                    () -> browser.get("/mail/folder/" + folder)
                            .page()
                            .select(".row:not(.new)")
                            .text()
                            .contains("Re: Crack in the deck"));

            // A process that died before it could write down that the copy lies there.
            cabinet.jdbc
                    .sql("""
                            insert into outgoing (user_id, account_id, sender, recipients, copies, subject, body, state, message_id,
                                source, due_at) values (?, ?, 'x', 'x', '', 'x', 'x', 'SENT', 'x', ?, now())
                            """)
                    .params(person.id(), account.id(), source.toByteArray())
                    .update();
            Await.until("it is looked after", () -> outgoing.count(person.id()) == 0);
            assertThat(inSent(hosts)).as("its copy lies there once").isEqualTo(1);
            office.bean(Synchroniser.class).forget(account.id());
        }
    }

    private static int inSent(Standin hosts) throws MailException {
        try (ImapConnection imap = ImapConnection.open(
                Office.draft(hosts, "MU").hosts().receiving(), DemoAccount.PASSWORD, Duration.ofSeconds(20))) {
            String sent = imap.folders().stream()
                    .filter(one -> one.use().filter(SpecialUse.SENT::equals).isPresent())
                    .findFirst()
                    .orElseThrow()
                    .serverName();
            imap.open(sent);
            return (int) imap.sightings(1).stream()
                    .map(one -> one.uid())
                    .filter(uid -> isOfAnswer(imap, uid))
                    .count();
        }
    }

    private static boolean isOfAnswer(ImapConnection imap, long uid) {
        try {
            return imap.fetch(List.of(uid), 100_000).stream()
                    .anyMatch(
                            one -> new String(one.source(), StandardCharsets.UTF_8).contains("Re: Crack in the deck"));
        } catch (MailException e) {
            throw new AssertionError(e);
        }
    }

    @Test
    void whatIsTypedIsKeptAndFoundAgain() {
        Account account = cabinet.account(person.id(), "MU", "loans@quay.example");
        long message = cabinet.arrives(
                account, TestMail.from("Ben <ben@wharf.example>", "Loan").to("loans@quay.example"));
        String address = begun("/answer/" + message);
        Document page = browser.get(address).page();
        browser.post(address + "/keep", fields(page, "someone", "Half a sen"));
        assertThat(begun("/answer/" + message)).as("the same one").isEqualTo(address);
        page = browser.get(address).page();
        assertThat(page.select("textarea").val()).isEqualTo("Half a sen");
        assertThat(value(page, "to")).as("kept though it is not an address yet").isEqualTo("someone");
        assertThat(browser.get("/mail/inbox")
                        .page()
                        .select("#place-outgoing .plate")
                        .text())
                .isEqualTo("1");
        browser.post(address + "/discard");
        assertThat(browser.get("/mail/inbox").page().select("#place-outgoing")).isEmpty();
    }

    @Test
    void whatIsTooLargeForTheServerIsSaidBefore() {
        Account account = cabinet.account(person.id(), "MU");
        cabinet.canSend(account.id());
        String address = begun("/write");
        browser.upload(address + "/files?name=a.bin", new byte[150_000]);
        Object[] fields = fields(browser.get(address).page(), "ben@wharf.example", "x");
        office.bean(AccountStore.class).sendsUpTo(account.id(), OptionalLong.of(200_000));
        assertThat(browser.post(address + "/send", fields).notice())
                .contains("takes messages of up to 200 KB; this one has about 205 KB");
        office.bean(AccountStore.class).sendsUpTo(account.id(), OptionalLong.empty());
        assertThat(browser.post(address + "/send", fields).header("Location")).isEqualTo("/mail/inbox");
    }

    @Test
    void whatCannotBeSentIsSaidAndNothingIsLost() {
        cabinet.account(person.id(), "MU");
        String address = begun("/write");
        Document page = browser.get(address).page();
        assertThat(browser.post(address + "/send", fields(page, "", "x")).notice())
                .isEqualTo("To whom? Enter an address.");
        assertThat(browser.post(address + "/send", fields(page, "ben", "x")).notice())
                .contains("“ben” is not an address");
        assertThat(browser.post(address + "/send", fields(page, "ben@wharf.example", "x"))
                        .notice())
                .contains("has no server to send from yet");
        assertThat(browser.post(
                                address + "/send",
                                "from",
                                "1 other@elsewhere.example",
                                "to",
                                "b@c.example",
                                "cc",
                                "",
                                "subject",
                                "",
                                "body",
                                "")
                        .notice())
                .contains("is not one of your addresses");
        assertThat(outgoing.of(person.id()))
                .extracting(OutgoingStore.Outgoing::state)
                .containsExactly(OutgoingState.DRAFT);
    }

    @ParameterizedTest
    @CsvSource({
        "/mail/flagged?account=MU, /mail/flagged?account=MU",
        "/mail/find?words=caf%C3%A9&account=MU, /mail/find?words=caf%C3%A9&account=MU",
        "https://elsewhere.example/mail/inbox, /mail/inbox",
        "//elsewhere.example, /mail/inbox",
        "/mail/../accounts, /mail/inbox",
        "/logout, /mail/inbox"
    })
    void afterSendingOneIsWhereOneWasAndNowhereElse(String back, String where) {
        Account account = cabinet.account(person.id(), "MU", "loans@quay.example");
        cabinet.jdbc
                .sql(
                        "update account set out_host = 'mail.example', out_port = 465, out_encryption = 'TLS' where id = ?")
                .param(account.id())
                .update();
        String address = begun("/write");
        Object[] fields = fields(browser.get(address).page(), "ben@wharf.example", "x");
        Object[] all = Arrays.copyOf(fields, fields.length + 2);
        all[fields.length] = "back";
        all[fields.length + 1] = back;
        assertThat(browser.post(address + "/send", all).header("Location")).isEqualTo(where);
        Document desk = browser.get(where).page();
        assertThat(desk.select("#notice form").attr("action")).isEqualTo(address + "/recall");
    }

    @Test
    void anAnswerThatIsBegunTwiceAtOnceIsOneDraft() throws Exception {
        Account account = cabinet.account(person.id(), "MU");
        long message = cabinet.arrives(account, Cabinet.TestMail.from("ben@wharf.example", "Loan"));
        OutgoingStore.DraftText text = new OutgoingStore.DraftText(
                account.id(), account.address(), "ben@wharf.example", "", "", "Re: Loan", "", null);
        ExecutorService hands = Executors.newFixedThreadPool(8);
        try {
            List<Future<Long>> begun = IntStream.range(0, 8)
                    .mapToObj(
                            i -> hands.submit(() -> outgoing.beginAnswer(person.id(), text, message, null, List.of())))
                    .toList();
            Set<Long> drafts = new HashSet<>();
            for (Future<Long> one : begun) {
                drafts.add(one.get());
            }
            assertThat(drafts).hasSize(1);
        } finally {
            hands.shutdown();
        }
        assertThat(outgoing.count(person.id())).isEqualTo(1);
    }

    @Test
    void aMessageIsTakenBackInTimeAndOneThatIsRefusedComesBack() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(5))) {
            Account account = office.addAndImport(person, hosts, "MU");
            String address = begun("/write");
            Document page = browser.get(address).page();
            Object[] fields = fields(page, "ben@wharf.example", "x");
            browser.post(address + "/send", fields);
            assertThat(browser.get(address).header("Location"))
                    .as("no longer written")
                    .isEqualTo("/outgoing");
            assertThat(browser.post(address + "/recall").header("Location")).isEqualTo(address);
            hurry();
            browser.post(address + "/send", fields);
            cabinet.jdbc
                    .sql("update account set out_port = 1 where id = ?")
                    .param(account.id())
                    .update();
            hurry();
            Await.until(
                    "the host is away",
                    () -> browser.get("/outgoing/lines").text().contains("It is tried again."));
            assertThat(browser.post(address + "/recall").header("Location")).isEqualTo(address);
            cabinet.jdbc
                    .sql(
                            "update account set out_port = ?, out_encryption = 'NONE', out_host = 'mail.example' where id = ?")
                    .params(hosts.smtpPort(), account.id())
                    .update();
            browser.post(address + "/send", fields);
            hurry();
            Await.until("refused", () -> outgoing.of(person.id()).get(0).state() == OutgoingState.REFUSED);
            assertThat(browser.get(address).page().select(".decide").text()).contains("without encryption");
            assertThat(hosts.sentElsewhere()).as("nothing was sent meanwhile").isEmpty();
            cabinet.jdbc
                    .sql("update account set out_host = '127.0.0.1' where id = ?")
                    .param(account.id())
                    .update();
            browser.post(address + "/send", fields(page, "nobody@lanternquay.example", "x"));
            hurry();
            Await.until("not now", () -> outgoing.of(person.id()).get(0).trouble() != null);
            assertThat(outgoing.of(person.id()).get(0).trouble()).contains("does not take it now: 451");
            office.bean(Synchroniser.class).forget(account.id());
        }
    }

    @Test
    void nobodyReadsOrSendsWhatOthersWrite() {
        cabinet.account(person.id(), "MU");
        String address = begun("/write");
        Browser stranger = new Browser(office, office.person());
        assertThat(stranger.get(address).status()).isEqualTo(404);
        assertThat(stranger.post(
                                address + "/send",
                                "from",
                                "1 a@b.example",
                                "to",
                                "",
                                "cc",
                                "",
                                "subject",
                                "",
                                "body",
                                "")
                        .status())
                .isEqualTo(404);
        stranger.post(address + "/discard");
        assertThat(outgoing.count(person.id())).isEqualTo(1);
        assertThat(stranger.get("/outgoing").page().select(".outgoing")).isEmpty();
        assertThat(stranger.post("/write").notice()).contains("Add an account first");
    }
}
