package app.schublade.store.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Verdict;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderRef;
import app.schublade.mail.MailHost;
import app.schublade.store.account.Account;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.user.NotificationStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What rules do besides changing a message: they copy it, and tell of it. */
@ExtendWith(Cabinet.Extension.class)
class RuleDeedsTest {
    private final Cabinet cabinet;
    private final long user;
    private final Account account;
    private final FolderRef loans;
    private final FolderRef board;

    RuleDeedsTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        user = cabinet.user();
        account = cabinet.account(user, "MU");
        loans = cabinet.folder(user, "Loans");
        board = cabinet.folder(user, "Board");
    }

    private Rule rule(Effect... effects) {
        Rule rule = new Rule(
                0,
                "For the board",
                true,
                List.of(Correspondent.sender("halden.example")),
                List.of(),
                List.of(effects),
                false);
        return cabinet.rules.byId(user, cabinet.rules.save(user, rule)).orElseThrow();
    }

    private long arrives(String subject) {
        return cabinet.arrives(account, TestMail.from("Halden <office@halden.example>", subject));
    }

    private String counts(String folder) {
        return cabinet.counts(user, folder);
    }

    @Test
    void whatIsKeptIsReadAgain() {
        Rule kept = rule(new Effect.CopyInto(board), new Effect.FileInto(loans));
        assertThat(kept.then()).containsExactly(new Effect.CopyInto(board), new Effect.FileInto(loans));
        assertThat(kept.sentence()).endsWith("→ copy into Board, file into Loans");
    }

    @Test
    void newMailIsFiledAndItsCopyIsAsTheMessageIs() {
        rule(new Effect.CopyInto(board), new Effect.FileInto(loans), new Effect.MarkRead(true));
        long message = arrives("Loan form");
        assertThat(cabinet.lies(user, message)).isEqualTo("Loans");
        assertThat(counts("Loans")).isEqualTo("1/0");
        assertThat(counts("Board")).isEqualTo("1/0");
        assertThat(cabinet.waiting(account)).contains("COPY %d Board".formatted(message));
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    @Test
    void theCopyIsRecordedWithItsRuleAndItsReason() {
        rule(new Effect.CopyInto(board));
        long message = arrives("Loan form");
        assertThat(cabinet.lies(user, message)).isEqualTo("Inbox");
        long copy = cabinet.jdbc
                .sql("select id from message where folder_id = ?")
                .param(board.id())
                .query(Long.class)
                .single();
        assertThat(cabinet.messages.filed(user, copy)).singleElement().satisfies(filed -> {
            assertThat(filed.ruleName()).isEqualTo("For the board");
            assertThat(filed.reasons()).containsExactly("from halden.example");
        });
    }

    @Test
    void aRunOverOldMailCopiesOnceHoweverOftenItIsRun() {
        long message = arrives("Loan form");
        Rule rule = rule(new Effect.CopyInto(board));
        Map<Long, List<Verdict.Hit>> hits =
                Map.of(message, List.of(new Verdict.Hit(rule, 1, List.of("x"), rule.then(), List.of())));
        ActOutcome first = cabinet.copier.run(user, "Run", hits, 0);
        assertThat(first.changed()).hasSize(1);
        assertThat(counts("Board")).isEqualTo("1/1");
        assertThat(cabinet.copier.run(user, "Run", hits, 0).changed()).isEmpty();
        assertThat(counts("Board")).isEqualTo("1/1");
        cabinet.undo.act(user, first.batch());
        assertThat(counts("Board")).isEqualTo("0/0");
        assertThat(counts("Inbox")).isEqualTo("1/1");
    }

    @Test
    void twoRulesThatWantTheSameCopyGetOne() {
        rule(new Effect.CopyInto(board));
        rule(new Effect.CopyInto(board), new Effect.CopyInto(loans));
        arrives("Loan form");
        assertThat(counts("Board")).isEqualTo("1/1");
        assertThat(counts("Loans")).isEqualTo("1/1");
    }

    @Test
    void nothingIsCopiedIntoTheFolderThatItIsFiledInto() {
        rule(new Effect.CopyInto(loans), new Effect.FileInto(loans));
        arrives("Loan form");
        assertThat(counts("Loans")).isEqualTo("1/1");
    }

    @Test
    void aRuleTellsOfNewMailOnceAndOfNothingElse() {
        NotificationStore notifications = cabinet.notifications;
        long before = notifications.last(user);
        rule(new Effect.Notify(false));
        rule(new Effect.Notify(true), new Effect.FileInto(loans));
        long message = arrives("The ferry is late");
        cabinet.arrives(account, TestMail.from("Anna <anna@wharf.example>", "Lunch"));
        assertThat(notifications.after(user, before, 9)).singleElement().satisfies(one -> {
            assertThat(one.message()).isEqualTo(message);
            assertThat(one.subject()).isEqualTo("The ferry is late");
            assertThat(one.sound()).isTrue();
        });
        assertThat(notifications.after(user, notifications.last(user), 9)).isEmpty();
        assertThat(notifications.after(cabinet.user(), 0, 9)).isEmpty();
        Rule rule = rule(new Effect.Notify(true));
        copiesNothing(new Verdict.Hit(rule, 1, List.of(), rule.then(), List.of()), message);
    }

    private void copiesNothing(Verdict.Hit hit, long message) {
        long last = cabinet.notifications.last(user);
        assertThat(cabinet.copier
                        .run(user, "Run", Map.of(message, List.of(hit)), 0)
                        .changed())
                .isEmpty();
        assertThat(cabinet.notifications.last(user)).isEqualTo(last);
    }

    @Test
    void newMailIsForwardedAndTheRecordSaysSo() {
        Account own = cabinet.account(user, "FW");
        Effect forward = new Effect.Forward("Anna <anna@wharf.example>", true, "For you\nTilda");
        assertThat(rule(forward).then()).containsExactly(forward);
        TestMail letter = TestMail.from("Halden <office@halden.example>", "Dates");
        long unsent = cabinet.arrives(own, letter);
        assertThat(did(unsent)).containsExactly("not forwarded: Account FW has no server to send from");
        MailHost host = new MailHost("127.0.0.1", 25, MailHost.Encryption.NONE, "FW");
        cabinet.accounts.moveHosts(user, own.address(), host, host);
        long message = cabinet.arrives(cabinet.accounts.byId(own.id()).orElseThrow(), letter);
        assertThat(did(message)).containsExactly("forwarded to Anna <anna@wharf.example>");
        assertThat(cabinet.lies(user, message)).isEqualTo("Inbox");
        assertThat(cabinet.outgoing.of(user)).singleElement().satisfies(one -> {
            assertThat(one.text().to()).isEqualTo("Anna <anna@wharf.example>");
            assertThat(one.text().subject()).isEqualTo("Fwd: Dates");
            assertThat(one.forwards()).isEqualTo(new OutgoingStore.Forwards(message, true));
            assertThat(cabinet.sending.source(one.id()))
                    .hasValueSatisfying(source -> assertThat(new String(source, StandardCharsets.US_ASCII))
                            .contains("Content-Type: message/rfc822", "office@halden.example", "For you"));
        });
    }

    private List<String> did(long message) {
        return cabinet.messages.filed(user, message).get(0).besides();
    }

    @Test
    void aSenderIsAnsweredOnceAWeekByEachRule() {
        Account own = cabinet.account(user, "TS", "tour@quay.example");
        Rule rule = rule(new Effect.Answer("I am away.\nTilda"));
        assertThat(rule.then()).containsExactly(new Effect.Answer("I am away.\nTilda"));
        TestMail letter =
                TestMail.from("Halden <office@halden.example>", "Dates").to("tour@quay.example");
        cabinet.arrives(own, letter);
        cabinet.arrives(own, letter);
        cabinet.arrives(own, letter.to("somebody@elsewhere.example"));
        assertThat(cabinet.outgoing.of(user)).singleElement().satisfies(one -> {
            assertThat(one.state()).isEqualTo(OutgoingStore.OutgoingState.WAITING);
            assertThat(one.text().to()).isEqualTo("Halden <office@halden.example>");
            assertThat(one.text().sender()).isEqualTo("tour@quay.example");
            assertThat(one.text().subject()).isEqualTo("Auto: Dates");
            assertThat(cabinet.sending.source(one.id()))
                    .hasValueSatisfying(source -> assertThat(new String(source, StandardCharsets.US_ASCII))
                            .contains("Auto-Submitted: auto-replied", "I am away"));
            assertThat(cabinet.outgoing.recall(user, one.id()))
                    .as("for a minute")
                    .isTrue();
        });
        cabinet.jdbc.sql("update rule_answer set at = at - interval '8 days'").update();
        cabinet.arrives(own, letter);
        assertThat(cabinet.outgoing.of(user)).hasSize(2);
    }

    @Test
    void aCategoryFlagsByRuleAsByHand() {
        CategoryRef soon = cabinet.places.category(user, "Soon");
        cabinet.jdbc
                .sql("update category set due_days = 3 where id = ?")
                .param(soon.id())
                .update();
        assertThat(rule(new Effect.Categorise(soon)).then())
                .containsExactly(new Effect.Categorise(new CategoryRef(soon.id(), "Soon", 3)));
        long message = arrives("Loan form");
        assertThat(cabinet.jdbc
                        .sql("""
                                select category_id = :soon and flagged and due_on = received_at::date + 3
                                from message where id = :message
                                """)
                        .param("soon", soon.id())
                        .param("message", message)
                        .query(Boolean.class)
                        .single())
                .isTrue();
    }
}
