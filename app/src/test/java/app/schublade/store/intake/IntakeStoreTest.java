package app.schublade.store.intake;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.query.Query;
import app.schublade.mail.FolderStatus;
import app.schublade.mail.Opened;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.filing.MessageRemoval;
import app.schublade.store.find.SearchWorlds;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.ListStore;
import app.schublade.store.message.RuleInputStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

@ExtendWith(Cabinet.Extension.class)
class IntakeStoreTest {
    private final Cabinet cabinet;
    private long user;
    private Account account;
    private Mailbox inbox;

    IntakeStoreTest(Cabinet cabinet) {
        this.cabinet = cabinet;
    }

    @BeforeEach
    void somebody() {
        user = cabinet.user();
        account = cabinet.account(user, "MU", "loans@quay.example");
        inbox = cabinet.inbox(account);
    }

    @Test
    void keepsWhatListsReadersAndRulesNeed() {
        TestMail letter = TestMail.from("Ottoline Grebe <o.grebe@grebe.example>", "Crack in the deck")
                .to("loans@quay.example")
                .saying("The rigging  has\nslackened.");
        long id = cabinet.arrives(account, letter);

        ListRow row = cabinet.messages.row(user, id).orElseThrow();
        assertThat(row.sender().shown()).isEqualTo("Ottoline Grebe");
        assertThat(row.subject()).isEqualTo("Crack in the deck");
        assertThat(row.snippet()).isEqualTo("The rigging has slackened.");
        assertThat(row.alias()).isEqualTo("loans@quay.example");
        assertThat(row.received()).isEqualTo(Cabinet.MORNING);
        assertThat(new String(cabinet.messages.source(user, id).orElseThrow(), StandardCharsets.UTF_8))
                .contains("Subject: Crack in the deck\r\n", "slackened.");
        RuleInputStore.RuleCandidate subject =
                cabinet.subjects.subject(user, id).orElseThrow();
        assertThat(subject.message().sentTo()).containsExactly("loans@quay.example");
        assertThat(subject.state().folder()).isEqualTo(cabinet.places.inbox(user));
    }

    @Test
    void aMessageThatIsThereAlreadyIsPassedOver() {
        Incoming incoming = cabinet.incoming(account, inbox, TestMail.from("a@b.example", "Once"), 501);
        assertThat(cabinet.intake.store(account, inbox, List.of(incoming))).isEqualTo(1);
        assertThat(cabinet.intake.store(account, inbox, List.of(incoming))).isZero();
        assertThat(cabinet.counts(user, "Inbox")).isEqualTo("1/1");
    }

