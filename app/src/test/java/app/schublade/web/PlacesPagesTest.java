package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Text;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.Tone;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.place.Places;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Folders, labels, categories and trays, and the cabinet that they stand in. */
@ExtendWith(Office.Extension.class)
class PlacesPagesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    PlacesPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    private long arrives(String subject) {
        return cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", subject));
    }

    private long folder(String path) {
        return cabinet.folder(person.id(), path).id();
    }

    private long label(String path) {
        return cabinet.places
                .label(person.id(), app.schublade.core.place.FolderPath.parse(path))
                .id();
    }

    private List<String> drawers() {
        return browser.get("/mail/inbox").page().select("#cabinet [data-own]").eachAttr("data-name");
    }

    @Test
    void foldersStandAsTheyArePutAndFromAToZAgain() {
        long loans = folder("Loans");
        long archive = folder("Alpha");
        long halden = folder("Loans/Halden");
        folder("Zebra");
        assertThat(drawers()).containsExactly("Alpha", "Loans", "Loans / Halden", "Zebra");
        browser.post("/folders/" + loans + "/put", "other", archive, "where", "before");
        assertThat(drawers()).containsExactly("Loans", "Loans / Halden", "Alpha", "Zebra");
        assertThat(browser.post("/folders/" + archive + "/put", "other", loans, "where", "in")
                        .notice())
                .isEqualTo("Alpha is Loans / Alpha now");
        assertThat(drawers()).containsExactly("Loans", "Loans / Halden", "Loans / Alpha", "Zebra");
        browser.post("/folders/" + archive + "/put", "other", halden, "where", "before");
        assertThat(drawers()).containsExactly("Loans", "Loans / Alpha", "Loans / Halden", "Zebra");
        assertThat(browser.post("/folders/" + loans + "/put", "other", halden, "where", "in")
                        .text())
                .contains("Loans cannot be inside itself.");
        browser.post("/folders/" + folder("Zebra") + "/turn/pinned", "on", true);
        assertThat(drawers()).startsWith("Zebra");
        browser.post("/folders/" + folder("Zebra") + "/turn/pinned", "on", false);
        browser.post("/cabinet/by-name");
        assertThat(drawers()).containsExactly("Loans", "Loans / Alpha", "Loans / Halden", "Zebra");
    }

    @Test
    void theMenuOfAPlaceMakesOneInItAndColoursALabel() {
        long loans = folder("Loans");
        long objects = label("Objects");
        for (String menu : List.of("/folders/" + loans + "/menu", "/labels/" + objects + "/menu")) {
            assertThat(browser.get(menu).page().body().children()).as(menu).hasSize(1);
        }
        assertThat(browser.post("/folders/" + loans + "/within", "name", "Crates")
                        .notice())
                .isEqualTo("Created the folder Loans / Crates");
        assertThat(drawers()).containsExactly("Loans", "Loans / Crates");
        assertThat(browser.post("/folders/" + loans + "/within", "name", "crates")
                        .notice())
                .isEqualTo("There is a folder Loans / Crates already.");
        assertThat(browser.post("/folders/" + loans + "/within", "name", " ").status())
                .isEqualTo(422);
        browser.post("/labels/" + objects + "/within", "name", "Sails");
        assertThat(browser.post("/labels/" + objects + "/tone/BRICK").notice())
                .isEqualTo("Recoloured the label Objects");
        assertThat(cabinet.places.of(person.id(), null).labels())
                .extracting(one -> one.path().shown() + " " + one.tone())
                .contains("Objects BRICK")
                .anyMatch(one -> one.startsWith("Objects / Sails "));
        browser.post("/undo");
        assertThat(cabinet.places
                        .of(person.id(), null)
                        .label(objects)
                        .orElseThrow()
                        .tone())
                .isNotEqualTo(Tone.BRICK);
        assertThat(new Browser(office, office.person())
                        .post("/folders/" + loans + "/within", "name", "Mine")
                        .status())
                .isEqualTo(404);
        browser.post("/labels", "path", "Values", "tone", "MOSS");
        assertThat(cabinet.places.of(person.id(), null).labels())
                .anyMatch(one -> one.path().shown().equals("Values") && one.tone() == Tone.MOSS);
    }

    @Test
    void aFolderInAServersInboxSaysWhereItIs() {
        folder("INBOX/Halden");
        folder("Halden");
        assertThat(browser.get("/mail/inbox")
                        .page()
                        .select("#cabinet [data-own] .name")
                        .eachText())
                .containsExactly("Halden", "Inbox / Halden");
    }

    @Test
    void hiddenAndFoldedPlacesComeBackWithWhatIsUnread() {
        long loans = folder("Loans");
        long halden = folder("Loans/Halden");
        folder("Schools");
        browser.post("/folders/" + loans + "/turn/folded", "on", true);
        assertThat(drawers()).containsExactly("Loans", "Schools");
        browser.post("/folders/" + folder("Schools") + "/turn/hidden", "on", true);
        assertThat(drawers()).containsExactly("Loans");
        browser.post("/cabinet/hidden-too", "on", true);
        assertThat(drawers()).containsExactly("Loans", "Schools");
        browser.post("/cabinet/unread-only", "on", true);
        assertThat(drawers()).isEmpty();
        long message = arrives("One");
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(message), state -> state.in(halden));
        assertThat(drawers()).containsExactly("Loans");
        assertThat(browser.get("/mail/inbox")
                        .page()
                        .select("#place-" + loans + " .plate")
                        .text())
                .isEqualTo("1");
        browser.post("/folders/" + loans + "/turn/folded", "on", false);
        assertThat(drawers()).containsExactly("Loans", "Loans / Halden");
    }

    @Test
    void twoFoldersBecomeOneWithTheirRulesAndOneUndo() {
        long from = folder("Halden");
        long inner = folder("Halden/Returned");
        long into = folder("Loans");
        long one = arrives("One");
        long two = arrives("Two");
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(one), state -> state.in(from));
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(two), state -> state.in(inner));
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "halden.example", "Halden"));
        assertThat(browser.get("/folders/" + from).page().select("option").text())
                .contains("Loans")
                .doesNotContain("Returned");
        browser.post("/folders/" + from + "/merge", "into", into);
        assertThat(browser.get("/mail/folder/" + into).notice()).contains("Merged Halden into Loans: 2 messages");
        assertThat(cabinet.lies(person.id(), one)).isEqualTo("Loans");
        assertThat(cabinet.lies(person.id(), two)).isEqualTo("Loans / Returned");
        assertThat(drawers()).containsExactly("Loans", "Loans / Returned");
        assertThat(cabinet.rules.all(person.id()).get(0).sentence())
                .contains("Loans")
                .doesNotContain("Halden /");
        browser.post("/undo");
        assertThat(cabinet.lies(person.id(), two)).isEqualTo("Halden / Returned");
        long within = folder("Loans/Returned");
        browser.post("/folders/" + into + "/merge", "into", within);
        assertThat(browser.get("/mail/folder/" + within).notice()).contains("contain each other");
    }

    @Test
    void labelsAreRenamedRecolouredAndTakenAwayWithoutTouchingTheMail() {
        long objects = label("Objects");
        long models = label("Objects/Ship models");
        long message = arrives("One");
        assertThat(browser.post("/act", "ids", message, "deed", "label", "place", models, "on", true)
                        .notice())
                .isEqualTo("Labelled Objects / Ship models");
        assertThat(browser.get("/labels")
                        .page()
                        .select("#label-row-" + models + " summary")
                        .text())
                .contains("Ship models", "1 message");
        browser.post("/labels/" + objects, "path", "Things", "tone", "PLUM", "below", true);
        Places.Label renamed =
                cabinet.places.of(person.id(), null).label(models).orElseThrow();
        assertThat(renamed.path().shown()).isEqualTo("Things / Ship models");
        assertThat(renamed.tone().name()).isEqualTo("PLUM");
        assertThat(browser.post("/labels/" + objects, "path", "Things / Inner", "tone", "PLUM")
                        .notice())
                .contains("Things cannot be inside itself");
        assertThat(browser.get("/mail/label/" + objects).page().select(".row")).hasSize(1);
        assertThat(browser.get("/mail/label/" + objects + "?alone=on").page().select(".row"))
                .isEmpty();
        browser.post("/labels/" + objects + "/remove");
        assertThat(cabinet.places.of(person.id(), null).labels()).isEmpty();
        assertThat(cabinet.messages.row(person.id(), message).orElseThrow().labels())
                .isEmpty();
    }

    @Test
    void categoriesAreRankedStampedAndDatedAndSetByOneKey() {
        long message = arrives("One");
        Places.Category next =
                cabinet.places.of(person.id(), null).category("Next").orElseThrow();
        browser.post("/categories/" + next.id(), "name", "Soon", "tone", "OCEAN", "mark", "!", "dueDays", 2);
        browser.post("/categories/" + next.id() + "/up");
        assertThat(cabinet.places.categories(person.id()))
                .extracting(Places.Category::name)
                .containsExactly("Soon", "Today", "With others");
        assertThat(browser.post("/act", "ids", message, "deed", "category", "place", next.id())
                        .notice())
                .isEqualTo("Category Soon");
        Document page = browser.get("/mail/inbox").page();
        assertThat(page.select("#m" + message + " .rank").text()).isEqualTo("!");
        assertThat(page.select("#m" + message + " .due").text()).startsWith("due ");
        assertThat(browser.post("/act", "ids", message, "deed", "category").notice())
                .isEqualTo("Category cleared");
        assertThat(browser.post("/categories/" + next.id(), "name", "Today", "tone", "OCEAN")
                        .text())
                .contains("There is a category Today already.");
        assertThat(browser.post("/categories/" + next.id(), "name", "x", "tone", "OCEAN", "mark", "abc")
                        .text())
                .contains("does not fit in a stamp");
        browser.post("/categories/" + next.id() + "/remove");
        assertThat(cabinet.places.categories(person.id()))
                .extracting(Places.Category::rank)
                .containsExactly(1, 2);
    }

    @Test
    void traysSayWhyAndLearnASender() {
        long message = arrives("Lunch");
        Places.Tray people = cabinet.places.of(person.id(), null).trays().get(0);
        assertThat(browser.get("/mail/tray/" + people.id()).page().select(".row"))
                .hasSize(1);
        assertThat(browser.get("/mail/inbox?open=" + message)
                        .page()
                        .select("#sheet .who")
                        .text())
                .contains("Inbox / People", "In People because a person writes");
        browser.post("/trays", "name", "Conservation");
        long own = cabinet.places.of(person.id(), null).trays().get(4).id();
        Document put = browser.post("/act", "ids", message, "deed", "tray", "place", own)
                .page();
        assertThat(put.select("#notice").text())
                .contains("Put into the tray Conservation", "Always for o@grebe.example");
        assertThat(browser.get("/mail/inbox?open=" + message)
                        .page()
                        .select("#sheet .who")
                        .text())
                .contains("Inbox / Conservation")
                .doesNotContain("because");
        browser.post(put.select("#notice [data-posts*=always]").attr("data-posts"));
        long second = arrives("Dinner");
        assertThat(cabinet.messages.row(person.id(), second).orElseThrow().tray())
                .isEqualTo(own);
        assertThat(browser.get("/trays").page().select(".members").text()).contains("o@grebe.example");
        browser.post("/trays/senders/remove", "value", "o@grebe.example");
        browser.post("/trays/" + own + "/up");
        assertThat(cabinet.places.of(person.id(), null).trays().get(3).id()).isEqualTo(own);
        browser.post("/trays/" + own, "name", "Notes", "kind", "PEOPLE");
        assertThat(cabinet.places
                        .of(person.id(), null)
                        .tray(people.id())
                        .orElseThrow()
                        .kind())
                .isNull();
        browser.post("/trays/" + own + "/remove");
        assertThat(cabinet.messages.row(person.id(), second).orElseThrow().tray())
                .isNull();
    }

    @Test
    void theDeskIsAsItIsLiked() {
        long loans = folder("Loans");
        browser.post("/habits", "pane", "BELOW", "density", "SINGLE", "readAfter", "", "opens", "folder/" + loans);
        assertThat(browser.get("/").header("Location")).endsWith("/mail/folder/" + loans);
        Document page = browser.get("/mail/inbox").page();
        assertThat(page.select(".app.pane-below.rows-single")).hasSize(1);
        assertThat(page.expectFirst(".main").hasAttr("data-read-after")).isFalse();
        assertThat(page.select("#cabinet [data-tray]")).isEmpty();
        assertThat(browser.post("/habits", "pane", "BELOW", "density", "SINGLE", "opens", "//elsewhere.example")
                        .text())
                .contains("There is no such first page");
    }

    @Test
    void keysAreChosenAndFreeAgain() {
        browser.post("/habits/keys", "usual", "a", "chosen", "x");
        browser.post("/habits/keys", "usual", "g", "chosen", "x");
        assertThat(browser.get("/mail/inbox").page().select(".app").attr("data-keys"))
                .isEqualTo("g=x");
        browser.post("/habits/keys", "usual", "Shift+1", "chosen", "F4");
        browser.post("/habits/keys", "usual", "Shift+g", "chosen", "Shift+b");
        assertThat(browser.get("/mail/inbox").page().select(".app").attr("data-keys"))
                .contains("Shift+g=Shift+b");
        browser.post("/habits/keys", "usual", "Shift+g", "chosen", "Shift+g");
        assertThat(browser.get("/habits").page().select(".members").text())
                .isEqualTo("F4 in the place of Shift+1 x in the place of g");
        browser.post("/habits/keys", "usual", "g", "chosen", "g");
        assertThat(browser.get("/mail/inbox").page().select(".app").attr("data-keys"))
                .isEqualTo("Shift+1=F4");
        for (String odd : List.of("", "Enter x", "<b>", "A")) {
            assertThat(browser.post("/habits/keys", "usual", "a", "chosen", odd).status())
                    .isEqualTo(422);
        }
        browser.post("/habits/usual-keys");
        assertThat(browser.get("/mail/inbox").page().select(".app").attr("data-keys"))
                .isEmpty();
    }

    @Test
    void aListIsArrangedForItsPlaceOrForAll() {
        arrives("B");
        arrives("A");
        browser.post("/mail/arrange", "here", "/mail/inbox", "grouping", "CATEGORY", "order", "SUBJECT");
        Document page = browser.get("/mail/inbox").page();
        assertThat(page.select(".row .s b").eachText()).containsExactly("A", "B");
        assertThat(page.select(".rows .div").eachText()).containsExactly("No category");
        assertThat(browser.get("/mail/flagged").page().select(".arrange b").text())
                .isEqualTo("day");
        browser.post(
                "/mail/arrange", "here", "/mail/flagged", "grouping", "NONE", "order", "OLDEST", "everywhere", true);
        assertThat(browser.get("/mail/inbox").page().select(".arrange b").text())
                .isEqualTo("nothing");
        assertThat(browser.post("/mail/arrange", "here", "/rules", "grouping", "NONE", "order", "OLDEST")
                        .status())
                .isEqualTo(422);
    }

    @Test
    void placesAndLabelsAreFoundByAFewLetters() {
        long loans = folder("Loans");
        long label = label("Objects/Ship models");
        Document goals = browser.get("/places/pick?letters=ship").page();
        assertThat(goals.expectFirst("li").attr("data-href")).isEqualTo("/mail/label/" + label);
        assertThat(browser.get("/places/pick?letters=loa")
                        .page()
                        .expectFirst("li")
                        .attr("data-href"))
                .isEqualTo("/mail/folder/" + loans);
        Document labels = browser.get("/labels/pick?letters=ship&on=" + label).page();
        assertThat(labels.expectFirst("li").attr("data-on")).isEqualTo("false");
        assertThat(browser.get("/labels/pick?letters=sails")
                        .page()
                        .expectFirst("li")
                        .attr("data-path"))
                .isEqualTo("sails");
    }

    @ParameterizedTest
    @ValueSource(strings = {"/folders/%d/menu", "/folders/%d/all/read", "/folders/%d/put?other=1&where=in"})
    void foldersOfOthersAreNotThere(String address) {
        Browser stranger = new Browser(office, office.person());
        String path = address.formatted(folder("Loans"));
        assertThat((path.endsWith("menu") ? stranger.get(path) : stranger.post(path)).status())
                .isEqualTo(404);
    }

    @Test
    void aLabelGoesWithoutAQuestionAndComesBackWhereverZIsPressed() {
        long message = arrives("Loan");
        LabelRef label = cabinet.places.label(person.id(), FolderPath.parse("Values"));
        LabelRef inner = cabinet.places.label(person.id(), FolderPath.parse("Values/High"));
        cabinet.filing.act(person.id(), Cause.HAND, "x", List.of(message), state -> state.with(inner.id(), true));
        cabinet.rules.save(
                person.id(),
                new Rule(
                        0,
                        "High ones",
                        true,
                        List.of(Text.subject("loan")),
                        List.of(),
                        List.of(new Effect.SetLabel(inner, true)),
                        false));
        String row =
                browser.get("/labels").page().select("#label-row-" + label.id()).text();
        assertThat(row).contains("it comes off 1 message").contains("These use it and will be paused: High ones.");
        browser.post("/labels/" + label.id() + "/remove");
        assertThat(browser.get("/labels").notice()).isEqualTo("Label deleted; its messages stay where they are");
        assertThat(browser.get("/rules").text()).contains("Paused: The label Values is gone.");

        Browser.Answer undone = browser.post("/undo", "page", "/labels");
        assertThat(undone.header("HX-Redirect")).isEqualTo("/labels");
        assertThat(browser.get("/labels").page().select("#label-row-" + inner.id()))
                .isNotEmpty();
        assertThat(cabinet.messages.row(person.id(), message).orElseThrow().labels())
                .contains(inner.id());
        assertThat(browser.get("/rules").text()).doesNotContain("Paused");
        assertThat(browser.get("/record/acts").text())
                .contains("Took away the label Values")
                .contains("undone");
    }

    @Test
    void aFolderIsMadeOnTheServerThatOneChooses() {
        String page = "/folders/" + folder("Loans");
        assertThat(browser.get(page).page().select("button[name=account]").eachText())
                .containsExactly("Account MU");
        assertThat(browser.post(page + "/servers", "account", account.id()).status())
                .isEqualTo(302);
        Document told = browser.get(page).page();
        assertThat(told.select("button[name=account][disabled]").eachText()).containsExactly("Account MU (under way)");
        assertThat(told.select("#notice").text())
                .as("what Z takes back is something else")
                .contains("It is being created on the server of Account MU")
                .doesNotContain("Undo");
        assertThat(browser.post(page + "/servers", "account", 0).status()).isEqualTo(404);
        assertThat(new Browser(office, office.person())
                        .post(page + "/servers", "account", account.id())
                        .status())
                .isEqualTo(404);
    }
}
