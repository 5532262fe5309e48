package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.Habits;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailHost;
import app.schublade.mail.RemoteFolder;
import app.schublade.standin.DovecotHost;
import app.schublade.store.account.Account;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.user.HabitStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

@ExtendWith(Office.Extension.class)
class PostmanTest {
    private final Office office;
    private final Cabinet cabinet;
    private final DovecotHost server = DovecotHost.start(DovecotHost.Shape.SLASH);
    private final String user = server.user();

    PostmanTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
    }

    @AfterEach
    void close() {
        server.close();
    }

    /** The account is not looked at here: who has just added one may write before its folders are known. */
    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void whatIsSentBeforeFoldersAreKnownLiesInSentOnce(boolean isThere) throws Exception {
        MailHost host = new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.NONE, user);
        try (ImapConnection imap = ImapConnection.open(host, DovecotHost.PASSWORD, Duration.ofSeconds(20))) {
            if (!isThere) {
                imap.delete("Sent");
            }
            long person = office.person().id();
            Account account = cabinet.accounts.add(person, Office.draft("PM", host));
            handedIn(person, account);
            Await.until(
                    "it is put into Sent",
                    () -> cabinet.outgoing.of(person).isEmpty() && !inSent(imap).isEmpty());
            assertThat(inSent(imap)).hasSize(1);
        }
    }

    /** It has arrived already; who reads it in the Inbox needs no copy of it in Sent. */
    @Test
    void whatThisProgramTellsItsUserLeavesNoCopyInSent() throws Exception {
        MailHost host = new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.NONE, user);
        try (ImapConnection imap = ImapConnection.open(host, DovecotHost.PASSWORD, Duration.ofSeconds(20))) {
            long person = office.person().id();
            Account account = cabinet.accounts.add(person, Office.draft("PS", host));
            long id = handedIn(person, account);
            cabinet.jdbc
                    .sql("update outgoing set to_self = true where id = ?")
                    .param(id)
                    .update();
            handedIn(person, account);
            Await.until("both are done", () -> cabinet.outgoing.of(person).isEmpty());
            assertThat(inSent(imap)).hasSize(1);
        }
    }

    private long handedIn(long person, Account account) {
        OutgoingStore.DraftText text = new OutgoingStore.DraftText(
                account.id(), account.address(), "anna@wharf.example", "", "", "Crates", "Hello", null);
        long id = cabinet.outgoing.begin(person, text, null, null, List.of());
        cabinet.jdbc
                .sql(
                        "update outgoing set state = 'SENT', message_id = 'crates' || id, source = ?, due_at = now() + interval '1 second' where id = ?")
                .params(
                        "Message-ID: <crates%d@quay.example>\r\nSubject: Crates\r\n\r\nHello\r\n"
                                .formatted(id)
                                .getBytes(StandardCharsets.US_ASCII),
                        id)
                .update();
        return id;
    }

    private static List<?> inSent(ImapConnection imap) throws Exception {
        for (RemoteFolder folder : imap.folders()) {
            if (folder.serverName().equals("Sent") && folder.selectable()) {
                imap.open("Sent");
                return imap.sightings(1);
            }
        }
        return List.of();
    }

    /** Whoever likes that has an answer beside what it answers, and in Sent all the same. */
    @ParameterizedTest
    @CsvSource({"Loans, true, 1", "Loans, false, 0", "Inbox, true, 0"})
    void anAnswerLiesInTheFolderOfWhatItAnswers(String folder, boolean wanted, int beside) throws Exception {
        MailHost host = new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.NONE, user);
        try (ImapConnection imap = ImapConnection.open(host, DovecotHost.PASSWORD, Duration.ofSeconds(20))) {
            imap.create(FolderPath.parse("Loans"));
            long person = office.person().id();
            HabitStore habits = cabinet.bean(HabitStore.class);
            Habits now = habits.of(person);
            habits.keep(
                    person,
                    new Habits(
                            now.pane(),
                            now.density(),
                            now.readAfter(),
                            now.opens(),
                            false,
                            false,
                            true,
                            false,
                            now.scheme(),
                            new Habits.Letters(false, wanted)));
            Account account = cabinet.accounts.add(person, Office.draft("PB", host));
            long message = cabinet.arrives(
                    account, cabinet.mailbox(account, folder), TestMail.from("anna@wharf.example", "Crates"));
            long id = handedIn(person, account);
            cabinet.jdbc
                    .sql("update outgoing set answers = ? where id = ?")
                    .params(message, id)
                    .update();
            Await.until("it is done", () -> cabinet.outgoing.of(person).isEmpty());
            assertThat(inSent(imap)).hasSize(1);
            imap.open("Loans");
            assertThat(imap.sightings(1)).hasSize(beside);
        }
    }
}
