package app.schublade.store.act;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.InGroup;
import app.schublade.core.filing.Marked;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Text;
import app.schublade.core.place.Arrangement;
import app.schublade.core.place.Colour;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.AliasStore;
import app.schublade.store.cabinet.CategoryStore;
import app.schublade.store.cabinet.FlagStore;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.cabinet.LabelStore;
import app.schublade.store.filing.EffectRunner;
import app.schublade.store.filing.UndoStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RulePauses;
import app.schublade.store.user.ArrangementStore;
import app.schublade.store.user.PeopleStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Everything that a user does is in one list, and can be taken back from its end to its beginning. */
@ExtendWith(Cabinet.Extension.class)
class ActsTest {
    private static final List<String> PATHS = List.of("A", "A/B", "A/B/C", "D", "D/B", "E");
    private static final List<String> NAMES = List.of("Soon", "Later", "Never");
    private static final List<String> ADDRESSES = List.of("anna@quay.example", "wharf.example", "ben@pier.example");

    private final Cabinet cabinet;
    private final long user;
    private final Account account;
    private final Acts acts;
    private final UndoStore undo;
    private final FolderStore folders;
    private final LabelStore labels;
    private final CategoryStore categories;
    private final FlagStore flags;
    private final PeopleStore people;
    private final AliasStore aliases;
    private final ArrangementStore arrangements;

    ActsTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        user = cabinet.user();
        account = cabinet.account(user, "MU");
        acts = cabinet.bean(Acts.class);
        undo = cabinet.undo;
        folders = cabinet.bean(FolderStore.class);
        labels = cabinet.bean(LabelStore.class);
        categories = cabinet.bean(CategoryStore.class);
        flags = cabinet.bean(FlagStore.class);
        people = cabinet.people;
        aliases = cabinet.bean(AliasStore.class);
        arrangements = cabinet.bean(ArrangementStore.class);
        for (int i = 0; i < 12; i++) {
            cabinet.arrives(account, TestMail.from("Anna <anna@quay.example>", "Crate " + i));
        }
    }

    private Places places() {
        return cabinet.places.of(user, null);
    }

    /** Made if it is not there. */
    private Places.Category category(String name) {
        long id = cabinet.places.category(user, name).id();
        return places().category(id).orElseThrow();
    }

    private Places.Label label(String name) {
        long id = cabinet.places.label(user, path(name)).id();
        return places().label(id).orElseThrow();
    }

    private static FolderPath path(String path) {
        return FolderPath.parse(path);
    }

    /** All that the user has, as it is shown, and the rows of what is shown nowhere as a whole. */
    private List<String> world() {
        List<String> world = new ArrayList<>();
        for (String sql : List.of(
                "select id, path, position, hidden, pinned from folder where deleted_at is null and user_id = ?",
                "select * from label where user_id = ?",
                "select * from category where user_id = ?",
                "select * from tray where user_id = ?",
                "select * from flag where user_id = ?",
                "select * from tray_sender where user_id = ?",
                "select id, position, name, enabled, paused, last, conditions, heading from rule where user_id = ?",
                "select e.* from rule_effect e join rule r on r.id = e.rule_id where r.user_id = ?",
                "select v.* from rule_version v join rule r on r.id = v.rule_id where r.user_id = ?",
                "select * from key_person where user_id = ?",
                "select * from people_group where user_id = ?",
                "select m.* from people_group_member m join people_group g on g.id = m.group_id where g.user_id = ?",
                "select l.* from alias l join account a on a.id = l.account_id where a.user_id = ?",
                "select * from arrangement where user_id = ?",
                "select * from outgoing where user_id = ?",
                """
                select id, folder_id, unread, flagged, flag_id, due_on, due_at, category_id, also_categories, tray_id, until_on, until_at,
                    array(select label_id from message_label where message_id = m.id order by 1) from message m
                where user_id = ?
                """)) {
            cabinet.jdbc
                    .sql("select to_jsonb(x)::text from (" + sql + ") x order by 1")
                    .param(user)
                    .query(String.class)
                    .list()
                    .forEach(row -> world.add(sql.replaceAll("(?s).* from (\\w+).*", "$1") + " " + row));
        }
        return world;
    }

    private <T> T one(Random random, List<T> all) {
        if (all.isEmpty()) {
            throw new InputProblem("There is none.");
        }
        return all.get(random.nextInt(all.size()));
    }

    private List<Long> messages() {
        return cabinet.jdbc
                .sql("select id from message where user_id = ? order by id")
                .param(user)
                .query(Long.class)
                .list();
    }

    private List<Long> some(Random random) {
        return messages().stream().filter(id -> random.nextInt(3) == 0).toList();
    }

    private Rule rule(Random random, long id) {
        List<Effect> then = new ArrayList<>();
        places().folder(path(one(random, PATHS))).ifPresent(folder -> then.add(new Effect.FileInto(folder.ref())));
        places().labels().stream().findFirst().ifPresent(label -> then.add(new Effect.SetLabel(label.ref(), true)));
        places().categories().stream().findFirst().ifPresent(one -> then.add(new Effect.Categorise(one.ref())));
        then.add(new Effect.PutInto(one(random, places().trays()).ref()));
        places().flags().stream().findFirst().ifPresent(flag -> then.add(new Effect.FlagAs(flag.ref())));
        return new Rule(
                id,
                "Rule " + random.nextInt(100),
                random.nextBoolean(),
                List.of(Text.subject("crate" + random.nextInt(5))),
                places().labels().stream()
                        .findFirst()
                        .map(label -> List.<app.schublade.core.filing.Condition>of(
                                new Marked(List.of(label.ref()), List.of(), false), new InGroup(List.of("Board"))))
                        .orElse(List.of()),
                then,
                random.nextBoolean());
    }

    /** One act of any kind; some find nothing to do. */
    private void act(Random random, int number) {
        String name = "Act " + number;
        List<Rule> rules = cabinet.rules.all(user);
        switch (random.nextInt(27)) {
            case 0 -> acts.record(user, name, () -> cabinet.places.folder(user, path(one(random, PATHS))));
            case 1 ->
                acts.record(
                        user,
                        name,
                        () -> portrait(random).ifPresent(one -> folders.rename(user, one, path(one(random, PATHS)))));
            case 2 -> portrait(random).ifPresent(one -> folders.delete(user, one));
            case 3 ->
                portrait(random).ifPresent(one -> portrait(random).ifPresent(other -> folders.merge(user, one, other)));
            case 4 -> acts.record(user, name, () -> cabinet.places.label(user, path(one(random, PATHS))));
            case 5 -> places().labels().stream().findAny().ifPresent(label -> labels.remove(user, label));
            case 6 ->
                places().labels().stream()
                        .findAny()
                        .ifPresent(label -> acts.record(user, name, () -> {
                            labels.rename(user, label, path(one(random, PATHS)));
                            labels.recolour(
                                    user, label.id(), Tone.BRICK, Colour.parse("#205080"), random.nextBoolean());
                        }));
            case 7 -> acts.record(user, name, () -> cabinet.places.category(user, one(random, NAMES)));
            case 8 -> categories.remove(user, one(random, places().categories()));
            case 9 ->
                acts.record(
                        user,
                        name,
                        () -> categories.up(
                                user, one(random, places().categories()).id()));
            case 10 -> acts.record(user, name, () -> cabinet.trays.add(user, "Tray"));
            case 11 -> cabinet.trays.remove(user, one(random, places().trays()));
            case 12 ->
                acts.record(
                        user,
                        name,
                        () -> cabinet.trays.always(
                                user,
                                one(random, ADDRESSES),
                                one(random, places().trays()).id()));
            case 13 -> acts.record(user, name, () -> cabinet.rules.save(user, rule(random, 0)));
            case 14 ->
                rules.stream()
                        .findAny()
                        .ifPresent(rule ->
                                acts.record(user, name, () -> cabinet.rules.save(user, rule(random, rule.id()))));
            case 15 ->
                rules.stream()
                        .findAny()
                        .ifPresent(rule -> acts.record(user, name, () -> cabinet.rules.delete(user, rule.id())));
            case 16 ->
                rules.stream()
                        .findAny()
                        .ifPresent(rule -> acts.record(user, name, () -> {
                            cabinet.rules.turn(user, rule.id(), !rule.on());
                            cabinet.ruleOrder.setHeading(user, rule.id(), name);
                            cabinet.ruleOrder.putLast(user, rule.id());
                        }));
            case 17 ->
                acts.record(user, name, () -> people.markKey(user, one(random, ADDRESSES), random.nextBoolean()));
            case 18 -> acts.record(user, name, () -> people.join(user, "Board", one(random, ADDRESSES)));
            case 19 -> acts.record(user, name, () -> people.dissolve(user, "Board"));
            case 20 -> acts.record(user, name, () -> aliases.add(account, "me@wharf.example", name, name));
            case 21 -> acts.record(user, name, () -> aliases.remove(account, "me@wharf.example"));
            case 22 -> acts.record(user, name, () -> arrangements.keep(user, "inbox", Arrangement.usualIn("folder/1")));
            case 23, 24 -> acts.record(user, name, () -> flags.add(user, one(random, NAMES)));
            case 25 ->
                places().flags().stream()
                        .findAny()
                        .ifPresent(flag -> acts.record(user, name, () -> {
                            flags.change(user, flag.id(), name, Tone.BRICK);
                            places().flags().forEach(one -> flags.up(user, one.id()));
                        }));
            case 26 -> places().flags().stream().findAny().ifPresent(flag -> flags.remove(user, flag));
            default -> {
                List<Places.OwnFlag> own = places().flags();
                List<Places.Label> all = places().labels();
                long folder = one(random, places().folders()).id();
                long category = one(random, places().categories()).id();
                long tray = one(random, places().trays()).id();
                cabinet.filing.act(user, Cause.HAND, name, some(random), state -> {
                    var changed = state.in(folder)
                            .categorised(category)
                            .sorted(tray)
                            .flaggedAs(own.isEmpty() ? null : one(random, own).id());
                    return all.isEmpty()
                            ? changed
                            : changed.with(one(random, all).id(), random.nextBoolean());
                });
            }
        }
    }

    private java.util.Optional<FolderStore.Portrait> portrait(Random random) {
        return places().folder(path(one(random, PATHS))).flatMap(folder -> folders.portrait(user, folder.id()));
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16})
    void everythingIsTakenBackFromTheEndToTheBeginning(long seed) {
        Random random = new Random(seed);
        cabinet.places.category(user, "First");
        List<List<String>> worlds = new ArrayList<>();
        worlds.add(world());
        for (int i = 0; i < 60; i++) {
            try {
                act(random, i);
            } catch (InputProblem e) {
                continue; // Not possible as things are.
            }
            List<String> now = world();
            if (!now.equals(worlds.get(worlds.size() - 1))) {
                worlds.add(now);
            }
        }
        assertThat(worlds).hasSizeGreaterThan(20);
        for (int i = worlds.size() - 1; i > 0; i--) {
            ActOutcome undone = undo.latest(user);
            assertThat(undone.leftOut()).as(undone.title()).isEmpty();
            assertThat(new TreeSet<>(world()))
                    .as("%s was taken back, to world %d of %d", undone.title(), i - 1, worlds.size())
                    .isEqualTo(new TreeSet<>(worlds.get(i - 1)));
        }
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    /** Its name is typed again, and that is taken back: then the deletion is too. */
    @Test
    void aFolderThatWasDeletedAndMadeAgainComesBackWithWhatWasInIt() {
        FolderPath path = path("Halden");
        long folder = cabinet.places.folder(user, path).id();
        List<Long> letters = messages().subList(0, 2);
        cabinet.filing.act(user, Cause.HAND, "File", letters, state -> state.in(folder));
        List<String> then = world();
        folders.delete(user, folders.portrait(user, folder).orElseThrow());
        acts.record(user, "Made it again", () -> cabinet.places.folder(user, path));
        assertThat(undo.latest(user).leftOut()).isEmpty();
        assertThat(undo.latest(user).leftOut()).isEmpty();
        assertThat(new TreeSet<>(world())).isEqualTo(new TreeSet<>(then));
    }

    @Test
    void whatChangesNothingIsNoAct() {
        acts.record(user, "Made a key person", () -> people.markKey(user, "anna@quay.example", true));
        acts.record(user, "Made a key person again", () -> people.markKey(user, "anna@quay.example", true));
        assertThat(undo.latest(user).title()).isEqualTo("Made a key person");
        assertThat(undo.latest(user)).isEqualTo(ActOutcome.NOTHING);
        assertThat(people.keyPersons(user)).isEmpty();
    }

    @Test
    void aFolderThatAFilingMadeGoesWithIt() {
        long message = messages().get(0);
        acts.record(user, "Filed into Loans / Halden", () -> {
            long folder = cabinet.places.folder(user, path("Loans/Halden")).id();
            cabinet.filing.act(user, Cause.HAND, "Filed", List.of(message), state -> state.in(folder));
        });
        assertThat(cabinet.lies(user, message)).isEqualTo("Loans / Halden");
        ActOutcome undone = undo.latest(user);
        assertThat(undone.title()).isEqualTo("Filed into Loans / Halden");
        assertThat(places().folder(path("Loans"))).isEmpty();
        assertThat(cabinet.lies(user, message)).isEqualTo("Inbox");
    }

    @Test
    void whatSomethingElseUsesByNowStaysAndThatIsSaid() {
        acts.record(user, "Created the label Ships", () -> cabinet.places.label(user, path("Ships")));
        long label = places().label(path("Ships")).orElseThrow().id();
        cabinet.filing.accept(user, java.util.Map.of(messages().get(0), state -> state.with(label, true)));
        assertThat(undo.latest(user).leftOut())
                .containsExactly("The label Ships stays, for something else uses it by now.");
        assertThat(places().label(path("Ships"))).isPresent();
    }

    @Test
    void whatWasChangedAgainSinceStaysSo() {
        Places.Category first = category("First");
        acts.record(user, "Renamed", () -> categories.change(user, first.id(), "Second", Tone.BRICK, "!", 3));
        cabinet.jdbc
                .sql("update category set name = 'Third' where id = ?")
                .param(first.id())
                .update();
        assertThat(undo.latest(user).leftOut()).containsExactly("The category Third was changed since, and stays so.");
        Places.Category now = places().category(first.id()).orElseThrow();
        assertThat(now.name()).isEqualTo("Third");
        assertThat(now.mark()).isEqualTo(first.mark());
    }

    @Test
    void aRuleThatNamesWhatGoesIsPausedAndComesBackWithIt() {
        Places.Label label = label("Ships");
        long byEffect = cabinet.rules.save(
                user,
                new Rule(
                        0,
                        "Labels",
                        true,
                        List.of(Text.subject("crate")),
                        List.of(),
                        List.of(new Effect.SetLabel(label.ref(), true), new Effect.MarkRead(true)),
                        false));
        long byCondition = cabinet.rules.save(
                user,
                new Rule(
                        0,
                        "Asks",
                        true,
                        List.of(Text.subject("crate")),
                        List.of(new Marked(List.of(label.ref()), List.of(), false)),
                        List.of(new Effect.MarkRead(true)),
                        false));
        List<String> before = world();
        labels.remove(user, label);
        assertThat(cabinet.rules.all(user)).noneMatch(Rule::on);
        assertThat(cabinet.bean(RulePauses.class).reasons(user))
                .containsOnlyKeys(byEffect, byCondition)
                .allSatisfy((rule, reason) -> assertThat(reason).isEqualTo("The label Ships is gone."));
        undo.latest(user);
        assertThat(world()).isEqualTo(before);
    }

    private ActOutcome forGood(List<Long> messages) {
        return cabinet.bean(EffectRunner.class)
                .carryOut(user, Cause.FOR_GOOD, "For good", messages, List.of(new Effect.DeleteForGood()), 0);
    }

    @Test
    void onlyWhatLiesInTheTrashIsDeletedForGoodAndNothingTakesItBack() {
        List<Long> two = messages().subList(0, 2);
        assertThat(forGood(two).changed()).isEmpty();
        long trash = cabinet.places.special(user, SpecialUse.TRASH);
        cabinet.filing.act(user, Cause.HAND, "Into the trash", two.subList(0, 1), state -> state.in(trash));
        assertThat(forGood(two).changed()).isEqualTo(two.subList(0, 1));
        assertThat(forGood(two).changed()).as("ordered once").isEqualTo(two.subList(0, 1));
        assertThat(cabinet.waiting(account))
                .filteredOn(order -> order.startsWith("DELETE"))
                .hasSize(1);
        assertThat(undo.latest(user).title()).isEqualTo("Into the trash");
        assertThat(cabinet.waiting(account)).as("it is spared").noneMatch(order -> order.startsWith("DELETE"));
        assertThat(cabinet.lies(user, two.get(0))).isEqualTo("Inbox");
    }

    @Test
    void ofAnAccountWhoseServerOnlyGivesMailOutItGoesAtOnce() {
        cabinet.jdbc
                .sql("update account set protocol = 'POP3' where id = ?")
                .param(account.id())
                .update();
        long trash = cabinet.places.special(user, SpecialUse.TRASH);
        List<Long> all = messages();
        cabinet.filing.act(user, Cause.HAND, "Into the trash", all, state -> state.in(trash));
        forGood(all.subList(0, 3));
        assertThat(messages()).isEqualTo(all.subList(3, all.size()));
        assertThat(cabinet.wrongCounts()).isEmpty();
    }
}
