package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.place.Places;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.LocalDate;
import java.util.List;
import org.jsoup.nodes.Document;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What one may choose on the desk and not everybody wants: columns, several categories, own colours, copies. */
@ExtendWith(Office.Extension.class)
class DeskChoicesPagesTest {
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    DeskChoicesPagesTest(Office office) {
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    private long arrives(String subject) {
        return cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", subject));
    }

    private List<String> heads() {
        return browser.get("/mail/inbox").page().select("#heads button").eachText();
    }

    private void arrange(Object... more) {
        Object[] all = new Object[6 + more.length];
        System.arraycopy(new Object[] {"here", "/mail/inbox", "grouping", "NONE", "order", "NEWEST"}, 0, all, 0, 6);
        System.arraycopy(more, 0, all, 6, more.length);
        browser.post("/mail/arrange", all);
    }

    /** What a place's own filter says is chosen once; then one key shows it, and nothing else. */
    @Test
    void aPlaceHasAFilterOfItsOwn() {
        arrives("Unread");
        long flagged = arrives("Flagged and read");
        long read = arrives("Read");
        cabinet.filing.act(
                person.id(),
                Cause.HAND,
                "x",
                List.of(flagged),
                state -> state.flagged(true).unread(false));
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(read), state -> state.unread(false));
        String address = browser.get("/mail/inbox").page().select("#pill-own").attr("href");
        assertThat(address).isEqualTo("/mail/inbox?mine=on");
        assertThat(subjects(address)).containsExactly("Flagged and read", "Unread");
        assertThat(browser.get(address)
                        .page()
                        .select("#pill-own[aria-pressed=true]")
                        .attr("title"))
                .isEqualTo("Only what is unread or flagged (Shift+S)");
        assertThat(subjects("/mail/inbox?unread=on&mine=on")).containsExactly("Unread");

        assertThat(browser.post(
                                "/mail/own-filter",
                                "here",
                                "/mail/inbox?account=MU",
                                "filter",
                                "FLAGGED",
                                "filter",
                                "FILES")
                        .header("Location"))
                .isEqualTo("/mail/inbox?account=MU&mine=on");
        assertThat(subjects(address)).containsExactly("Flagged and read");
        arrange("everywhere", true);
        assertThat(subjects(address)).as("arranged with all other places").containsExactly("Flagged and read");
        assertThat(browser.get("/mail/tickler?mine=on").page().select("#rows").text())
                .contains("Nothing here is either unread or flagged.");
        browser.post("/undo");
        browser.post("/undo");
        assertThat(subjects(address)).containsExactly("Flagged and read", "Unread");
        browser.post("/mail/own-filter", "here", "/mail/inbox", "filter", "TO_ME");
        browser.post("/mail/own-filter", "here", "/mail/inbox");
        assertThat(subjects(address)).as("nothing chosen").containsExactly("Flagged and read", "Unread");
    }

    private List<String> subjects(String address) {
        return browser.get(address).page().select(".row b").eachText();
    }

    @Test
    void aListStandsInColumnsThatAreChosenOrderedAndSized() {
        long message = arrives("A condition report");
        assertThat(heads()).isEmpty();
        arrange("inColumns", true);
        assertThat(heads()).containsExactly("Sender", "Subject", "Labels", "Date", "Size");
        assertThat(browser.get("/mail/inbox")
                        .page()
                        .select("#m" + message + " .size")
                        .text())
                .isEqualTo("1 KB");

        String columns = "SIZE:70,SUBJECT:400,FOLDER:120";
        assertThat(browser.post("/mail/columns", "here", "/mail/inbox", "columns", columns)
                        .status())
                .isEqualTo(204);
        Document page = browser.get("/mail/inbox").page();
        assertThat(page.select("#heads .head").eachAttr("data-width")).containsExactly("70", "400", "120");
        assertThat(page.select("#m" + message + " .cell").text()).isEqualTo("Inbox");
        assertThat(page.select("#m" + message + " .w")).as("no sender").isEmpty();

        arrange("inColumns", true, "column", "SUBJECT", "column", "SENDER");
        assertThat(heads()).containsExactly("Subject", "Sender");
        assertThat(browser.get("/mail/folder/"
                                + cabinet.folder(person.id(), "Loans").id())
                        .page()
                        .select("#heads"))
                .as("remembered for its place only")
                .isEmpty();
        arrange();
        assertThat(heads()).isEmpty();
    }

