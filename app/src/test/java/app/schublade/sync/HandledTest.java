package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.message.Handled;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailHost;
import app.schublade.mail.Sighting;
import app.schublade.standin.DovecotHost;
import app.schublade.store.account.Account;
import app.schublade.store.filing.HandledStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** That a message was answered or passed on is known on its server and here, wherever it was done. */
@ExtendWith(Office.Extension.class)
class HandledTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final DovecotHost server = DovecotHost.start(DovecotHost.Shape.SLASH);
    private final MailHost host = new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.NONE, server.user());

    HandledTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
    }

    @AfterEach
    void close() {
        server.close();
    }

    private static byte[] letter(String subject) {
        return "Message-ID: <%1$s@wharf.example>\r\nFrom: anna@wharf.example\r\nSubject: %1$s\r\n\r\nHello\r\n"
                .formatted(subject)
                .getBytes(StandardCharsets.US_ASCII);
    }

    private Handled handled(String subject) {
        return cabinet.jdbc
                .sql(
                        "select m.id from message m join message_head h on h.message_id = m.id where m.user_id = ? and h.subject = ?")
                .params(person.id(), subject)
                .query(Long.class)
                .optional()
                .flatMap(id -> cabinet.messages.row(person.id(), id))
                .map(row -> row.handled())
                .orElse(Handled.elsewhere(false, false));
    }

    private long message(String subject) {
        return cabinet.jdbc
                .sql(
                        "select m.id from message m join message_head h on h.message_id = m.id where m.user_id = ? and h.subject = ?")
                .params(person.id(), subject)
                .query(Long.class)
                .single();
    }

    private static Sighting seen(ImapConnection imap, long uid) throws Exception {
        imap.open("INBOX");
        return imap.sightings(1).stream()
                .filter(one -> one.uid() == uid)
                .findFirst()
                .orElseThrow();
    }

    @Test
    void whereverItWasDone() throws Exception {
        try (ImapConnection other = ImapConnection.open(host, DovecotHost.PASSWORD, Duration.ofSeconds(20))) {
            Instant now = Instant.now();
            other.append("INBOX", letter("Before"), now, List.of("\\Answered"));
            long later = other.append("INBOX", letter("Later"), now).orElseThrow();
            long here = other.append("INBOX", letter("Here"), now).orElseThrow();
            long passedOn = other.append("INBOX", letter("Passed-on"), now).orElseThrow();
            Account account = office.bean(AccountAdder.class).add(person.id(), Office.draft("HA", host));
            Await.until(
                    "all is here",
                    () -> cabinet.jdbc
                                    .sql("select count(*) from message where account_id = ?")
                                    .param(account.id())
                                    .query(Integer.class)
                                    .single()
                            == 4);
            assertThat(handled("Before")).as("before it was fetched").isEqualTo(Handled.elsewhere(true, false));
            assertThat(handled("Later")).isEqualTo(Handled.elsewhere(false, false));

            other.open("INBOX");
            other.mark(List.of(later), "\\Answered", true);
            other.mark(List.of(later), HandledStore.FORWARDED, true);
            Await.until("it is seen", () -> handled("Later").equals(Handled.elsewhere(true, true)));

            handIn(account, message("Here"), List.of(message("Passed-on")));
            assertThat(handled("Here").answeredAt()).isNotNull();
            assertThat(handled("Passed-on").forwardedAt()).isNotNull();
            assertThat(handled("Passed-on").answered()).isFalse();
            Await.until(
                    "its server is told",
                    () -> seen(other, here).answered()
                            && seen(other, passedOn).keywords().contains("$forwarded"));
            assertThat(seen(other, here).keywords()).doesNotContain("$forwarded");
            office.bean(Synchroniser.class).forget(account.id());
        }
    }

    /** As if its server had just taken it. */
    private void handIn(Account account, long answers, List<Long> passesOn) {
        DraftText text = new DraftText(account.id(), account.address(), "a@b.example", "", "", "Re: x", "Yes.", null);
        cabinet.sending.handedIn(cabinet.outgoing.begin(person.id(), text, answers, null, List.of()));
        assertThat(handled("Here").answered())
                .as("nobody has typed it: a rule answers so")
                .isFalse();
        long id = cabinet.outgoing.begin(person.id(), text, answers, null, List.of());
        cabinet.outgoing.keep(person.id(), id, text, new OutgoingStore.Edition(0, ""));
        cabinet.sending.handedIn(id);
        cabinet.sending.handedIn(cabinet.outgoing.passOn(person.id(), text, passesOn));
    }
}
