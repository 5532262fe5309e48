package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.SentTo;
import app.schublade.core.place.FolderPath;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.standin.BrokenMail;
import app.schublade.standin.DovecotHost;
import app.schublade.standin.Gate;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.act.Cause;
import app.schublade.store.intake.AsideStore;
import app.schublade.store.intake.KeptStore;
import app.schublade.store.message.MessageStore;
import app.schublade.store.rule.RuleStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.io.ByteArrayOutputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** No message, no line and no server can stop an account: what is harmless arrives behind whatever is not. */
@ExtendWith(Office.Extension.class)
class HostileMailTest {
    private static DovecotHost server;

    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final String user;
    private final Gate gate;
    private Account account;

    HostileMailTest(Office office) throws Exception {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        user = server.user();
        gate = new Gate(0, server.imapPort());
        account = add();
    }

    @BeforeAll
    static void start() {
        server = DovecotHost.start(DovecotHost.Shape.SLASH);
    }

    @AfterAll
    static void stop() {
        server.close();
    }

    @AfterEach
    void forget() {
        office.bean(Synchroniser.class).forget(account.id());
        gate.close();
    }

    /** Not served yet: a test begins that when all is prepared. */
    private Account add() {
        return cabinet.accounts.add(person.id(), Office.draft("HM", host(gate.port())));
    }

    private MailHost host(int port) {
        return new MailHost("127.0.0.1", port, MailHost.Encryption.NONE, user);
    }

    private ImapConnection connect() throws Exception {
        return ImapConnection.open(host(server.imapPort()), DovecotHost.PASSWORD, Duration.ofSeconds(20));
    }

    private void serve() {
        account = cabinet.accounts.byId(account.id()).orElseThrow();
        office.bean(Synchroniser.class).serve(account);
    }

    private static byte[] mail(String subject, String text) {
        return "From: anna@wharf.example\r\nTo: me@quay.example\r\nSubject: %s\r\nMessage-ID: <%s@wharf.example>\r\n\r\n%s\r\n"
                .formatted(subject, subject, text)
                .getBytes(StandardCharsets.US_ASCII);
    }

    private List<String> subjects() {
        return cabinet.jdbc
                .sql("select subject from message_head where account_id = ?")
                .param(account.id())
                .query(String.class)
                .list();
    }

    private void arrives(String subject) {
        Await.until(subject + " arrives", () -> subjects().contains(subject));
    }

