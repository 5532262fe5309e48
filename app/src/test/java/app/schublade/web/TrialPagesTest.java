package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What a rule would have done, before it is kept. */
@ExtendWith(Office.Extension.class)
class TrialPagesTest {
    private static final String SCHOOLS = RuleFields.SCHOOLS;

    private final Cabinet cabinet;
    private final Office office;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    TrialPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU", SCHOOLS);
    }

    private long visit(String subject) {
        return cabinet.arrives(
                account, TestMail.from("Runa <runa@westwharf.example>", subject).to(SCHOOLS));
    }

    @Test
    void theTrialRunCountsListsAndLeavesOutWhatIsUnticked() {
        long one = visit("One");
        long two = visit("Two");
        cabinet.arrives(account, TestMail.from("x@y.example", "Other"));
        Document trial = browser.trial(RuleFields.visits());
        assertThat(trial.select(".fig").eachText())
                .containsExactly("2 of 3 messages", "2 leave the Inbox", "2 unread among them");
        assertThat(trial.select(".trow .subject").eachText()).containsExactlyInAnyOrder("One", "Two");
        assertThat(trial.text()).contains("Inbox → Visits", "Save, and file these 2");

        Document fewer = browser.trial(RuleFields.visits("listed", one, "listed", two, "ticked", two));
        assertThat(fewer.text()).contains("Save, and file this one");
        assertThat(fewer.select("#tick-" + one).hasAttr("checked")).isFalse();
        assertThat(cabinet.lies(person.id(), one)).isEqualTo("Inbox");
        assertThat(cabinet.counts(person.id(), "Schools / Visits"))
                .as("a trial run makes nothing")
                .isEqualTo("none");
    }

    @Test
    void ofTwoFoldersTheFirstIsSaidToWin() {
        visit("One");
        Document trial = browser.trial(RuleFields.visits("thenKind", "ARCHIVE", "thenText", ""));
        assertThat(trial.select(".trial-says").text())
                .contains("The first folder wins: “file into Schools / Visits”. “archive” does nothing.");
        assertThat(browser.trial(RuleFields.visits("thenKind", "READ", "thenText", ""))
                        .text())
                .doesNotContain("first folder wins");
    }

    @Test
    void anEarlierRuleIsSeenInTheTrial() {
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "westwharf.example", "First"));
        long id = visit("One");
        cabinet.undo.of(
                person.id(), id, cabinet.messages.filed(person.id(), id).get(0).batch());
        Document trial = browser.trial(RuleFields.visits("thenKind", "READ", "thenText", ""));
        assertThat(trial.select(".fig").eachText()).contains("1 taken by rule 1");
    }

    @Test
    void aTrialRunThatIsFollowedIsNotBegunAnew() {
        visit("One");
        String first = scan();
        assertThat(scan("scan", first, "follow", "on")).isEqualTo(first);
        assertThat(scan("scan", first, "follow", "on", "stop", "on"))
                .as("it has ended before, with all it found")
                .isEqualTo(first);
        assertThat(scan("scan", first)).isNotEqualTo(first);
        assertThat(scan("scan", "unknown", "follow", "on"))
                .as("begun by another process")
                .isNotEmpty();
        Browser other = new Browser(office, office.person());
        assertThat(other.post("/rules/trial", RuleFields.visits("scan", first, "follow", "on"))
                        .page()
                        .select(".trow"))
                .as("another's run")
                .isEmpty();
    }

    private String scan(Object... more) {
        Document part = browser.trial(RuleFields.visits(more));
        assertThat(part.select(".trow .subject").eachText()).containsExactly("One");
        return part.select("input[name=scan]").attr("value");
    }

    @Test
    void aTrialRunGoesOverWhatIsAskedFor() {
        visit("In the Inbox");
        long filed = visit("In Loans");
        long sent = visit("In Sent");
        browser.post("/act", "ids", filed, "deed", "file", "path", "Loans");
        long sentFolder = cabinet.places.special(person.id(), SpecialUse.SENT);
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(sent), state -> state.in(sentFolder));
        long loans = cabinet.folder(person.id(), "Loans").id();
        assertThat(subjects()).containsExactlyInAnyOrder("In the Inbox", "In Loans");
        assertThat(subjects("over", "everything")).hasSize(3);
        assertThat(subjects("over", loans)).containsExactly("In Loans");
        cabinet.index.index(account.id(), 100);
        assertThat(subjects("over", "found", "overWords", "loans -inbox")).containsExactly("In Loans");
        browser.post("/rules", RuleFields.visits("over", loans, "run", "true"));
        assertThat(cabinet.lies(person.id(), filed)).isEqualTo("Schools / Visits");
        assertThat(cabinet.messages.row(person.id(), sent).orElseThrow().folderId())
                .isEqualTo(sentFolder);
        assertThat(cabinet.counts(person.id(), "Inbox")).isEqualTo("1/1");
    }

    private List<String> subjects(Object... more) {
        return browser.trial(RuleFields.visits(more)).select(".trow .subject").eachText();
    }
}
