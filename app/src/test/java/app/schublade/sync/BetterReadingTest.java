package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.format.MimeReader;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountEventStore;
import app.schublade.store.act.Cause;
import app.schublade.store.message.ListRow;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

@ExtendWith(Office.Extension.class)
class BetterReadingTest {
    private final Cabinet cabinet;
    private final BetterReading better;
    private final long user;
    private final Account account;

    BetterReadingTest(Office office) {
        cabinet = Cabinet.of(office);
        better = office.bean(BetterReading.class);
        user = office.person().id();
        account = cabinet.account(user, "MU");
    }

    private long arrives(String subject) {
        return cabinet.arrives(
                account,
                TestMail.from("Grebe, Ottoline <o@grebe.example>", subject).saying("Crates"));
    }

    /** As an older reader would have left it. */
    private void wasReadWorse(long message) {
        cabinet.jdbc
                .sql(
                        "update message_head set sender_name = 'Grebe', sender_address = 'grebe', sent_at = null where message_id = ?")
                .param(message)
                .update();
        cabinet.jdbc
                .sql("update message_text set body = 'view in your browser' where message_id = ?")
                .param(message)
                .update();
        cabinet.jdbc
                .sql("update message set attachments = 3 where id = ?")
                .param(message)
                .update();
        cabinet.jdbc
                .sql("update account set reader = ? where id = ?")
                .params(MimeReader.VERSION - 1, account.id())
                .update();
    }

    private int readerOfAccount() {
        return cabinet.jdbc
                .sql("select reader from account where id = ?")
                .param(account.id())
                .query(Integer.class)
                .single();
    }

    @Test
    void whatAnOlderReaderReadWorseIsReadAgainWhereItLies() {
        long message = arrives("A loan");
        long loans = cabinet.folder(user, "Loans").id();
        cabinet.filing.act(
                user,
                Cause.HAND,
                "x",
                List.of(message),
                state -> state.in(loans).flagged(true));
        wasReadWorse(message);
        cabinet.rules.save(
                user,
                new Rule(
                        0,
                        "Never",
                        true,
                        List.of(Correspondent.sender("o@grebe.example")),
                        List.of(),
                        List.of(new Effect.Flag(false)),
                        true));
        assertThat(better.readSome(account)).isTrue();
        ListRow row = cabinet.messages.row(user, message).orElseThrow();
        assertThat(row.sender().name()).isEqualTo("Grebe, Ottoline");
        assertThat(row.sender().email()).isEqualTo("o@grebe.example");
        assertThat(row.folderId()).isEqualTo(loans);
        assertThat(row.flagged()).as("no rule acts on it").isTrue();
        assertThat(row.attachments()).isZero();
        assertThat(cabinet.jdbc
                        .sql("select body from message_text where message_id = ?")
                        .param(message)
                        .query(String.class)
                        .single())
                .isEqualTo("Crates\r\n");
        assertThat(readerOfAccount()).isEqualTo(MimeReader.VERSION);
    }

    @Test
    void whatReadsTheSameIsNotWrittenAgain() {
        long message = arrives("A loan");
        cabinet.index.index(account.id(), 10);
        cabinet.jdbc
                .sql("update account set reader = 0 where id = ?")
                .param(account.id())
                .update();
        String before = row(message);
        assertThat(better.readSome(account)).isTrue();
        assertThat(row(message)).isEqualTo(before);
        assertThat(cabinet.index.toIndex(account.id())).isZero();
    }

    /** Its version, as the database tells it. */
    private String row(long message) {
        return cabinet.jdbc
                .sql("select xmin::text from message_head where message_id = ?")
                .param(message)
                .query(String.class)
                .single();
    }

    @Test
    void manyAreReadSomeAtATimeAndItIsToldWhen() {
        List<Long> all =
                LongStream.range(0, 230).mapToObj(i -> arrives("No " + i)).toList();
        all.forEach(this::wasReadWorse);
        assertThat(better.readSome(account)).isFalse();
        assertThat(better.readSome(account)).isFalse();
        assertThat(better.readSome(account)).isTrue();
        assertThat(better.readSome(account)).isTrue();
        assertThat(all)
                .allSatisfy(id -> assertThat(cabinet.messages
                                .row(user, id)
                                .orElseThrow()
                                .sender()
                                .name())
                        .isEqualTo("Grebe, Ottoline"));
        assertThat(new AccountEventStore(cabinet.jdbc).of(user, account.id()))
                .extracting(AccountEventStore.AccountEvent::said)
                .contains(
                        "Messages are read better than before: those that are here are read again.",
                        "All messages that were here have been read again.");
    }

    @Test
    void whatIsNewNeedsNoReadingAgain() {
        assertThat(readerOfAccount()).isEqualTo(MimeReader.VERSION);
        assertThat(better.readSome(account)).isTrue();
    }
}
