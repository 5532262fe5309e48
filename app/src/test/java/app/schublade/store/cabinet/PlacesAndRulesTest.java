package app.schublade.store.cabinet;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.filing.Attached;
import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.FromList;
import app.schublade.core.filing.Group;
import app.schublade.core.filing.InAccount;
import app.schublade.core.filing.Marked;
import app.schublade.core.filing.Not;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Sized;
import app.schublade.core.filing.Text;
import app.schublade.core.filing.Traits;
import app.schublade.core.message.Trait;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.place.Places;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

@ExtendWith(Cabinet.Extension.class)
class PlacesAndRulesTest {
    private final Cabinet cabinet;
    private long user;

    PlacesAndRulesTest(Cabinet cabinet) {
        this.cabinet = cabinet;
    }

    @BeforeEach
    void somebody() {
        user = cabinet.user();
    }

    /** Of every kind of condition; or each batch of new mail would have them compiled anew. */
    @Test
    void rulesAreCompiledOnceUntilOneOrANameInOneChanges() {
        FolderRef loans = cabinet.folder(user, "Loans");
        LabelRef wood = cabinet.places.label(user, FolderPath.parse("Wood"));
        Account account = cabinet.account(user, "MU");
        List<Condition> all = List.of(
                Text.subject("invoice"),
                new Text(Text.Where.BODY, "", Text.Match.WILDCARD, List.of("loan * of ?")),
                new Text(Text.Where.SUBJECT, "", Text.Match.REGEX, List.of("^loan \\d+$")),
                Correspondent.sender("wharf.example"),
                new SentTo(List.of("loans@quay.example")),
                new FromList(List.of("circular.example")),
                new InAccount(List.of(account.ref())),
                new Marked(List.of(wood), List.of(), false),
                new Traits(List.of(Trait.AUTOMATED)),
                new Sized(true, true, 2_000_000),
                new Attached(Attached.By.NAME, List.of("*.pdf")),
                new Not(new Group(false, List.of(Text.subject("a"), Text.subject("b")))));
        long last = 0;
        for (Condition one : all) {
            last = cabinet.rules.save(
                    user, new Rule(0, "", true, List.of(one), List.of(), List.of(new Effect.FileInto(loans)), false));
        }
        RuleBook book = cabinet.rules.book(user);
        assertThat(cabinet.rules.book(user)).isSameAs(book);
        cabinet.rules.book(cabinet.user());
        assertThat(cabinet.rules.book(user)).isSameAs(book);
        cabinet.jdbc
                .sql("update label set path = 'Timber' where id = ?")
                .param(wood.id())
                .update();
        RuleBook renamed = cabinet.rules.book(user);
        assertThat(renamed).isNotSameAs(book);
        cabinet.rules.delete(user, last);
        assertThat(cabinet.rules.book(user).rules()).hasSize(all.size() - 1);
    }

    @Test
    void aNewUserHasTheSpecialFoldersOnce() {
        Places places = cabinet.places.of(user, null);
        for (SpecialUse use : SpecialUse.values()) {
            assertThat(places.special(use).path()).isEqualTo(use.path());
            assertThat(cabinet.places.special(user, use))
                    .isEqualTo(places.special(use).id());
        }
        assertThat(places.folders()).hasSize(SpecialUse.values().length);
    }

    @Test
    void aFolderIsMadeWithAllThatItLiesInAndOnlyOnce() {
        FolderRef deep = cabinet.folder(user, "Loans / Halden / 2027");
        assertThat(cabinet.folder(user, "loans/halden/2027").id()).isEqualTo(deep.id());
        assertThat(cabinet.places.of(user, null).folders())
                .extracting(folder -> folder.path().toString())
                .contains("Loans", "Loans/Halden", "Loans/Halden/2027");
    }

    @Test
    void equalFoldersOfTwoAccountsAreOne() {
        Account museum = cabinet.account(user, "MU");
        Account club = cabinet.account(user, "RC");
        Mailbox here = cabinet.mailbox(museum, "Loans/Halden");
        Mailbox there = cabinet.mailbox(club, "Loans/Halden");
        assertThat(here.folderId()).isEqualTo(there.folderId());
        assertThat(cabinet.mailboxes.mailboxOf(club.id(), here.folderId())).contains(there);
        cabinet.arrives(museum, here, TestMail.from("a@b.example", "Here"));
        cabinet.arrives(club, there, TestMail.from("a@b.example", "There").read());
        assertThat(cabinet.counts(user, "Loans / Halden")).isEqualTo("2/1");
    }

    @Test
    void labelsAndCategoriesGetKeywordsThatServersTake() {
        long label = cabinet.places
                .label(user, FolderPath.parse("Größe & Maß/Ελλάδα"))
                .id();
        cabinet.places.category(user, "With others, soon");
        Places places = cabinet.places.of(user, null);
        assertThat(places.label(label).orElseThrow().keyword()).matches("[a-z0-9_.-]+");
        assertThat(places.categories()).allMatch(category -> category.keyword().matches("[a-z0-9_.-]+"));
        assertThat(places.categories()).extracting(Places.Category::rank).doesNotHaveDuplicates();
        assertThat(cabinet.places.category(user, "with others, SOON").id())
                .isEqualTo(cabinet.places.category(user, "With others, soon").id());
    }

