package app.schublade.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.mail.ImapConnection;
import app.schublade.mail.Sighting;
import app.schublade.standin.DemoAccount;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.sync.Synchroniser;
import app.schublade.testing.Await;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** From a login to mail that files itself, against real IMAP and SMTP. */
@ExtendWith(Office.Extension.class)
class FilingJourneyTest {
    private static final String SCHOOLS = "schools@lanternquay.example";

    private final Office office;

    FilingJourneyTest(Office office) {
        this.office = office;
    }

    @Test
    void mailToSchoolsFilesItself() throws Exception {
        CurrentUser person = office.person();
        try (Standin hosts = new Standin(Standin.Options.forTests(120));
                Window window = new Window(office)) {
            List<String> codes = List.of("MU", "TS", "RC", "PR");
            for (int i = 1; i <= 3; i++) {
                hosts.deliver("anna@westwharf-school.example", SCHOOLS, "Visit of class " + i, "We are many.");
            }
            List<Account> accounts = new java.util.ArrayList<>();
            for (String code : codes) {
                accounts.add(office.addAndImport(person, hosts, code));
            }
            int before = inboxTotal(hosts);

            Desk desk = window.logIn(person, Office.PASSWORD);
            for (String code : codes) {
                assertThat(window.page.locator("#chip-" + code).isVisible()).isTrue();
            }
            desk.open("Visit of class 2")
                    .makeRule()
                    .by("sent to")
                    .name("Class visits")
                    .fileInto("Schools / Visits")
                    .alsoCategory("Next")
                    .trialSays("unread among them");
            int taken = Integer.parseInt(
                    window.page.locator("#trial .fig b").first().innerText());
            new RuleEditor(window.page)
                    .untick("Visit of class 3")
                    .saveAndFile(taken - 1)
                    .says("filed by “Class visits”");
            desk = new RuleEditor(window.page)
                    .toDesk()
                    .listsNot("Visit of class 1")
                    .lists("Visit of class 3")
                    .goTo("Visits")
                    .lists("Visit of class 1");

            var watched = window.another("/mail/inbox");
            watched.evaluate("""
                    () => { window.seen = []; new MutationObserver(() => {
                        if (document.body.textContent.includes('Quite new')) window.seen.push('seen');
                    }).observe(document.body, { childList: true, subtree: true, characterData: true }); }
                    """);
            hosts.deliver("anna@westwharf-school.example", SCHOOLS, "Quite new", "Hello");
            desk.lists("Quite new");
            assertThat(watched.evaluate("() => window.seen.length"))
                    .as("never in the Inbox")
                    .isEqualTo(0);
            watched.close();

            Await.until("a plain IMAP client finds it there", () -> onServer(hosts, "Schools/Visits", "Quite new"));
            assertThat(onServer(hosts, "INBOX", "Quite new")).isFalse();

            desk.open("Quite new")
                    .isExplained("Filed into Schools / Visits, category Next", "sent to " + SCHOOLS)
                    .undoAtMessage()
                    .says("Undone")
                    .listsNot("Quite new")
                    .goTo("Inbox")
                    .lists("Quite new");
            Await.until("it is back on the server too", () -> onServer(hosts, "INBOX", "Quite new"));
            assertThat(onServer(hosts, "Schools/Visits", "Quite new")).isFalse();

            desk.press("z").says("Undone: Run of “Class visits”").lists("Visit of class 1");
            Await.until("all is as before", () -> inboxTotal(hosts) == before + 1);
            accounts.forEach(account -> office.bean(Synchroniser.class).forget(account.id()));
        }
    }

    private static ImapConnection connect(Standin hosts) throws Exception {
        return ImapConnection.open(
                Office.draft(hosts, "MU").hosts().receiving(), DemoAccount.PASSWORD, Duration.ofSeconds(20));
    }

    private static int inboxTotal(Standin hosts) throws Exception {
        try (ImapConnection imap = connect(hosts)) {
            return imap.open("INBOX").messages();
        }
    }

    private static boolean onServer(Standin hosts, String folder, String subject) throws Exception {
        try (ImapConnection imap = connect(hosts)) {
            var remote = imap.folders().stream()
                    .filter(one -> one.path().toString().equals(folder))
                    .findFirst();
            if (remote.isEmpty()) {
                return false;
            }
            imap.open(remote.get().serverName());
            List<Long> uids = imap.sightings(1).stream().map(Sighting::uid).toList();
            return imap.fetch(uids, 100_000).stream()
                    .anyMatch(one -> new String(one.source(), java.nio.charset.StandardCharsets.UTF_8)
                            .contains("Subject: " + subject));
        }
    }
}
