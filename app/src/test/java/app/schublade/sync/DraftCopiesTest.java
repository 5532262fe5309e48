package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.format.MailWriter;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.format.OutgoingMessage.AttachedFile;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.message.Address;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.Fetched;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailHost;
import app.schublade.mail.Sighting;
import app.schublade.standin.DovecotHost;
import app.schublade.store.account.Account;
import app.schublade.store.outgoing.DraftCopyStore;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.OutgoingStore.Edition;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.compose.ResumedDrafts;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A draft lies on its server, too, once and as it is; those of other programs are written on, and replaced. */
@ExtendWith(Office.Extension.class)
class DraftCopiesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final DovecotHost server = DovecotHost.start(DovecotHost.Shape.SLASH);
    private final MailHost host = new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.NONE, server.user());
    private ImapConnection other;
    private Account account;

    DraftCopiesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
    }

    @BeforeEach
    void begin() throws Exception {
        other = ImapConnection.open(host, DovecotHost.PASSWORD, Duration.ofSeconds(20));
        account = office.bean(AccountAdder.class).add(person.id(), Office.draft("DC", host));
    }

    @AfterEach
    void close() {
        office.bean(Synchroniser.class).forget(account.id());
        other.close();
        server.close();
    }

    private DraftText text(String to, String bcc, String body, @Nullable String html) {
        return new DraftText(account.id(), account.address(), to, "", bcc, "Crates", body, html);
    }

    private void types(long id, String body) {
        cabinet.outgoing.keepOver(
                person.id(), id, text("anna@wharf.example, ben@wh", "", body, null), new Edition(0, "here"));
        paused(id);
    }

    /** Nobody has typed for a while. */
    private void paused(long id) {
        cabinet.jdbc
                .sql("update outgoing set changed_at = now() - interval '1 minute' where id = ?")
                .param(id)
                .update();
    }

    /** It has a name of its own there. */
    private String folder() throws Exception {
        return other.folders().stream()
                .filter(one -> one.use().equals(Optional.of(SpecialUse.DRAFTS)))
                .findFirst()
                .orElseThrow()
                .serverName();
    }

    private List<ParsedMail> drafts() throws Exception {
        other.open(folder());
        List<Long> uids = new ArrayList<>();
        for (long uid : other.uids()) {
            uids.add(uid);
        }
        return other.fetch(uids, 1_000_000).stream()
                .map(Fetched::source)
                .map(MimeReader::read)
                .toList();
    }

    private boolean isOne(String text) throws Exception {
        List<ParsedMail> all = drafts();
        return all.size() == 1 && all.get(0).text().strip().equals(text);
    }

    private long messageHere(String subject) {
        return cabinet.jdbc
                .sql("""
                        select coalesce(max(m.id), 0) from message m join message_head h on h.message_id = m.id
                            join server_copy c on c.message_id = m.id where m.account_id = ? and h.subject = ?
                        """)
                .params(account.id(), subject)
                .query(Long.class)
                .single();
    }

    private void leavesElsewhere(String source) throws Exception {
        other.append(folder(), source.getBytes(StandardCharsets.UTF_8), Instant.now(), List.of("\\Draft"));
    }

    @Test
    void isThereOnceAsItIsAndGoneWhenItIsSent() throws Exception {
        long id = cabinet.outgoing.begin(
                person.id(), text("", "", "", null), null, "q@wharf.example", List.of("q@wharf.example"));
        types(id, "Two crates");
        Await.until("it is there", () -> isOne("Two crates"));
        ParsedMail there = drafts().get(0);
        assertThat(there.to()).as("what is an address already").containsExactly(new Address("", "anna@wharf.example"));
        assertThat(there.references()).containsExactly("q@wharf.example");
        assertThat(other.sightings(1))
                .singleElement()
                .satisfies(one -> assertThat(one.seen()).isTrue());

        String html = "<p>Three <b>crates</b></p>";
        cabinet.outgoing.keepOver(
                person.id(), id, text("", "Ben <ben@wharf.example>", "Three crates", html), new Edition(0, ""));
        office.bean(OutgoingFileStore.class)
                .add(person.id(), id, new AttachedFile("list.txt", "text/plain", new byte[] {'x'}));
        paused(id);
        Await.until("it is replaced", () -> isOne("Three crates"));
        there = drafts().get(0);
        assertThat(there.html()).contains(html);
        assertThat(OutgoingMessage.blindCopies(there)).containsExactly(new Address("Ben", "ben@wharf.example"));
        assertThat(there.attachments())
                .singleElement()
                .satisfies(file -> assertThat(file.name()).isEqualTo("list.txt"));

        OutgoingMessage outline = new OutgoingMessage(
                new Address("", account.address()),
                List.of(new Address("", "anna@wharf.example")),
                List.of(),
                "Crates",
                "x",
                null,
                List.of());
        Instant later = Instant.now().plusSeconds(3600);
        cabinet.outgoing.send(person.id(), id, outline, later, later);
        Await.until("it is gone", () -> drafts().isEmpty());
        cabinet.outgoing.recall(person.id(), id);
        Await.until("it was taken back", () -> isOne("Three crates"));
        cabinet.outgoing.discard(person.id(), id);
        Await.until("it was discarded", () -> drafts().isEmpty());
    }

    @Test
    void whatAnotherProgramHasLeftIsWrittenOnAndReplaced() throws Exception {
        OutgoingMessage left = new OutgoingMessage(
                        new Address("Tilda", account.address()),
                        List.of(new Address("Anna", "anna@wharf.example")),
                        List.of(),
                        "Left there",
                        "Half a sen",
                        "q@wharf.example",
                        List.of("a@wharf.example", "q@wharf.example"))
                .formatted("<p>Half a <b>sen</b></p>")
                .with(List.of(new AttachedFile("list.txt", "text/plain", new byte[] {'x'})));
        byte[] source = MailWriter.writeDraft(left, "ben@wharf.example", "left@elsewhere.example", Instant.now());
        leavesElsewhere(new String(source, StandardCharsets.UTF_8));
        Await.until("it is here", () -> messageHere("Left there") > 0);
        long message = messageHere("Left there");

        long glanced = resume(message);
        cabinet.outgoing.leave(person.id(), glanced);
        assertThat(cabinet.outgoing.byId(person.id(), glanced))
                .as("only looked at, though it has a file")
                .isEmpty();
        long looked = resume(message);
        assertThat(resume(message)).as("once").isEqualTo(looked);
        OutgoingStore.Outgoing draft =
                cabinet.outgoing.byId(person.id(), looked).orElseThrow();
        assertThat(draft.text().to()).isEqualTo("Anna <anna@wharf.example>");
        assertThat(draft.text().bcc()).isEqualTo("ben@wharf.example");
        assertThat(draft.text().html()).isEqualTo("<p>Half a <b>sen</b></p>");
        assertThat(draft.inReplyTo()).isEqualTo("q@wharf.example");
        assertThat(draft.references()).containsExactly("a@wharf.example", "q@wharf.example");
        assertThat(office.bean(OutgoingFileStore.class).of(looked))
                .singleElement()
                .satisfies(file -> assertThat(file.name()).isEqualTo("list.txt"));

        types(looked, "Half a sentence");
        Await.until("it takes its place", () -> isOne("Half a sentence"));
        Await.until("its copy is here", () -> messageHere("Crates") > 0);
        assertThat(resume(messageHere("Crates"))).as("which leads to it").isEqualTo(looked);
    }

    private long resume(long message) {
        return office.bean(ResumedDrafts.class).of(person, message).orElseThrow();
    }

    @Test
    void whatIsOnlyLookedAtStaysAndWhatWasChangedElsewhereIsLeftAlone() throws Exception {
        String left = "Message-ID: <left@elsewhere.example>\r\nSubject: Left there\r\n\r\nHello\r\n";
        leavesElsewhere(left);
        Await.until("it is here", () -> messageHere("Left there") > 0);
        cabinet.outgoing.leave(person.id(), resume(messageHere("Left there")));

        long id = cabinet.outgoing.begin(person.id(), text("", "", "", null), null, null, List.of());
        types(id, "One");
        Await.until("both are there", () -> drafts().size() == 2);
        ParsedMail ours = drafts().stream()
                .filter(one -> one.text().strip().equals("One"))
                .findFirst()
                .orElseThrow();
        String changed = "Message-ID: <%s>\r\nSubject: Crates\r\n\r\nOne, and what was written elsewhere\r\n"
                .formatted(ours.messageId());
        long uid = other.withMessageId(ours.messageId()).get(0);
        leavesElsewhere(changed);
        other.remove(List.of(uid));
        types(id, "Two");
        Await.until(
                "all three are there",
                () -> drafts().stream()
                        .map(one -> one.text().strip())
                        .sorted()
                        .toList()
                        .equals(List.of("Hello", "One, and what was written elsewhere", "Two")));
        cabinet.outgoing.discard(person.id(), id);
        Await.until("ours is gone", () -> drafts().size() == 2);
    }

    /** The connection was cut after the server had it, and before that was written down. */
    @Test
    void whatWasCutOffIsNotWrittenTwice() throws Exception {
        DraftCopyStore copies = office.bean(DraftCopyStore.class);
        long id = cabinet.outgoing.begin(person.id(), text("", "", "", null), null, null, List.of());
        cabinet.outgoing.keepOver(person.id(), id, text("", "", "One", null), new Edition(0, "here"));
        DraftCopyStore.UnsavedDraft cut = new DraftCopyStore.UnsavedDraft(id, "1/0/0");
        DraftCopyStore.DraftCopy copy = copies.begin(account.id(), cut, folder());
        String source = "Message-ID: <%s>\r\nSubject: Crates\r\n\r\nOne\r\n".formatted(copy.identity());
        leavesElsewhere(source);
        paused(id);
        Await.until(
                "it is known that it is there",
                () -> copies.unsaved(account.id()).isEmpty()
                        && copies.outdated(account.id()).isEmpty());
        assertThat(drafts()).hasSize(1);
        assertThat(other.sightings(1)).extracting(Sighting::uid).hasSize(1);
    }

    /** Only a mistake here can make such a draft; the account must live with it. */
    @Test
    void aDraftThatCannotBeWrittenStopsNobodysMail() throws Exception {
        long id = cabinet.outgoing.begin(person.id(), text("", "", "", null), null, null, List.of());
        types(id, "One");
        cabinet.jdbc
                .sql("update outgoing set refs = array[null]::text[] where id = ?")
                .param(id)
                .update();
        paused(id);
        String letter =
                "Message-ID: <letter@wharf.example>\r\nFrom: anna@wharf.example\r\nSubject: Letter\r\n\r\nHello\r\n";
        Thread.sleep(7000); // The worker has met it by then.
        other.append("INBOX", letter.getBytes(StandardCharsets.US_ASCII), Instant.now());
        Await.until("mail comes", () -> messageHere("Letter") > 0);
        assertThat(drafts()).isEmpty();
    }
}