    @Test
    void whateverIsBrokenTheHarmlessOneBehindItArrives() throws Exception {
        int all = 0;
        try (ImapConnection other = connect()) {
            Random random = new Random(11);
            for (var shape : BrokenMail.shapes().values()) {
                other.append("INBOX", withoutNul(shape.apply(60_000)), Instant.now());
                all++;
            }
            for (int i = 0; i < 150; i++) {
                other.append("INBOX", withoutNul(BrokenMail.any(random)), Instant.now());
                all++;
            }
            other.append("INBOX", mail("harmless", "Hello"), Instant.now());
            serve();
            arrives("harmless");
            int expected = all + 1;
            Await.until("all of it is here", () -> subjects().size() == expected);
            Await.until("imported", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
            other.append("INBOX", mail("later", "Hello"), Instant.now());
            arrives("later");
            Await.until(
                    "all of it can be found",
                    () -> cabinet.jdbc
                                    .sql(
                                            "select count(*) from message_search s join message m on m.id = s.message_id where m.account_id = ?")
                                    .param(account.id())
                                    .query(Integer.class)
                                    .single()
                            == expected + 1);
        }
        assertThat(office.bean(KeptStore.class).of(person.id(), account.id()))
                .as("all of it could be read")
                .isEmpty();
    }

    /** A NUL cannot be handed in by IMAP (RFC 3501, section 9, CHAR8); that one is tested with the reader. */
    private static byte[] withoutNul(byte[] source) {
        byte[] clean = source.clone();
        for (int i = 0; i < clean.length; i++) {
            clean[i] = clean[i] == 0 ? (byte) ' ' : clean[i];
        }
        return clean.length == 0 ? new byte[] {'x'} : clean;
    }

    /** Whatever the database does not take in the place where a message stands, the others are stored, and it is as it came. */
    @Test
    void aMessageThatCannotBeStoredAsItWasReadIsKeptAsItCame() throws Exception {
        try (ImapConnection other = connect()) {
            other.append("INBOX", mail("first", "Hello"), Instant.now());
            other.append("INBOX", mail("poisoned", "Hello"), Instant.now());
            other.append("INBOX", mail("last", "Hello"), Instant.now());
        }
        String name = "no_poison_" + account.id();
        cabinet.jdbc
                .sql("alter table message_head add constraint %s check (account_id <> %d or subject <> 'poisoned')"
                        .formatted(name, account.id()))
                .update();
        try {
            serve();
            arrives("first");
            arrives("last");
            Await.until(
                    "it is kept",
                    () -> office.bean(KeptStore.class)
                                    .of(person.id(), account.id())
                                    .size()
                            == 1);
        } finally {
            cabinet.jdbc.sql("alter table message_head drop constraint " + name).update();
        }
        KeptStore.Kept kept =
                office.bean(KeptStore.class).of(person.id(), account.id()).get(0);
        assertThat(kept.reason()).contains("could not be stored");
        assertThat(new String(cabinet.messages.source(person.id(), kept.id()).orElseThrow(), StandardCharsets.US_ASCII))
                .contains("Subject: poisoned");
        cabinet.jdbc
                .sql("update kept_as_it_came set reader = 0 where message_id = ?")
                .param(kept.id())
                .update();
        serve();
        arrives("poisoned");
        assertThat(office.bean(KeptStore.class).of(person.id(), account.id()))
                .as("read by the next version")
                .isEmpty();
        assertThat(cabinet.messages
                        .row(person.id(), kept.id())
                        .orElseThrow()
                        .sender()
                        .email())
                .isEqualTo("anna@wharf.example");
    }

    @Test
    void aRuleThatCannotBeReadIsBlamedOnNoMessage() throws Exception {
        serve();
        try (ImapConnection other = connect()) {
            other.append("INBOX", mail("before", "Hello"), Instant.now());
            arrives("before");
            office.bean(RuleStore.class)
                    .save(
                            person.id(),
                            new Rule(
                                    0,
                                    "Some",
                                    true,
                                    List.of(new SentTo(List.of(user))),
                                    List.of(),
                                    List.of(new Effect.MarkRead(true)),
                                    false));
            cabinet.jdbc
                    .sql(
                            "update rule set conditions = '{\"when\": [{\"nonsense\": 1}], \"unless\": []}' where user_id = ?")
                    .param(person.id())
                    .update();
            other.append("INBOX", mail("meanwhile", "Hello"), Instant.now());
            Await.until(
                    "the account says that something is wrong",
                    () -> cabinet.accounts
                            .byId(account.id())
                            .orElseThrow()
                            .status()
                            .isTrouble());
            assertThat(subjects()).containsExactly("before");
            cabinet.jdbc
                    .sql("delete from rule where user_id = ?")
                    .param(person.id())
                    .update();
            serve();
            arrives("meanwhile");
            assertThat(office.bean(KeptStore.class).of(person.id(), account.id()))
                    .isEmpty();
        }
    }

    @Test
    void aMessageThatTheServerDoesNotGiveIsPutAside() throws Exception {
        try (ImapConnection other = connect()) {
            for (int i = 0; i < 60; i++) {
                other.append("INBOX", mail(i == 30 ? "X-Poison" : "m" + i, "Hello"), Instant.now());
            }
            gate.breakAt("X-Poison");
            serve();
            Await.until("all others are here", () -> subjects().size() == 59);
            Await.until(
                    "it is put aside",
                    () -> !office.bean(AsideStore.class)
                            .of(person.id(), account.id())
                            .isEmpty());
            Await.until("connected", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
            other.append("INBOX", mail("new", "Hello"), Instant.now());
            arrives("new");
            gate.breakAt("");
            office.bean(AsideStore.class).again(account.id());
            serve();
            arrives("X-Poison");
            assertThat(office.bean(AsideStore.class).of(person.id(), account.id()))
                    .isEmpty();
        }
        assertThat(subjects()).hasSize(61).doesNotHaveDuplicates();
    }

    @Test
    void aFolderThatBreaksTheConnectionKeepsNothingWaiting() throws Exception {
        try (ImapConnection other = connect()) {
            String bad = other.create(FolderPath.parse("Bad"));
            String good = other.create(FolderPath.parse("Good"));
            other.append(bad, mail("bad", "Hello"), Instant.now());
            other.open(bad);
            other.mark(List.of(1L), "X-Break", true);
            serve();
            arrives("bad");
            Await.until("connected", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
            gate.breakAt("X-Break");
            long message = cabinet.jdbc
                    .sql("select message_id from message_head where account_id = ? and subject = 'bad'")
                    .param(account.id())
                    .query(Long.class)
                    .single();
            cabinet.filing.act(person.id(), Cause.HAND, "Flag", List.of(message), state -> state.flagged(true));
            other.append(bad, mail("bad too", "Hello"), Instant.now());
            other.append(good, mail("good", "Hello"), Instant.now());
            other.append("INBOX", mail("new", "Hello"), Instant.now());
            serve();
            arrives("new");
            arrives("good");
            assertThat(office.bean(AsideStore.class).of(person.id(), account.id()))
                    .singleElement()
                    .satisfies(one -> assertThat(one.folder()).isEqualTo(bad));
            gate.breakAt("");
            office.bean(AsideStore.class).again(account.id());
            serve();
            arrives("bad too");
            Await.until("the flag is told", () -> {
                other.open(bad);
                return other.sightings(1).get(0).flagged();
            });
        }
    }

    /** A worker is ended in the middle of its work whenever its account is tried again, and that is no server's fault. */
    @Test
    void whatIsCutFromHereIsBlamedOnNoFolder() throws Exception {
        try (ImapConnection other = connect()) {
            other.append(other.create(FolderPath.parse("Good")), mail("good", "Hello"), Instant.now());
        }
        serve();
        arrives("good");
        office.bean(Synchroniser.class).forget(account.id());
        WorkerTools tools = office.bean(WorkerTools.class);
        Mailbox good = tools.mailboxes().of(account.id()).stream()
                .filter(one -> one.serverName().equals("Good"))
                .findAny()
                .orElseThrow();
        ImapConnection cut = connect();
        cut.close();
        FolderDoors doors = new FolderDoors(account, tools, cut);
        for (int i = 0; i < 5; i++) {
            assertThatThrownBy(() -> doors.open(good)).isInstanceOf(MailException.class);
        }
        assertThat(office.bean(AsideStore.class).of(person.id(), account.id())).isEmpty();
    }

    /** Of a very large message the beginning is kept, and said to be that; the whole comes from the server. */
    @Test
    void aVeryLargeMessageIsHandedOnWhole() throws Exception {
        byte[] large = mail("large", "A line of some length, to fill it with.\r\n".repeat(600_000));
        try (ImapConnection other = connect()) {
            other.append("INBOX", large, Instant.now());
        }
        serve();
        arrives("large");
        long id = cabinet.jdbc
                .sql("select message_id from message_head where account_id = ?")
                .param(account.id())
                .query(Long.class)
                .single();
        MessageStore.MissingPart rest = cabinet.messages.rest(person.id(), id).orElseThrow();
        assertThat(rest.size()).isEqualTo(large.length);
        assertThat(rest.here()).isEqualTo(Intake.MAX_BYTES);
        ByteArrayOutputStream whole = new ByteArrayOutputStream();
        try (WholeMessages.WholeMessage open = office.bean(WholeMessages.class).open(rest)) {
            open.copyTo(whole);
        }
        assertThat(Arrays.equals(whole.toByteArray(), large)).isTrue();
        cabinet.jdbc
                .sql("update server_copy set uid = uid + 100 where message_id = ?")
                .param(id)
                .update();
        MessageStore.MissingPart gone = cabinet.messages.rest(person.id(), id).orElseThrow();
        try (WholeMessages.WholeMessage open = office.bean(WholeMessages.class).open(gone)) {
            assertThatThrownBy(() -> open.copyTo(OutputStream.nullOutputStream()))
                    .hasMessageContaining("0 of");
        }
    }

    /** Then it is the server, and no message is put aside for an hour because of it. */
    @Test
    void whereNothingIsGivenNoMessageIsToBlame() {
        FetchPace pace = new FetchPace(() -> {});
        for (int i = 0; i < 30; i++) {
            pace.broke(0);
            assertThat(pace.blame()).isTrue();
        }
        assertThat(pace.blame()).isFalse();
        assertThat(pace.size()).isEqualTo(1);
        pace.wentWell();
        assertThat(pace.blame()).isTrue();
        assertThat(pace.size()).isEqualTo(2);
    }

    @ParameterizedTest
    @CsvSource({"30000, 50", "100000, 150"})
    void aLineThatBreaksAllTheTimeBringsEverything(int bytes, int messages) throws Exception {
        try (ImapConnection other = connect()) {
            for (int i = 0; i < messages; i++) {
                other.append(
                        "INBOX", mail("m" + i, "A line of some length, to fill it.\r\n".repeat(100)), Instant.now());
            }
        }
        gate.hangUpAfter(bytes);
        serve();
        Await.until("all of it is here", () -> subjects().size() == messages);
        assertThat(subjects()).doesNotHaveDuplicates();
    }
}
