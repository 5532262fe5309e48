package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.InConversation;
import app.schublade.core.filing.Rule;
import app.schublade.mail.ImapConnection;
import app.schublade.standin.DemoAccount;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A rule for a conversation takes what comes in it, however its messages name each other. */
@ExtendWith(Office.Extension.class)
class ConversationRuleTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Standin hosts = new Standin(Standin.Options.forTests(0));
    private final Account museum;

    ConversationRuleTest(Office office) throws Exception {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        museum = office.addAndImport(person, hosts, "MU");
    }

    @AfterEach
    void close() {
        office.bean(Synchroniser.class).forget(museum.id());
        hosts.close();
    }

    private void comes(String id, String naming) throws Exception {
        String source = """
                From: Anna <anna@wharf.example>
                To: tilda.marwick@lanternquay.example
                Subject: About %s
                Message-ID: <%s@wharf.example>
                %sDate: Mon, 23 Nov 2026 08:00:00 +0000

                Text.
                """.formatted(id, id, naming).replace("\n", "\r\n");
        try (ImapConnection imap = ImapConnection.open(
                Office.draft(hosts, "MU").hosts().receiving(), DemoAccount.PASSWORD, Duration.ofSeconds(20))) {
            imap.append("INBOX", source.getBytes(StandardCharsets.UTF_8), Instant.now(), Set.of());
        }
    }

    private String lies(String id) {
        List<Long> found = cabinet.jdbc
                .sql("select message_id from message_head where account_id = ? and internet_id = ?")
                .params(museum.id(), id + "@wharf.example")
                .query(Long.class)
                .list();
        return found.isEmpty() ? "not here" : cabinet.lies(person.id(), found.get(0));
    }

    private void liesIn(String id, String folder) {
        Await.until(id + " arrives", () -> !lies(id).equals("not here"));
        assertThat(lies(id)).as(id).isEqualTo(folder);
    }

    @Test
    void takesAnswersToTheFirstToTheLastAndToAnswers() throws Exception {
        comes("first", "");
        liesIn("first", "Inbox");
        cabinet.rules.save(
                person.id(),
                new Rule(
                        0,
                        "The mast",
                        true,
                        List.of(new InConversation("The mast", List.of("first@wharf.example"))),
                        List.of(),
                        List.of(new Effect.FileInto(cabinet.folder(person.id(), "Masts"))),
                        false));
        comes("second", "In-Reply-To: <first@wharf.example>\n");
        liesIn("second", "Masts");
        comes("third", "References: <first@wharf.example> <gone@wharf.example> <first@wharf.example>\n");
        liesIn("third", "Masts");
        comes("to-third", "In-Reply-To: <third@wharf.example>\n");
        liesIn("to-third", "Masts");
        // Names the answer alone: the answer named the first.
        comes("fourth", "In-Reply-To: <second@wharf.example>\n");
        liesIn("fourth", "Masts");
        comes("stranger", "References: <other@wharf.example>\n");
        liesIn("stranger", "Inbox");
    }
}
