package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.SpecialUse;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.filing.CountStore;
import app.schublade.store.noise.BlockStore;
import app.schublade.store.noise.MutedStore;
import app.schublade.sync.Synchroniser;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Senders are blocked, conversations muted and lists left: by one press, seen in the record, and taken back. */
@ExtendWith(Office.Extension.class)
class NoisePagesTest {
    private static final String BY_REQUEST =
            "List-Unsubscribe: <%s>\r\nList-Unsubscribe-Post: List-Unsubscribe=One-Click\r\n";

    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    NoisePagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    private String folderOf(long message) {
        return cabinet.jdbc
                .sql(
                        "select f.path || case when m.unread then ' unread' else '' end from message m join folder f on f.id = m.folder_id where m.id = ?")
                .param(message)
                .query(String.class)
                .single();
    }

    private long arrives(TestMail mail) {
        return cabinet.arrives(account, mail);
    }

    private TestMail from(String sender, String subject) {
        return TestMail.from(sender, subject).to(account.address());
    }

    private String noise() {
        return browser.get("/noise").page().select("main").text();
    }

    @Test
    void aBlockedSendersMailIsInTheTrashNowAndFromNowOn() {
        long there = arrives(from("spam@shop.example", "An offer"));
        long other = arrives(from("bo@shop.example", "The invoice"));
        assertThat(browser.post("/noise/block", "value", "Spam@Shop.example", "on", true)
                        .notice())
                .isEqualTo("Blocked spam@shop.example: 1 message in the trash");
        assertThat(folderOf(there)).isEqualTo("Trash");
        assertThat(folderOf(other)).isEqualTo("Inbox unread");
        assertThat(noise()).contains("spam@shop.example");
        browser.post("/undo");
        assertThat(folderOf(there)).isEqualTo("Inbox unread");
        assertThat(office.bean(BlockStore.class).of(person.id()).values())
                .as("one undo for both")
                .isEmpty();
    }

    @Test
    void aDomainIsBlockedWithWhatIsBelowItAndNotWithWhatLooksLikeIt() {
        long below = arrives(from("a@news.shop.example", "News"));
        long alike = arrives(from("a@myshop.example", "Something else"));
        long pattern = arrives(from("a@shop_example", "With a sign of a pattern"));
        browser.post("/noise/block", "value", "shop.example", "on", true);
        assertThat(List.of(folderOf(below), folderOf(alike), folderOf(pattern)))
                .containsExactly("Trash", "Inbox unread", "Inbox unread");
    }

    @Test
    void onesOwnAddressIsNotBlockedNorWhatIsNoAddress() {
        assertThat(browser.post("/noise/block", "value", account.address(), "on", true)
                        .text())
                .contains("is your own");
        String domain = account.address().replaceFirst(".*@", "");
        assertThat(browser.post("/noise/block", "value", domain, "on", true).text())
                .contains("is your own");
        assertThat(browser.post("/noise/block", "value", "a b", "on", true).text())
                .contains("neither an address");
        assertThat(office.bean(BlockStore.class).of(person.id()).values()).isEmpty();
    }