    private Rule everything(Account account) {
        return new Rule(
                0,
                "Everything",
                true,
                List.of(
                        Correspondent.sender("a@b.example", "halden.example"),
                        Text.subject("loan agreement", "values, revised"),
                        new SentTo(List.of("loans@quay.example")),
                        new FromList(List.of("rowers.club.example")),
                        new InAccount(List.of(new InAccount.Ref(account.id(), account.name())))),
                List.of(Text.subject("newsletter")),
                List.of(
                        new Effect.FileInto(cabinet.folder(user, "Loans/Halden")),
                        new Effect.SetLabel(cabinet.places.label(user, FolderPath.parse("Contract")), true),
                        new Effect.Categorise(cabinet.places.category(user, "Next")),
                        new Effect.MarkRead(true)),
                true);
    }

    @Test
    void aRuleComesBackAsItWasKept() {
        Rule rule = everything(cabinet.account(user, "MU"));
        long id = cabinet.rules.save(user, rule);
        Rule kept = cabinet.rules.book(user).rules().get(0);
        assertThat(kept).isEqualTo(new Rule(id, rule.name(), true, rule.when(), rule.unless(), rule.then(), true));
        Rule changed = new Rule(
                id,
                "Changed",
                false,
                rule.unless(),
                List.of(),
                List.of(rule.then().get(3)),
                false);
        assertThat(cabinet.rules.save(user, changed)).isEqualTo(id);
        assertThat(cabinet.rules.book(user).rules()).containsExactly(changed);
    }

    @Test
    void rulesAreOrderedSwitchedAndDeleted() {
        for (String domain : List.of("a.example", "b.example", "c.example")) {
            cabinet.rules.save(user, cabinet.filing(user, domain, "F"));
        }
        long last = cabinet.rules.book(user).rules().get(2).id();
        cabinet.ruleOrder.shift(user, last, -1);
        cabinet.ruleOrder.shift(user, last, -1);
        cabinet.ruleOrder.shift(user, last, -1);
        assertThat(names()).containsExactly("From c.example", "From a.example", "From b.example");
        cabinet.rules.turn(user, last, false);
        assertThat(cabinet.rules.book(user).rules().get(0).on()).isFalse();
        cabinet.rules.delete(user, last);
        assertThat(names()).containsExactly("From a.example", "From b.example");
    }

    @Test
    void headingsStayWhereTheyAreWhenRulesMove() {
        for (String domain : List.of("a.example", "b.example", "c.example")) {
            cabinet.rules.save(user, cabinet.filing(user, domain, "F"));
        }
        List<Long> ids = cabinet.rules.book(user).rules().stream().map(Rule::id).toList();
        cabinet.ruleOrder.setHeading(user, ids.get(1), "Lenders");
        cabinet.ruleOrder.shift(user, ids.get(1), -1);
        assertThat(names()).containsExactly("From b.example", "From a.example", "From c.example");
        assertThat(cabinet.ruleOrder.headings(user)).containsExactly(Map.entry(ids.get(2), "Lenders"));
        cabinet.ruleOrder.putBefore(user, ids.get(0), ids.get(2));
        assertThat(cabinet.ruleOrder.headings(user))
                .as("what is put before the first of a group belongs to it")
                .containsExactly(Map.entry(ids.get(0), "Lenders"));
        cabinet.rules.delete(user, ids.get(0));
        assertThat(cabinet.ruleOrder.headings(user)).containsExactly(Map.entry(ids.get(2), "Lenders"));
        cabinet.ruleOrder.setHeading(cabinet.user(), ids.get(2), "Not mine");
        assertThat(cabinet.ruleOrder.headings(user)).containsValue("Lenders");
        cabinet.ruleOrder.setHeading(user, ids.get(2), "");
        assertThat(cabinet.ruleOrder.headings(user)).isEmpty();
    }

    private List<String> names() {
        return cabinet.rules.book(user).rules().stream().map(Rule::name).toList();
    }

    @Test
    void nobodyTouchesTheRulesOfOthers() {
        long id = cabinet.rules.save(user, cabinet.filing(user, "a.example", "F"));
        long stranger = cabinet.user();
        cabinet.rules.turn(stranger, id, false);
        cabinet.ruleOrder.shift(stranger, id, 1);
        cabinet.rules.delete(stranger, id);
        assertThatThrownBy(() -> cabinet.rules.save(
                        stranger, new Rule(id, "Mine", true, List.of(), List.of(), List.of(), false)))
                .hasMessageContaining("gone");
        assertThat(cabinet.rules.book(stranger).rules()).isEmpty();
        assertThat(cabinet.rules.book(user).rules()).hasSize(1).allMatch(Rule::on);
    }
}
