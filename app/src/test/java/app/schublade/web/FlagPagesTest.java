package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Text;
import app.schublade.core.place.FlagRef;
import app.schublade.store.account.Account;
import app.schublade.store.cabinet.FlagStore;
import app.schublade.store.message.ListRow;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RoutineStore;
import app.schublade.store.rule.RulePauses;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Flags of the user's own: their page, their lists, and all that can flag. */
@ExtendWith(Office.Extension.class)
class FlagPagesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    FlagPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
        Stream.of("To call", "To pay").forEach(name -> browser.post("/flags", "name", name));
    }

    private List<Places.OwnFlag> flags() {
        return cabinet.places.of(person.id(), null).flags();
    }

    private Places.OwnFlag flag(String name) {
        return flags().stream()
                .filter(one -> one.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private long arrives(String subject) {
        return cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", subject));
    }

    private ListRow row(long message) {
        return cabinet.messages.row(person.id(), message).orElseThrow();
    }

    private String act(long message, String deed, Object... more) {
        Object[] fields = Stream.concat(Stream.of("ids", message, "deed", deed, "here", "/mail/inbox"), Stream.of(more))
                .toArray();
        return browser.post("/act", fields).notice();
    }

    /** A rule that flags them. */
    private long bills(Places.OwnFlag flag) {
        return cabinet.rules.save(
                person.id(),
                new Rule(
                        0,
                        "Bills",
                        true,
                        List.of(Text.subject("bill")),
                        List.of(),
                        List.of(new Effect.FlagAs(flag.ref())),
                        false));
    }

    private void remove(Places.OwnFlag flag) {
        browser.post("/flags/" + flag.id() + "/remove");
        Await.until("it is gone", () -> !flags().contains(flag));
    }

    @Test
    void eachHasItsListItsCountAndItsColour() {
        long first = arrives("First");
        long second = arrives("Second");
        assertThat(act(first, "flag_as", "place", flag("To pay").id())).isEqualTo("Flagged as To pay");
        act(second, "flag");
        String list = "/mail/flag/" + flag("To pay").id();
        assertThat(browser.get(list).page().select("#rows .row").eachAttr("data-id"))
                .containsExactly(String.valueOf(first));
        assertThat(browser.get("/mail/flagged").page().select("#rows .row")).hasSize(2);
        assertThat(browser.get("/mail/inbox")
                        .page()
                        .select("#flag-" + flag("To pay").id())
                        .text())
                .isEqualTo("To pay1");
        assertThat(browser.get("/mail/inbox")
                        .page()
                        .select("#m" + first + " .ribbon")
                        .attr("class"))
                .isEqualTo("ribbon own " + flag("To pay").tone().css());
        assertThat(browser.get("/mail/inbox").page().select("#m" + first).text())
                .contains("flagged To pay");
        assertThat(flags()).extracting(Places.OwnFlag::tone).doesNotHaveDuplicates();
        assertThat(browser.get("/mail/flag/999999").status()).isEqualTo(404);
        for (String words : List.of("in%20To%20pay", "flagged%20to%20pay", "flagged%20as%20to%20pay")) {
            assertThat(browser.get("/mail/find?words=" + words)
                            .page()
                            .select("#rows .row")
                            .eachAttr("data-id"))
                    .as(words)
                    .containsExactly(String.valueOf(first));
        }
    }

    @Test
    void anotherOneTakesItsPlaceAndTheDueDateStays() {
        long message = arrives("Bill");
        act(message, "flag_as", "place", flag("To pay").id());
        act(message, "due", "due", "2027-01-02");
        assertThat(row(message).state().flag()).isEqualTo(flag("To pay").id());
        act(message, "flag_as", "place", flag("To call").id());
        assertThat(row(message).due()).hasToString("2027-01-02");
        browser.post("/undo");
        assertThat(row(message).state().flag()).isEqualTo(flag("To pay").id());
        act(message, "unflag");
        assertThat(row(message).state().flag()).isNull();
        browser.post("/undo");
        assertThat(row(message).state().flag()).isEqualTo(flag("To pay").id());
        act(message, "flag");
        assertThat(row(message).state().flag())
                .as("it is flagged already")
                .isEqualTo(flag("To pay").id());
    }

    @Test
    void oneThatIsDeletedLeavesItsMessagesFlaggedAndComesBackWithAll() {
        long message = arrives("Bill");
        Places.OwnFlag pay = flag("To pay");
        act(message, "flag_as", "place", pay.id());
        long rule = bills(pay);
        browser.post("/routines/0", "name", "Pay later", "thenKind", "FLAG_AS", "thenText", "To pay");
        assertThat(browser.get("/flags").text())
                .contains("These use it and will be paused when it is deleted: Bills, the routine Pay later.");
        remove(flag("To pay"));
        assertThat(row(message).flagged()).isTrue();
        assertThat(row(message).state().flag()).isNull();
        assertThat(cabinet.bean(RulePauses.class).reasons(person.id())).containsEntry(rule, "The flag To pay is gone.");
        assertThat(act(message, "flag_as", "place", pay.id())).contains("This flag is gone");
        browser.post("/undo");
        assertThat(row(message).state().flag()).isEqualTo(pay.id());
        assertThat(cabinet.rules.byId(person.id(), rule).orElseThrow().on()).isTrue();
    }

    /** Undo of an older act wants a flag that is gone meanwhile. */
    @Test
    void undoNeverFailsForAFlagThatIsGone() {
        long message = arrives("Bill");
        act(message, "flag_as", "place", flag("To pay").id());
        act(message, "flag_as", "place", flag("To call").id());
        long act = cabinet.jdbc
                .sql("select max(id) from batch where user_id = ?")
                .param(person.id())
                .query(Long.class)
                .single();
        remove(flag("To pay"));
        cabinet.undo.act(person.id(), act);
        assertThat(row(message).flagged()).isTrue();
        assertThat(row(message).state().flag()).isNull();
    }

    @Test
    void rulesAndRoutinesFlagSo() {
        bills(flag("To pay"));
        long bill = arrives("Your bill");
        assertThat(row(bill).state().flag()).isEqualTo(flag("To pay").id());
        assertThat(browser.get("/mail/inbox?open=" + bill)
                        .page()
                        .select("#sheet")
                        .text())
                .contains("Flagged as To pay");

        browser.post("/routines/0", "name", "Call back", "thenKind", "FLAG_AS", "thenText", "to CALL");
        long routine = cabinet.bean(RoutineStore.class).of(person.id()).stream()
                .filter(one -> one.name().equals("Call back"))
                .findFirst()
                .orElseThrow()
                .id();
        act(bill, "routine", "place", routine);
        assertThat(row(bill).state().flag()).isEqualTo(flag("To call").id());
        assertThat(browser.post("/routines/0", "name", "Odd", "thenKind", "FLAG_AS", "thenText", "Nothing")
                        .text())
                .contains("There is no flag “Nothing”; there are: To call, To pay.");
        browser.post("/flags/" + flag("To call").id(), "name", "To ring", "tone", "PLUM");
        assertThat(browser.get("/routines").text()).contains("Flag as To ring");
        remove(flag("To ring"));
        assertThat(browser.get("/routines").text()).contains("It names what is gone: the flag To call");
    }

    /** "Do it once, keep it." */
    @Test
    void whatWasDoneByHandBecomesAStep() {
        long message = arrives("Bill");
        act(message, "flag_as", "place", flag("To pay").id());
        assertThat(browser.get("/routines?example=true")
                        .page()
                        .select("[name=thenText]")
                        .eachAttr("value"))
                .contains("To pay");
    }

    @Test
    void theyAreNamedOrderedAndLimited() {
        assertThat(browser.post("/flags", "name", "to CALL").text()).contains("There is a flag to CALL already.");
        assertThat(browser.post("/flags", "name", " ").text()).contains("cannot be the name of a flag");
        assertThat(browser.post("/flags/" + flag("To pay").id(), "name", "to call", "tone", "PLUM")
                        .text())
                .contains("There is a flag to call already.");
        browser.post("/flags/" + flag("To pay").id() + "/up");
        assertThat(flags()).extracting(Places.OwnFlag::name).containsExactly("To pay", "To call");
        for (int i = flags().size(); i < FlagStore.MOST; i++) {
            browser.post("/flags", "name", "Flag " + i);
        }
        assertThat(browser.post("/flags", "name", "One more").text()).contains("no more are possible");
        assertThat(flags()).hasSize(FlagStore.MOST);
    }

    @Test
    void nobodyTouchesThoseOfOthers() {
        long message = arrives("Bill");
        FlagRef pay = flag("To pay").ref();
        CurrentUser stranger = office.person();
        Browser other = new Browser(office, stranger);
        long theirs = cabinet.arrives(cabinet.account(stranger.id(), "CL"), TestMail.from("a@b.example", "Theirs"));
        assertThat(other.post("/act", "ids", theirs, "deed", "flag_as", "place", pay.id(), "here", "/mail/inbox")
                        .notice())
                .contains("This flag is gone");
        other.post("/flags/" + pay.id(), "name", "Mine", "tone", "PLUM");
        assertThat(other.post("/flags/" + pay.id() + "/remove").status()).isEqualTo(404);
        assertThat(other.get("/mail/flag/" + pay.id()).status()).isEqualTo(404);
        assertThat(flag("To pay").ref()).isEqualTo(pay);
        assertThat(row(message).flagged()).isFalse();
    }
}