    @Test
    void mailOfABlockedSenderArrivesInTheTrashWithItsReason() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            Account real = office.addAndImport(person, hosts, "TS");
            browser.post("/noise/block", "value", "spam@shop.example", "on", true);
            hosts.deliver("spam@shop.example", real.address(), "An offer", "Buy");
            Await.until("it is here", () -> messageCalled("An offer") != 0);
            long message = messageCalled("An offer");
            assertThat(folderOf(message)).isEqualTo("Trash");
            String sheet = browser.part("/message/" + message, "sheet").text();
            assertThat(sheet)
                    .contains("Blocked sender", "from spam@shop.example, which you blocked")
                    .doesNotContain("deleted since", "by your rule");
            assertThat(noise()).contains("one message kept away");
            browser.post("/noise/block", "value", "spam@shop.example", "on", false);
            hosts.deliver("spam@shop.example", real.address(), "Another offer", "Buy");
            Await.until("it is here", () -> messageCalled("Another offer") != 0);
            assertThat(folderOf(messageCalled("Another offer"))).isEqualTo("Inbox unread");
            office.bean(Synchroniser.class).forget(real.id());
        }
    }

    private long messageCalled(String subject) {
        return cabinet.jdbc
                .sql(
                        "select coalesce(max(m.id), 0) from message m join message_head h on h.message_id = m.id where m.user_id = ? and h.subject = ?")
                .params(person.id(), subject)
                .query(Long.class)
                .single();
    }

    @Test
    void aMutedConversationGoesOnInTheArchiveUntilSomebodyWritesToOneAlone() {
        long first = arrives(from("anna@wharf.example", "The lift")
                .to(account.address() + ", " + "ben@wharf.example")
                .named("l1"));
        assertThat(browser.post("/noise/mute/" + first, "on", true).notice())
                .isEqualTo("Muted the conversation: 1 message archived");
        assertThat(folderOf(first)).isEqualTo("Archive");
        long second = arrives(from("ben@wharf.example", "Re: The lift")
                .to(account.address() + ", " + "anna@wharf.example")
                .named("l2", "l1")
                .at(Instant.now().plusSeconds(60)));
        assertThat(folderOf(second)).isEqualTo("Archive");
        assertThat(browser.part("/message/" + second, "sheet").text())
                .contains("Muted conversation", "you muted its conversation", "Unmute this conversation");
        assertThat(noise()).contains("The lift", "one more came");
        long alone = arrives(from("anna@wharf.example", "Re: The lift").named("l3", "l2"));
        assertThat(folderOf(alone)).isEqualTo("Inbox unread");
        long after = arrives(from("ben@wharf.example", "Re: The lift")
                .to(account.address() + ", " + "anna@wharf.example")
                .named("l4", "l3"));
        assertThat(folderOf(after)).as("it is not muted any more").isEqualTo("Inbox unread");
    }

    @Test
    void aRuleStillFilesWhatIsMutedAndUndoUnmutes() {
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "wharf.example", "Building"));
        long first = arrives(from("anna@wharf.example", "The lift")
                .to(account.address() + ", " + "ben@wharf.example")
                .named("m1"));
        browser.post("/noise/mute/" + first, "on", true);
        long second = arrives(from("ben@wharf.example", "Re: The lift")
                .to(account.address() + ", " + "anna@wharf.example")
                .named("m2", "m1"));
        assertThat(folderOf(second)).isEqualTo("Building");
        browser.post("/undo");
        assertThat(folderOf(first)).isEqualTo("Building unread");
        long third = arrives(from("ben@wharf.example", "Re: The lift")
                .to(account.address() + ", " + "anna@wharf.example")
                .named("m3", "m2"));
        assertThat(folderOf(third)).isEqualTo("Building unread");
    }

    @Test
    void conversationsThatTurnOutToBeOneAreMutedTogether() {
        long left = arrives(from("anna@wharf.example", "One thing")
                .to(account.address() + ", " + "ben@wharf.example")
                .named("j1"));
        arrives(from("ben@wharf.example", "Quite another")
                .to(account.address() + ", " + "anna@wharf.example")
                .named("j2"));
        browser.post("/noise/mute/" + left, "on", true);
        arrives(from("ben@wharf.example", "Both")
                .to(account.address() + ", " + "anna@wharf.example")
                .named("j3", "j1", "j2"));
        long later = arrives(from("ben@wharf.example", "Re: Quite another")
                .to(account.address() + ", " + "anna@wharf.example")
                .named("j4", "j2"));
        assertThat(folderOf(later)).isEqualTo("Archive");
        assertThat(office.bean(MutedStore.class).list(person.id())).hasSize(1);
    }

    private long letterOfAList(String headers) {
        String source =
                "From: news@circular.example\r\nTo: %s\r\nSubject: Circular 7\r\nList-Id: <circular.example>\r\n%s\r\nNews\r\n"
                        .formatted(account.address(), headers);
        long letter = cabinet.arrives(account, source.getBytes(StandardCharsets.UTF_8));
        cabinet.jdbc
                .sql("update message set received_at = now() where id = ?")
                .param(letter)
                .update();
        return letter;
    }

    @Test
    void aListIsLeftByOneRequest() {
        long letter = letterOfAList(BY_REQUEST.formatted("https://circular.example/leave?k=1"));
        assertThat(browser.part("/message/" + letter, "sheet").text()).contains("Leave this mailing list");
        office.listsAnswer(404);
        assertThat(browser.post("/noise/leave/" + letter).text()).contains("its server refuses (404)");
        assertThat(noise()).doesNotContain("Left today");
        office.listsAnswer(200);
        assertThat(browser.post("/noise/leave/" + letter).notice())
                .isEqualTo("Its server agreed to take you off the list.");
        assertThat(office.listsAsked()).last().hasToString("https://circular.example/leave?k=1");
        assertThat(noise()).contains("Left today", "Its server agreed");
        String acts = browser.get("/record/acts").text();
        assertThat(acts)
                .contains("Left the mailing list circular.example. Its server agreed to take you off the list.")
                .doesNotContain("Undo: Left");
        long junk = cabinet.places.special(person.id(), SpecialUse.JUNK);
        cabinet.filing.act(person.id(), Cause.HAND, "Junk", List.of(letter), state -> state.in(junk));
        assertThat(browser.part("/message/" + letter, "sheet").text())
                .as("who sends junk would learn that somebody reads it")
                .doesNotContain("Leave this mailing list");
    }

    @Test
    void aListIsLeftByMailWhereItWantsThat() throws Exception {
        String mailto = "List-Unsubscribe: <mailto:leave@circular.example?subject=off>\r\n";
        long letter = letterOfAList(mailto);
        assertThat(browser.post("/noise/leave/" + letter).text()).contains("no server to send from");
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            Account real = office.addAndImport(person, hosts, "TS");
            cabinet.jdbc
                    .sql("update message set account_id = ? where id = ?")
                    .params(real.id(), letter)
                    .update();
            cabinet.bean(CountStore.class).mend(person.id());
            assertThat(browser.post("/noise/leave/" + letter).notice())
                    .contains("A mail to leave@circular.example asks");
            assertThat(cabinet.jdbc
                            .sql("select sender || ' ' || recipients || ' ' || subject from outgoing where user_id = ?")
                            .param(person.id())
                            .query(String.class)
                            .list())
                    .containsExactly(real.address() + " leave@circular.example off");
            Await.until("it is sent", () -> !hosts.sentElsewhere().isEmpty());
            office.bean(Synchroniser.class).forget(real.id());
        }
    }

    @Test
    void aListThatWritesOnIsToldOf() {
        long letter = letterOfAList(BY_REQUEST.formatted("https://circular.example/leave"));
        browser.post("/noise/leave/" + letter);
        cabinet.jdbc
                .sql("update left_list set at = at - interval '11 days' where user_id = ?")
                .param(person.id())
                .update();
        cabinet.jdbc
                .sql("update message set received_at = now() where id = ?")
                .param(letter)
                .update();
        assertThat(noise()).contains("It still writes. Block it?");
        assertThat(browser.get("/today").page().select("main").text())
                .contains("A mailing list that you left still writes");
    }

    @Test
    void whatDoesNotSayHowIsNotLeft() {
        long letter = arrives(from("anna@wharf.example", "No list"));
        assertThat(browser.part("/message/" + letter, "sheet").text()).doesNotContain("Leave this mailing list");
        assertThat(browser.post("/noise/leave/" + letter).text()).contains("does not say how");
        Account elsewhere = cabinet.account(office.person().id(), "XX");
        long foreign = cabinet.arrives(elsewhere, from("anna@wharf.example", "Of somebody else"));
        assertThat(browser.post("/noise/leave/" + foreign).text()).contains("gone");
        assertThat(browser.post("/noise/mute/" + foreign, "on", true).text()).contains("not known yet");
    }
}
