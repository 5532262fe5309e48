package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.place.Tone;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.message.MessageStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Mail by POP3: never lost, never doubled, whatever server, settings and line do. */
@ExtendWith(Office.Extension.class)
class PopLookTest {
    private static final int MAX_BYTES = 20_000;
    private static final LocalDate SINCE = LocalDate.of(2026, 1, 1);

    private final Office office;
    private final Cabinet cabinet;
    private final WorkerTools tools;
    private final CurrentUser person;
    private final ScriptedPop server;
    private Account account;

    PopLookTest(Office office) throws Exception {
        this.office = office;
        cabinet = Cabinet.of(office);
        tools = office.bean(WorkerTools.class);
        person = office.person();
        server = new ScriptedPop();
        account = add();
    }

    @BeforeEach
    void noApplicationServesIt() {
        cabinet.jdbc
                .sql(
                        "update account set lease_owner = 'a test', lease_until = now() + interval '1 day', version = version + 1 where id = ?")
                .param(account.id())
                .update();
    }

    @AfterEach
    void close() throws Exception {
        server.close();
        office.bean(AccountStore.class).remove(person.id(), account.id());
    }

    private Account add() {
        return cabinet.accounts.add(
                person.id(),
                new Account.Draft(
                        "PO",
                        "By POP3",
                        Tone.PETROL,
                        "pop" + person.id() + "@quay.example",
                        List.of(),
                        new Account.Hosts(
                                Account.Protocol.POP3,
                                new MailHost("127.0.0.1", server.port(), MailHost.Encryption.NONE, "pop"),
                                null,
                                Credentials.CredentialKind.PASSWORD),
                        Account.Settings.USUAL,
                        "secret"));
    }

    private void settings(boolean keep, @Nullable LocalDate since) {
        cabinet.jdbc
                .sql("update account set keep_on_server = :keep, import_since = :since where id = :id")
                .param("keep", keep)
                .param("since", since)
                .param("id", account.id())
                .update();
        account = cabinet.accounts.byId(account.id()).orElseThrow();
    }

    private void look() throws MailException {
        new PopLook(account, tools, MAX_BYTES, () -> {}).look(Credentials.password("secret"), Duration.ofSeconds(10));
    }

    private static String mail(String id, String date, int bytes) {
        return """
                From: anna@wharf.example
                To: me@quay.example
                Subject: %s
                Message-ID: <%s@wharf.example>
                Date: %s

                %s""".formatted(id, id, date, "a line of some length, to fill it\n".repeat(bytes / 34 + 1));
    }

    private static String recent(String id) {
        return mail(id, "Mon, 23 Nov 2026 08:00:00 +0000", 100);
    }

    private static String old(String id) {
        return mail(id, "Fri, 23 Nov 2018 08:00:00 +0000", 100);
    }

    private static String large(String id) {
        return mail(id, "Mon, 23 Nov 2026 08:00:00 +0000", 3 * MAX_BYTES);
    }

    /** Subjects of all that is stored, as often as it is. */
    private List<String> stored() {
        return cabinet.jdbc
                .sql("select h.subject from message_head h where h.account_id = ? order by h.subject, h.message_id")
                .param(account.id())
                .query(String.class)
                .list();
    }

    private List<String> storedWhole() {
        return cabinet.jdbc.sql("""
                        select h.message_id from message_head h join message_source s on s.message_id = h.message_id
                        where h.account_id = ? and s.whole
                        """).param(account.id()).query(Long.class).list().stream()
                .map(id -> office.bean(MessageStore.class)
                        .source(person.id(), id)
                        .map(source -> new String(source, StandardCharsets.ISO_8859_1))
                        .orElseThrow())
                .map(String::strip)
                .toList();
    }

    @Test
    void whatIsOlderThanTheImportStaysOnAServerThatDoesNotKeepMail() throws Exception {
        settings(false, SINCE);
        server.put("1", old("a"));
        server.put("2", old("b"));
        server.put("3", recent("c"));
        look();
        look();
        assertThat(stored()).containsExactly("c");
        assertThat(server.sources()).hasSize(2);
    }