    @Test
    void aListIsNarrowedToACategoryALabelAndASender() {
        long one = arrives("A condition report");
        long other = arrives("A loan");
        long label = cabinet.places
                .label(person.id(), FolderPath.parse("Objects/Sails"))
                .id();
        var category = cabinet.places.of(person.id(), null).categories().get(0);
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(one), state -> state.with(label, true));
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(other), state -> state.categorised(category.id()));
        String sender =
                cabinet.messages.row(person.id(), one).orElseThrow().sender().key();
        String domain = sender.substring(sender.indexOf('@') + 1);

        Document page = browser.get("/mail/inbox?label=" + label).page();
        assertThat(page.select(".row").eachAttr("data-id")).containsExactly(String.valueOf(one));
        long above =
                cabinet.places.label(person.id(), FolderPath.parse("Objects")).id();
        assertThat(browser.get("/mail/inbox?label=" + above).page().select(".row"))
                .as("with those in it")
                .hasSize(1);
        assertThat(page.select(".pill.chosen").text()).isEqualTo("Objects / Sails ×");
        assertThat(page.select(".pill.chosen").attr("href")).isEqualTo("/mail/inbox");
        page = browser.get("/mail/inbox?unread=on&category=" + category.id() + "&from=" + domain)
                .page();
        assertThat(page.select(".row").eachAttr("data-id")).containsExactly(String.valueOf(other));
        assertThat(page.select(".pill.chosen").text()).isEqualTo(category.name() + " · from " + domain + " ×");
        assertThat(page.select(".pill.chosen").attr("href")).isEqualTo("/mail/inbox?unread=on");
        assertThat(page.select(".only form[method=get] input[type=hidden]").eachAttr("name"))
                .containsExactly("unread");
        page = browser.get("/mail/inbox?label=" + label + "&from=elsewhere.example")
                .page();
        assertThat(page.select(".empty").text())
                .isEqualTo("Nothing here is labelled Objects / Sails and from elsewhere.example. Show everything");
        assertThat(browser.post("/act", "deed", "flag", "all", "/mail/inbox?label=" + label)
                        .notice())
                .isEqualTo("Flagged");
        page = browser.get("/mail/inbox?label=999999&category=").page();
        assertThat(page.select(".row")).as("what is gone narrows nothing").hasSize(2);
        assertThat(browser.get("/mail/inbox?from=two+words").status()).isEqualTo(422);
    }

    @Test
    void whatIsFlaggedStandsAboveTheRest() {
        long flagged = arrives("First of all");
        arrives("Second");
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(flagged), state -> state.flagged(true));
        browser.post("/mail/arrange", "here", "/mail/inbox", "grouping", "FLAG", "order", "NEWEST");
        Document page = browser.get("/mail/inbox").page();
        assertThat(page.select(".rows .div").eachText()).containsExactly("Flagged", "Not flagged");
        assertThat(page.select(".row").get(0).attr("data-id")).isEqualTo(String.valueOf(flagged));
    }

    @Test
    void aMessageIsReadWhenOneLeavesItIfOneLikes() {
        browser.post("/habits", "pane", "RIGHT", "density", "ROOMY", "opens", "inbox", "readWhenLeft", true);
        assertThat(browser.get("/mail/inbox").page().select(".main").attr("data-read-after"))
                .isEqualTo("-1");
        Document habits = browser.get("/habits").page();
        assertThat(habits.select("[name=readWhenLeft]").hasAttr("checked")).isTrue();
        assertThat(habits.select("[name=readAfter]").attr("value")).isEmpty();
        browser.post("/habits", "pane", "RIGHT", "density", "ROOMY", "opens", "inbox", "readAfter", "3");
        assertThat(browser.get("/mail/inbox").page().select(".main").attr("data-read-after"))
                .isEqualTo("3");
    }

    @Test
    void aMessageGoesIntoTheTicklerUntilADay() {
        long message = arrives("A condition report");
        LocalDate day = cabinet.zones.today(person.id()).plusDays(1);
        assertThat(browser.post("/act", "deed", "tickler", "ids", message, "due", day)
                        .text())
                .contains("In the tickler until tomorrow");
        Document page = browser.get("/mail/tickler").page();
        assertThat(page.select("#m" + message + " .tickle").text()).isEqualTo("back tomorrow");
        assertThat(page.select(".rows .div").eachText()).containsExactly("Back tomorrow");
        assertThat(browser.get("/mail/inbox").page().select("#m" + message)).isEmpty();
        assertThat(browser.post("/act", "deed", "tickler", "ids", message, "due", day.minusDays(1))
                        .text())
                .contains("Choose a time that is still to come");
        cabinet.jdbc
                .sql("update message set until_on = until_on - 1 where id = ?")
                .param(message)
                .update();
        cabinet.tickler.bringBack(person.id());
        page = browser.get("/mail/inbox").page();
        assertThat(page.select("#m" + message + ".new .tickle").text()).isEqualTo("from the tickler");
        assertThat(page.select("#place-tickler").text()).isEqualTo("Tickler 1 back");
        assertThat(browser.get("/mail/tickler").page().select(".rows .div").eachText())
                .containsExactly("Back in the Inbox");
        browser.post("/act", "deed", "tickler", "ids", message, "due", "");
        assertThat(browser.get("/mail/tickler").page().select(".row")).isEmpty();
        assertThat(browser.get("/record").page().text()).contains("Tickler → Inbox", "until " + day);
    }

    @Test
    void timesAreThoseOfWhereOneIs() {
        arrives("A condition report");
        browser.post("/habits", "pane", "RIGHT", "density", "ROOMY", "opens", "inbox", "zone", "Asia/Tokyo");
        assertThat(browser.get("/mail/inbox").page().select(".row time").attr("title"))
                .endsWith("17:00");
        assertThat(browser.post(
                                "/habits",
                                "pane",
                                "RIGHT",
                                "density",
                                "ROOMY",
                                "opens",
                                "inbox",
                                "zone",
                                "Asia/Erewhon")
                        .text())
                .contains("There is no time zone “Asia/Erewhon”");
        browser.post("/habits", "pane", "RIGHT", "density", "ROOMY", "opens", "inbox", "zone", "UTC");
        assertThat(browser.get("/mail/inbox").page().select(".row time").attr("title"))
                .endsWith("08:00");
    }

    @Test
    void pressingAHeadSortsByItAndThenTheOtherWay() {
        arrives("Beta");
        arrives("Alpha");
        arrange("inColumns", true);
        browser.post("/mail/sort", "here", "/mail/inbox", "key", "SUBJECT");
        assertThat(subjects()).containsExactly("Alpha", "Beta");
        browser.post("/mail/sort", "here", "/mail/inbox", "key", "SUBJECT");
        assertThat(subjects()).containsExactly("Beta", "Alpha");
        assertThat(browser.get("/mail/inbox").page().select("#heads i.down")).hasSize(1);
    }

    private List<String> subjects() {
        return browser.get("/mail/inbox").page().select(".row .s b").eachText();
    }

    @ParameterizedTest
    @ValueSource(strings = {"SUBJECT", "SUBJECT:100,SUBJECT:200", "<b>:1", "SUBJECT:100;drop"})
    void columnsThatMakeNoSenseAreRefused(String columns) {
        arrange("inColumns", true);
        assertThat(browser.post("/mail/columns", "here", "/mail/inbox", "columns", columns)
                        .status())
                .isEqualTo(422);
        assertThat(heads()).hasSize(5);
    }

    private Places.Category category(String name) {
        return cabinet.places.of(person.id(), null).category(name).orElseThrow();
    }

    private String act(long message, String deed, Object... more) {
        Object[] all = new Object[4 + more.length];
        System.arraycopy(new Object[] {"ids", message, "deed", deed}, 0, all, 0, 4);
        System.arraycopy(more, 0, all, 4, more.length);
        return browser.post("/act", all).notice();
    }

    private List<String> stamps(long message) {
        return browser.get("/mail/inbox")
                .page()
                .select("#m" + message + " .rank")
                .eachAttr("title");
    }

    private void allowSeveral() {
        browser.post("/habits", "pane", "RIGHT", "density", "ROOMY", "opens", "inbox", "severalCategories", true);
    }

    @Test
    void oneCategoryTakesThePlaceOfAnotherUnlessSeveralAreWanted() {
        long message = arrives("One");
        long today = category("Today").id();
        long next = category("Next").id();
        act(message, "category", "place", next);
        act(message, "category", "place", today);
        assertThat(stamps(message)).containsExactly("Today");

        allowSeveral();
        act(message, "category", "place", next, "on", true);
        assertThat(stamps(message)).containsExactly("Today", "Next");
        assertThat(cabinet.waiting(account)).contains("MARK %d +category-next".formatted(message));
        assertThat(act(message, "category", "place", today, "on", false)).isEqualTo("Took off the category Today");
        assertThat(stamps(message)).containsExactly("Next");
        browser.post("/undo");
        assertThat(stamps(message)).containsExactly("Today", "Next");
        assertThat(act(message, "category")).isEqualTo("Category cleared");
        assertThat(stamps(message)).isEmpty();
        browser.post("/undo");
        assertThat(stamps(message)).containsExactly("Today", "Next");
    }

    @Test
    void theHighestOfSeveralCategoriesIsTheFirstWhateverBecomesOfThem() {
        allowSeveral();
        long message = arrives("One");
        for (String name : List.of("Today", "Next", "With others")) {
            act(message, "category", "place", category(name).id());
        }
        browser.post("/categories/" + category("Next").id() + "/up");
        assertThat(stamps(message)).containsExactly("Next", "Today", "With others");
        assertThat(first(message)).isEqualTo(category("Next").id());
        browser.post("/categories/" + category("Next").id() + "/remove");
        assertThat(stamps(message)).containsExactly("Today", "With others");
        assertThat(first(message)).isEqualTo(category("Today").id());
        browser.post("/categories/" + category("With others").id() + "/remove");
        assertThat(stamps(message)).containsExactly("Today");
    }

    private @Nullable Long first(long message) {
        return cabinet.messages.row(person.id(), message).orElseThrow().state().category();
    }

    @Test
    void aLabelHasAColourOfOnesOwnThatStandsOut() {
        long label =
                cabinet.places.label(person.id(), FolderPath.parse("Sails")).id();
        assertThat(browser.get("/mail/inbox").page().select("link[href^=/colours]"))
                .isEmpty();
        browser.post("/labels/" + label, "path", "Sails", "tone", "OWN", "own", "#ffdd00");
        assertThat(browser.get("/labels").text()).contains("a little darker than chosen");
        String address =
                browser.get("/mail/inbox").page().select("link[href^=/colours]").attr("href");
        Browser.Answer sheet = browser.get(address);
        String colour = address.substring("/colours/".length(), "/colours/".length() + 6);
        assertThat(sheet.text()).contains(".own-" + colour + " { --tone: #" + colour + "; }");
        assertThat(browser.get("/mail/inbox").page().select("#label-" + label + " .own-" + colour))
                .hasSize(1);

        assertThat(browser.post("/labels/" + label, "path", "Sails", "tone", "OWN", "own", "yellow")
                        .text())
                .contains("“yellow” is not a colour");
        browser.post("/labels/" + label, "path", "Sails", "tone", "MOSS");
        assertThat(browser.get("/mail/inbox").page().select("#label-" + label + " .tone-moss"))
                .hasSize(1);
        assertThat(browser.get("/colours/red.css").status()).isEqualTo(404);
    }

    @Test
    void messagesAreCopiedIntoAFolderThatIsMadeOnTheSpot() {
        long message = arrives("Loan form");
        assertThat(browser.get("/folders/pick?letters=Lo&kind=copy").page().select("#copy-choices li"))
                .as("to be made")
                .hasSize(1);
        assertThat(act(message, "copy", "path", "Loans/Forms")).isEqualTo("Copied into Loans / Forms");
        assertThat(cabinet.counts(person.id(), "Inbox")).isEqualTo("1/1");
        assertThat(cabinet.counts(person.id(), "Loans / Forms")).isEqualTo("1/1");
        assertThat(cabinet.waiting(account)).containsExactly("COPY %d Loans / Forms".formatted(message));
        assertThat(browser.post("/undo").notice()).isEqualTo("Undone: Copied into Loans / Forms.");
        assertThat(cabinet.counts(person.id(), "Loans / Forms")).isEqualTo("none");
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    @Test
    void carryingOverTellsHowFarItIsAndWhatCannotBe() {
        Account theatre = cabinet.account(person.id(), "TS");
        long message = arrives("Tour dates");
        Browser.Answer answer = browser.post("/act", "ids", message, "deed", "carry", "place", theatre.id());
        assertThat(answer.text()).contains("Moved to", "0 done", "/carried/");
        assertThat(act(message, "carry", "place", account.id())).isEqualTo("No change: it is there already.");

        cabinet.jdbc
                .sql("update server_order set trouble = 'The account is full.' where account_id = ?")
                .param(theatre.id())
                .update();
        long batch = cabinet.jdbc
                .sql("select max(id) from batch where user_id = ?")
                .param(person.id())
                .query(Long.class)
                .single();
        assertThat(browser.get("/carried/" + batch + "?of=1&title=x").text()).contains("1 of 1 were refused");
        cabinet.jdbc
                .sql("update account set protocol = 'POP3' where id = ?")
                .param(theatre.id())
                .update();
        assertThat(browser.post("/act", "ids", message, "deed", "carry", "place", theatre.id())
                        .text())
                .contains("only gives mail out");
    }

    @Test
    void aDeletedFolderComesBackWithAllThatWasInIt() {
        long loans = cabinet.folder(person.id(), "Loans").id();
        long empty = cabinet.folder(person.id(), "Loans/Empty").id();
        long message = arrives("One");
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(message), state -> state.in(loans));
        browser.post("/folders/" + loans + "/delete");
        assertThat(browser.get("/folders/deleted").page().select(".place-row").text())
                .contains("Loans", "with the folder in it", "One message of it is in the trash");
        browser.post("/folders/deleted/" + loans);
        assertThat(cabinet.counts(person.id(), "Loans")).isEqualTo("1/1");
        assertThat(browser.get("/mail/folder/" + empty).status()).isEqualTo(200);
        assertThat(browser.get("/folders/deleted").page().select(".place-row")).isEmpty();

        browser.post("/folders/" + empty + "/delete");
        assertThat(browser.get("/mail/folder/" + empty).status()).isEqualTo(404);
        browser.post("/folders/deleted/" + empty);
        assertThat(browser.get("/mail/folder/" + empty).status()).isEqualTo(200);
    }

    @Test
    void nobodyPutsBackOrCopiesWhatBelongsToOthers(Office office) {
        CurrentUser other = office.person();
        long theirs = cabinet.folder(other.id(), "Theirs").id();
        new Browser(office, other).post("/folders/" + theirs + "/delete");
        browser.post("/folders/deleted/" + theirs);
        assertThat(cabinet.places.of(other.id(), null).folder(theirs)).isEmpty();
        Account foreign = cabinet.account(other.id(), "XX");
        long message = cabinet.arrives(foreign, TestMail.from("Anna <anna@wharf.example>", "Secret"));
        act(message, "copy", "path", "Mine");
        assertThat(cabinet.counts(person.id(), "Mine")).isEqualTo("0/0");
        assertThat(browser.post("/act", "ids", arrives("x"), "deed", "carry", "place", foreign.id())
                        .text())
                .contains("This account is gone.");
    }
}