    @Test
    void aBatchThatFailsLeavesNothingBehind() {
        Incoming good = cabinet.incoming(account, inbox, TestMail.from("a@b.example", "Good"), 601);
        Mailbox gone = new Mailbox(-1, account.id(), inbox.folderId(), "Gone", "Gone", false, 1L, 1, true, false, null);
        assertThat(org.assertj.core.api.Assertions.catchThrowable(
                        () -> cabinet.intake.store(account, gone, List.of(good))))
                .isNotNull();
        assertThat(cabinet.counts(user, "Inbox")).isIn("0/0", "none");
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    @Test
    void textIsFoundOnceItIsIndexed() {
        long id = cabinet.arrives(
                account,
                TestMail.from("Ines <i@b.example>", "Größe der Kiste").saying("Bitte die Maße der Galionsfigur."));
        assertThat(found("galionsfigur")).isEmpty();
        assertThat(cabinet.index.index(account.id(), 100)).isEqualTo(1);
        assertThat(cabinet.index.index(account.id(), 100)).isZero();
        for (String words : List.of("galionsfigur", "GALIONSFIGUR maße", "ines", "größe")) {
            assertThat(found(words)).as(words).containsExactly(id);
        }
        assertThat(found("galion kanone")).isEmpty();
        assertThat(found("'; drop table message; --")).isEmpty();
    }

    private Query search(String words) {
        return cabinet.bean(SearchWorlds.class).read(user, words).query();
    }

    private List<Long> found(String words) {
        return cabinet.lists.page(user, ListStore.Ranks.NONE, ListQuery.newest(search(words), 10)).stream()
                .map(line -> line.row().id())
                .toList();
    }

    @Test
    void whatIsGoneFromTheServerIsRemovedWithItsCounts() {
        long one = cabinet.arrives(account, TestMail.from("a@b.example", "One"));
        long two = cabinet.arrives(account, TestMail.from("a@b.example", "Two"));
        cabinet.filing.act(user, Cause.HAND, "Flag", List.of(one), state -> state.flagged(true));

        cabinet.bean(MessageRemoval.class).remove(account.userId(), Set.of(one));

        assertThat(cabinet.messages.row(user, one)).isEmpty();
        assertThat(cabinet.messages.row(user, two)).isPresent();
        for (String table : List.of("message_head", "message_text", "message_source", "server_copy")) {
            assertThat(cabinet.jdbc
                            .sql("select message_id from " + table + " where message_id in (?, ?)")
                            .params(one, two)
                            .query(Long.class)
                            .list())
                    .as(table)
                    .containsExactly(two);
        }
        assertThat(cabinet.counts(user, "Inbox")).isEqualTo("1/1");
        assertThat(cabinet.waiting(account)).isEmpty();
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    @Test
    void aMessageThatLeftItsFolderIsKnownAgainByIdAndSize() {
        TestMail letter = TestMail.from("a@b.example", "Wanderer");
        Incoming incoming = cabinet.incoming(account, inbox, letter, 700);
        cabinet.intake.store(account, inbox, List.of(incoming));
        long id = cabinet.messageAt(inbox, 700).orElseThrow();
        Mailbox other = cabinet.mailbox(account, "Loans");
        assertThat(cabinet.intake.liesElsewhere(other, "m700@quay.example", incoming.size()))
                .isTrue();
        assertThat(cabinet.intake.liesElsewhere(inbox, "m700@quay.example", incoming.size()))
                .isFalse();

        cabinet.copies.vanished(id);
        assertThat(cabinet.copies.strays(account.id())).containsExactly(id);
        assertThat(cabinet.intake.straysLike(account.id(), "m700@quay.example", incoming.size()))
                .containsExactly(id);
        assertThat(cabinet.intake.straysLike(account.id(), "m700@quay.example", 1))
                .isEmpty();

        cabinet.copies.locate(id, other.id(), 3);
        assertThat(cabinet.copies.strays(account.id())).isEmpty();
        assertThat(cabinet.copies.uids(other.id())).containsExactly(3L);
    }

    @Test
    void aRenumberedFolderKeepsItsMessagesAsStrays() {
        long id = cabinet.arrives(account, TestMail.from("a@b.example", "One"));
        Mailbox renumbered =
                cabinet.mailboxes.opened(inbox, new Opened("INBOX", new FolderStatus(99, 5, 1, 0), true), 5);
        assertThat(renumbered.uidValidity()).isEqualTo(99L);
        assertThat(cabinet.copies.uids(renumbered.id())).isEmpty();
        assertThat(cabinet.copies.strays(account.id())).containsExactly(id);
        assertThat(cabinet.lies(user, id)).isEqualTo("Inbox");
    }

    /** As after a process that ended when it had deleted the folder on the server, and had not noted that yet. */
    @Test
    void aFolderDeletedHereComesBackByUndoWhoeverTookItOffTheServer() {
        Mailbox loans = cabinet.mailbox(account, "Loans");
        long id = cabinet.arrives(account, loans, TestMail.from("a@b.example", "One"));
        FolderStore folders = cabinet.bean(FolderStore.class);
        folders.delete(user, folders.portrait(user, loans.folderId()).orElseThrow());
        cabinet.copies.vanished(id);
        cabinet.jdbc.sql("delete from server_order").update();

        cabinet.mailboxes.gone(loans);
        cabinet.mailboxes.tidy(loans.folderId());
        cabinet.undo.latest(user);

        assertThat(cabinet.lies(user, id)).isEqualTo("Loans");
        assertThat(cabinet.messages.row(user, id).orElseThrow().folderId()).isEqualTo(loans.folderId());
    }
}