    @Test
    void whatIsTooLargeToBeKeptWholeStaysOnTheServer() throws Exception {
        settings(false, null);
        server.put("1", large("a"));
        server.put("2", recent("b"));
        look();
        look();
        assertThat(stored()).containsExactly("a", "b");
        assertThat(server.sources()).hasSize(1);
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void newIdsForAllMessagesDoubleNothing(boolean withHeaders) throws Exception {
        settings(true, null);
        for (int i = 0; i < 50; i++) {
            server.put("old" + i, recent("m" + i));
        }
        look();
        List<String> before = stored();
        server.renumber("new");
        server.put("extra", recent("z"));
        server.showHeaders(withHeaders);
        look();
        assertThat(stored()).hasSize(51).containsAll(before).contains("z");
        server.renumber("newer");
        look();
        assertThat(stored()).hasSize(51);
    }

    @Test
    void anIdThatIsGivenToAnotherMessageIsNotTakenForTheOneThatWasRemoved() throws Exception {
        settings(false, null);
        server.put("1", recent("a"));
        look();
        assertThat(server.sources()).isEmpty();
        server.put("1", recent("b"));
        look();
        look();
        assertThat(stored()).containsExactly("a", "b");
        assertThat(server.sources()).isEmpty();
    }

    @Test
    void rulesActOnNewMailThoughEverythingBeforeIsGone() throws Exception {
        settings(true, SINCE);
        server.put("1", old("a"));
        server.put("2", old("b"));
        look();
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "wharf.example", "Caught"));
        server.put("3", recent("c"));
        look();
        assertThat(cabinet.counts(person.id(), "Caught")).isEqualTo("1/1");
    }

    @Test
    void aMessageThatTheServerDoesNotGiveIsPutAsideAndTheNextOnesCome() throws Exception {
        settings(true, null);
        server.put("1", recent("a"));
        server.put("bad", recent("b"));
        server.put("3", recent("c"));
        server.withhold("bad");
        for (int i = 0; i < 3; i++) {
            assertThatThrownBy(this::look).isInstanceOf(MailException.class);
            assertThat(stored()).as("what came before it counts").containsExactly("a");
        }
        look();
        assertThat(stored()).containsExactly("a", "c");
        assertThat(tools.aside().of(person.id(), account.id())).singleElement().satisfies(one -> {
            assertThat(one.name()).isEqualTo("bad");
            assertThat(one.reason()).contains("fetch a message");
        });
        server.withhold("");
        tools.aside().again(account.id());
        look();
        assertThat(stored()).containsExactly("a", "b", "c");
        assertThat(tools.aside().of(person.id(), account.id())).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "-ERR [IN-USE] locked by another, AWAY",
        "-ERR [SYS/TEMP] try later, AWAY",
        "-ERR [LOGIN-DELAY] too often, AWAY",
        "'', AWAY",
        "-ERR [SYS/PERM] ask the administrator, NOT_PERMITTED",
        "-ERR [AUTH] wrong password, LOGIN_REFUSED",
        "-ERR wrong password, LOGIN_REFUSED"
    })
    void onlyAnAnswerAboutThePasswordIsTakenForOne(String answer, MailException.FailureKind kind) {
        server.toPassword(answer);
        assertThatThrownBy(this::look)
                .isInstanceOfSatisfying(
                        MailException.class, e -> assertThat(e.kind()).isEqualTo(kind));
    }

    /** All that a server, a user and a line can do, in any order. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void everyMessageIsOnTheServerOrWholeHereAndNeverTwice(long seed) throws Exception {
        Random random = new Random(seed);
        Set<String> delivered = new TreeSet<>();
        for (int step = 0; step < 60; step++) {
            switch (random.nextInt(8)) {
                case 0, 1, 2 -> {
                    String id = "s" + step;
                    List<String> kinds = List.of(recent(id), old(id), large(id));
                    server.put("u" + step, kinds.get(random.nextInt(kinds.size())));
                    delivered.addAll(server.sources());
                }
                case 3 -> settings(random.nextBoolean(), random.nextBoolean() ? SINCE : null);
                case 4 -> server.renumber("r" + step + "-");
                case 5 -> {
                    server.hangUpAfter(random.nextInt(4000));
                    tryToLook();
                    server.hangUpAfter(Long.MAX_VALUE);
                }
                default -> tryToLook();
            }
            Set<String> safe = new TreeSet<>(storedWhole());
            server.sources().forEach(source -> safe.add(source.strip()));
            assertThat(safe)
                    .as("seed %d, step %d", seed, step)
                    .containsAll(delivered.stream().map(String::strip).toList());
            assertThat(stored()).as("seed %d, step %d", seed, step).doesNotHaveDuplicates();
        }
        settings(true, null);
        look();
        List<String> subjects = new ArrayList<>(stored());
        assertThat(subjects).as("seed %d: all that was recent is here", seed).containsAll(recentOf(delivered));
    }

    private static List<String> recentOf(Set<String> delivered) {
        return delivered.stream()
                .filter(source -> source.contains("2026"))
                .map(source -> source.lines()
                        .filter(line -> line.startsWith("Subject"))
                        .findFirst()
                        .orElseThrow())
                .map(line -> line.substring("Subject: ".length()))
                .toList();
    }

    private void tryToLook() {
        try {
            look();
        } catch (MailException e) {
            // The line broke; the next look goes on.
        }
    }
}
