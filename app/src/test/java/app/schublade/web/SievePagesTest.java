package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Rule;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.RemoteFolder;
import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.Browser.Answer;
import app.schublade.web.frame.CurrentUser;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

@ExtendWith(Office.Extension.class)
class SievePagesTest {
    private static final String SCRIPT = """
            # From the wharf
            if address :domain "from" "wharf.example" { fileinto "INBOX.Loans.New ones"; stop; }
            if size :over 2M { reject "Too large"; }
            if size :over 3M { addflag "\\\\Flagged"; }
            """;

    private final Cabinet cabinet;
    private final Office office;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    SievePagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    /** A server whose folders lie under the Inbox, with dots between. */
    private void dotted(String... paths) {
        for (String path : paths) {
            FolderPath folder = FolderPath.parse(path);
            String name = "INBOX." + path.replace('/', '.');
            cabinet.mailboxes.mailbox(account, new RemoteFolder(name, folder, SpecialUse.of(folder, List.of()), true));
        }
    }

    private List<Rule> rules() {
        return cabinet.rules.book(person.id()).rules();
    }

    @Test
    void rulesAreWrittenAsTheServerNamesItsFolders() {
        dotted("Loans", "Loans/Halden");
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "wharf.example", "Loans/Halden"));
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "quay.example", "Schools/Visits"));
        Rule off = cabinet.filing(person.id(), "kestrel.example", "Schools");
        long id = cabinet.rules.save(person.id(), off);
        cabinet.rules.turn(person.id(), id, false);
        Document page = browser.get("/rules/sieve").page();
        assertThat(page.select(".script").text())
                .contains("set \"folder\" \"INBOX.Loans.Halden\"", "set \"folder\" \"INBOX.Schools.Visits\"");
        assertThat(page.select(".decide li").text()).isEqualTo(off.name() + " is left out: it is switched off.");
        for (int i = 0; i < 4; i++) {
            cabinet.rules.turn(person.id(), cabinet.rules.save(person.id(), off), false);
        }
        assertThat(browser.get("/rules/sieve").page().select(".decide li").eachText())
                .singleElement()
                .asString()
                .endsWith("and 2 more are left out, each for this: it is switched off.");
        Answer file = browser.get("/rules/sieve/script?account=" + account.id());
        assertThat(file.text()).isEqualTo(page.select(".script").get(0).wholeText());
        assertThat(file.header("Content-Disposition")).contains("MU rules.sieve");
    }

    @Test
    void aScriptIsLookedAtAndThenAdded() {
        dotted("Loans");
        Document look = browser.post("/rules/sieve/read", "account", account.id(), "script", SCRIPT)
                .page();
        assertThat(look.select(".coming li").eachText())
                .containsExactly(
                        "From the wharf from wharf.example → file into Loans / New ones, no later rules",
                        "Larger than 3.1 MB larger than 3.1 MB → flag");
        assertThat(look.select(".decide li").text())
                .isEqualTo("Line 3: mail that has arrived cannot be refused any more; left out.");
        assertThat(rules()).as("looked at only").isEmpty();

        browser.post("/rules/sieve", "account", account.id(), "script", SCRIPT);
        assertThat(browser.get("/rules").notice()).isEqualTo("Added 2 rules; they are off until you switch them on");
        assertThat(rules()).extracting(Rule::on).containsExactly(false, false);
        assertThat(browser.get("/rules/" + rules().get(1).id()).page().select("input[value=3145728 bytes]"))
                .as("to the byte")
                .hasSize(1);
        cabinet.rules.turn(person.id(), rules().get(0).id(), true);
        long message = cabinet.arrives(account, TestMail.from("a@wharf.example", "Hello"));
        assertThat(cabinet.lies(person.id(), message)).isEqualTo("Loans / New ones");
    }

    @Test
    void whatIsNoScriptIsSaidWithItsLineAndKept() {
        Document page = browser.post("/rules/sieve/read", "account", account.id(), "script", "keep;\nif")
                .page();
        assertThat(page.select(".problem").text()).startsWith("This is not a Sieve script. Line 2: ");
        assertThat(page.select("textarea").val()).isEqualTo("keep;\nif");
        assertThat(browser.post("/rules/sieve", "account", account.id(), "script", "keep")
                        .notice())
                .startsWith("This is not a Sieve script. Line 1: ");
    }

    @Test
    void nobodyWritesOrReadsForOthersAccounts() {
        Browser stranger = new Browser(office, office.person());
        assertThat(stranger.get("/rules/sieve/script?account=" + account.id()).status())
                .isEqualTo(404);
        assertThat(stranger.post("/rules/sieve", "account", account.id(), "script", SCRIPT)
                        .status())
                .isEqualTo(404);
        assertThat(stranger.get("/rules/sieve").page().select("main").text()).contains("Add an account first");
    }
}
