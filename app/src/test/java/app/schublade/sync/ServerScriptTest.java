package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Text;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.mail.Credentials;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailHost;
import app.schublade.mail.ScriptConnection;
import app.schublade.standin.DovecotHost;
import app.schublade.store.account.Account;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.message.MessageStore;
import app.schublade.store.message.MessageStore.Filed;
import app.schublade.store.rule.ScriptStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rules on a real server: it files by itself, nothing is done twice, and it is given back as it was. */
@ExtendWith(Office.Extension.class)
class ServerScriptTest {
    private static final String OLD = "holidays";
    private static DovecotHost server;

    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Synchroniser synchroniser;
    private final ScriptKeeper keeper;
    private final ScriptStore scripts;
    private final String login;
    private final Account account;

    @BeforeAll
    static void start() {
        server = DovecotHost.start(DovecotHost.Shape.DOT);
    }

    @AfterAll
    static void stop() {
        server.close();
    }

    ServerScriptTest(Office office) throws Exception {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        synchroniser = office.bean(Synchroniser.class);
        keeper = office.bean(ScriptKeeper.class);
        scripts = office.bean(ScriptStore.class);
        keeper.stop(); // It goes its round when the test says so.
        login = server.user();
        account = office.bean(AccountAdder.class).add(person.id(), Office.draft("AB", host(server.imapPort())));
        Await.until("connected", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
    }

    @AfterEach
    void forget() {
        scripts.turnOff(account.id());
        synchroniser.forget(account.id());
        keeper.start();
    }

    /** As if some time had passed; on a busy machine the server may not answer in time, and is asked again then. */
    private void keeperComes() {
        comesAgain();
        Await.until("it has been there", () -> {
            boolean failed = is("trouble is not null and next_at > now()");
            if (failed) {
                comesAgain();
            }
            return is("checked_at >= now() - interval '1 minute'");
        });
    }

    private void comesAgain() {
        cabinet.jdbc.sql("""
                        update server_script set next_at = now(), checked_at = now() - interval '1 hour', trouble = null
                        where account_id = ?
                        """).param(account.id()).update();
        keeper.go();
    }

    private boolean is(String condition) {
        return cabinet.jdbc
                .sql("select " + condition + " from server_script where account_id = ?")
                .param(account.id())
                .query(Boolean.class)
                .single();
    }

    private ScriptStore.ServerScript there() {
        return scripts.of(account.id()).orElseThrow();
    }

    private MailHost host(int port) {
        return new MailHost("127.0.0.1", port, MailHost.Encryption.NONE, login);
    }

    private ScriptConnection connect() throws Exception {
        return ScriptConnection.open(
                host(server.scriptPort()), Credentials.password(DovecotHost.PASSWORD), Duration.ofSeconds(10));
    }

    private long rule(String name, Condition when, boolean last, Effect... effects) {
        return cabinet.rules.save(
                person.id(), new Rule(0, name, true, List.of(when), List.of(), List.of(effects), last));
    }

    private Effect into(String folder) {
        FolderPath path = FolderPath.parse(folder);
        return new Effect.FileInto(
                new FolderRef(cabinet.places.folder(person.id(), path).id(), path));
    }

    private void turnOn() throws Exception {
        keeper.turnOn(account, server.scriptPort(), MailHost.Encryption.NONE, true);
    }

    private void delivered(String subject) {
        server.deliver(login, """
                From: Anna <anna@wharf.example>
                To: %s@quay.example
                Subject: %s
                Message-ID: <%s@wharf.example>

                Hello.
                """.formatted(login, subject, subject.replace(' ', '.')));
    }

    private long arrived(String subject) {
        String sql = "select h.message_id from message_head h where h.account_id = ? and h.subject = ?";
        Await.until(
                subject + " is here",
                () -> !cabinet.jdbc
                        .sql(sql)
                        .params(account.id(), subject)
                        .query(Long.class)
                        .list()
                        .isEmpty());
        return cabinet.jdbc
                .sql(sql)
                .params(account.id(), subject)
                .query(Long.class)
                .single();
    }

    private List<Filed> filed(long message) {
        return office.bean(MessageStore.class).filed(person.id(), message);
    }

    @Test
    void whatTheServerFiledWhileNobodyLookedIsRecordedAndCanBeTakenBack() throws Exception {
        rule("Loans", Text.subject("loan"), false, into("Loans/Halden"), new Effect.MarkRead(true));
        turnOn();
        synchroniser.forget(account.id());
        delivered("A loan");
        synchroniser.serve(account);
        long message = arrived("A loan");
        assertThat(cabinet.lies(person.id(), message)).isEqualTo("Loans / Halden");
        assertThat(filed(message)).singleElement().satisfies(line -> {
            assertThat(line.ruleName()).isEqualTo("Loans");
            assertThat(line.reasons()).containsExactly("subject has “loan”");
        });
        assertThat(cabinet.waiting(account)).as("nothing is left to be done").isEmpty();
        ActOutcome undone = cabinet.undo.act(person.id(), filed(message).get(0).batch());
        assertThat(undone.changed()).containsExactly(message);
        assertThat(cabinet.lies(person.id(), message)).isEqualTo("Inbox");
        assertThat(cabinet.messages.row(person.id(), message).orElseThrow().unread())
                .isTrue();
    }

    @Test
    void whatTheServerDidIsNotDoneOnceMoreAndTheOtherRulesActHere() throws Exception {
        rule("Flag", Text.subject("crate"), false, new Effect.Flag(true));
        rule("Tell", Text.subject("crate"), false, new Effect.Notify(false));
        turnOn();
        assertThat(there().rules()).hasSize(1);
        long told = cabinet.notifications.last(person.id());
        delivered("A crate");
        long message = arrived("A crate");
        assertThat(filed(message)).extracting(Filed::ruleName).containsExactlyInAnyOrder("Flag", "Tell");
        assertThat(cabinet.messages.row(person.id(), message).orElseThrow().flagged())
                .isTrue();
        assertThat(cabinet.notifications.after(person.id(), told, 9)).hasSize(1);

        synchroniser.forget(account.id());
        delivered("Another crate");
        try (ImapConnection other =
                ImapConnection.open(host(server.imapPort()), DovecotHost.PASSWORD, Duration.ofSeconds(20))) {
            other.open("INBOX");
            other.mark(List.of(other.uids()[1]), "\\Flagged", false);
        }
        synchroniser.serve(account);
        long second = arrived("Another crate");
        assertThat(cabinet.messages.row(person.id(), second).orElseThrow().flagged())
                .as("the flag that somebody took off does not come back")
                .isFalse();
    }

    @Test
    void aRuleThatIsChangedIsChangedOnTheServerToo() throws Exception {
        long id = rule("Loans", Text.subject("loan"), false, into("Loans"));
        turnOn();
        rule("Crates", Text.subject("crate"), false, into("Crates"));
        cabinet.rules.turn(person.id(), id, false);
        keeperComes();
        assertThat(there().script()).contains("Crates").doesNotContain("Loans");
        delivered("A crate, a loan");
        assertThat(cabinet.lies(person.id(), arrived("A crate, a loan"))).isEqualTo("Crates");
    }

    @Test
    void mailForARuleThatNoServerCanCarryOutIsLeftToBeFiledHere() throws Exception {
        long first = rule("First", Text.subject("loan"), false, into("First"), new Effect.Notify(false));
        long second = rule("Second", Text.subject("a"), false, into("Second"));
        long third = rule("Third", Text.subject("a"), false, new Effect.Flag(true));
        turnOn();
        assertThat(there().rules()).containsExactly(first, second, third);
        assertThat(office.bean(ScriptMaker.class)
                        .write(account, scripts(account))
                        .remarks())
                .extracting(remark -> remark.rule().name() + ": " + remark.what())
                .contains("First: mail that may be for it is filed here: a server cannot notify");
        delivered("A loan");
        long message = arrived("A loan");
        assertThat(cabinet.lies(person.id(), message)).isEqualTo("First");
        assertThat(filed(message)).extracting(Filed::ruleName).contains("First", "Third");
        delivered("A crate");
        assertThat(cabinet.lies(person.id(), arrived("A crate"))).isEqualTo("Second");
    }

    private Set<String> scripts(Account one) {
        return Set.copyOf(scripts.of(one.id()).orElseThrow().extensions());
    }

    @Test
    void theServersOwnScriptRestsOnlyIfThatIsAgreedAndComesBack() throws Exception {
        try (ScriptConnection connection = connect()) {
            connection.put(OLD, "keep;\n");
            connection.activate(OLD);
        }
        assertThat(catchThrowable(() -> keeper.turnOn(account, server.scriptPort(), MailHost.Encryption.NONE, false)))
                .hasMessageContaining("“holidays”");
        assertThat(scripts.of(account.id())).isEmpty();
        turnOn();
        try (ScriptConnection connection = connect()) {
            assertThat(connection.scripts()).isEqualTo(Map.of(OLD, false, ScriptKeeper.NAME, true));
        }
        keeper.turnOff(account);
        try (ScriptConnection connection = connect()) {
            assertThat(connection.scripts()).isEqualTo(Map.of(OLD, true));
        }
        assertThat(scripts.of(account.id())).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "another, 'another script is active there, “holidays”'",
        "none, no script is active there",
        "changed, somebody has changed the script there"
    })
    void whatSomebodyElseDoesThereIsToldAndNotPutOver(String what, String told) throws Exception {
        rule("Loans", Text.subject("loan"), false, into("Loans"));
        turnOn();
        keeperComes();
        assertThat(there().watch().instead()).as("nothing has happened yet").isNull();
        try (ScriptConnection connection = connect()) {
            meddle(connection, what);
            Map<String, Boolean> left = connection.scripts();
            String text = connection.get(ScriptKeeper.NAME);
            rule("Crates", Text.subject("crate"), false, into("Crates"));
            keeperComes();
            assertThat(there().watch().instead()).isEqualTo(told);
            keeperComes();
            assertThat(connection.scripts()).isEqualTo(left);
            assertThat(connection.get(ScriptKeeper.NAME))
                    .as("the new rule is not put over it")
                    .isEqualTo(text);
            assertThat(scripts.thatDoSomethingElse(person.id())).containsExactly(account.id());

            keeper.putAgain(account);
            assertThat(there().watch().instead()).isNull();
            assertThat(connection.scripts()).containsEntry(ScriptKeeper.NAME, true);
            assertThat(connection.get(ScriptKeeper.NAME)).contains("Crates");
            if (what.equals("changed")) {
                assertThat(connection.get("schublade-changed")).isEqualTo(text);
            }
        }
    }

    private static void meddle(ScriptConnection connection, String what) throws Exception {
        switch (what) {
            case "another" -> {
                connection.put(OLD, "keep;\n");
                connection.activate(OLD);
            }
            case "none" -> connection.activate("");
            default -> connection.put(ScriptKeeper.NAME, "discard;\n");
        }
    }

    /** It was put there, and then the process or the database died before that was written down. */
    @Test
    void whatWasPutThereBeforeACrashIsNobodyElses() throws Exception {
        rule("Loans", Text.subject("loan"), false, into("Loans"));
        turnOn();
        cabinet.jdbc
                .sql("update server_script set script = 'keep;' where account_id = ?")
                .param(account.id())
                .update();
        keeperComes();
        assertThat(there().watch().instead()).isNull();
        assertThat(there().script()).contains("Loans");
    }

    @Test
    void whatComesBackByItselfIsInForceAgain() throws Exception {
        turnOn();
        try (ScriptConnection connection = connect()) {
            connection.activate("");
            keeperComes();
            assertThat(there().watch().instead()).isNotNull();
            connection.activate(ScriptKeeper.NAME);
            keeperComes();
            assertThat(there().watch().instead()).isNull();
        }
    }

    @Test
    void whatSomebodyElseMadeActiveStaysWhenTheRulesComeHome() throws Exception {
        turnOn();
        try (ScriptConnection connection = connect()) {
            meddle(connection, "another");
            keeper.turnOff(account);
            assertThat(connection.scripts()).isEqualTo(Map.of(OLD, true));
        }
    }
}
