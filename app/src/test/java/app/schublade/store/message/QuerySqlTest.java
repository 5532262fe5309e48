package app.schublade.store.message;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.filing.Attached;
import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.FromList;
import app.schublade.core.filing.Group;
import app.schublade.core.filing.InAccount;
import app.schublade.core.filing.InConversation;
import app.schublade.core.filing.InGroup;
import app.schublade.core.filing.Marked;
import app.schublade.core.filing.Not;
import app.schublade.core.filing.ReceivedAt;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Sized;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Traits;
import app.schublade.core.message.Trait;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.TrayRef;
import app.schublade.core.problem.InputProblem;
import app.schublade.core.query.Filter;
import app.schublade.core.query.Query;
import app.schublade.core.query.Words;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FlagStore;
import app.schublade.store.place.Places;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A query means the same as SQL and as a predicate: asked of mailboxes and by queries that are drawn at random. */
@ExtendWith(Cabinet.Extension.class)
class QuerySqlTest {
    private static final List<String> WORDS = List.of("invoice", "crate", "sail", "Loan", "harbour", "july");
    private static final List<String> SENDERS = List.of(
            "Anna <anna@wharf.example>",
            "BERT@Deep.Wharf.example",
            "no-reply@shop.example",
            "Loans <office@quay.example>",
            "\"an@odd\"@shop.example");
    private static final List<String> THREADS = List.of("q0", "q1", "q2", "r0");
    private static final List<String> IDS =
            List.of("q0@quay.example", "q1@quay.example", "q2@quay.example", "q9@quay.example", "r0@quay.example");
    private static final int MESSAGES = 60;
    private static final int QUERIES = 150;

    private final Cabinet cabinet;
    private final long user;
    private final List<Account> accounts;

    QuerySqlTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        user = cabinet.user();
        accounts = List.of(cabinet.account(user, "MU", "loans@quay.example"), cabinet.account(user, "CL"));
    }

    private static <T> T one(Random random, List<T> all) {
        return all.get(random.nextInt(all.size()));
    }

    private Places places() {
        return cabinet.places.of(user, null);
    }

    private void fill(Random random) {
        cabinet.people.markKey(user, "anna@wharf.example", true);
        cabinet.people.markKey(user, "shop.example", true);
        cabinet.people.join(user, "Harbour people", "wharf.example");
        cabinet.people.join(user, "Harbour people", "office@quay.example");
        for (String name : List.of("A", "A / B", "C")) {
            cabinet.places.folder(user, FolderPath.parse(name));
            cabinet.places.label(user, FolderPath.parse(name));
        }
        for (String name : List.of("To call", "To pay")) {
            cabinet.bean(FlagStore.class).add(user, name);
        }
        for (int i = 0; i < MESSAGES; i++) {
            Account account = one(random, accounts);
            long id = cabinet.arrives(
                    account,
                    TestMail.from(one(random, SENDERS), one(random, WORDS) + " " + one(random, WORDS))
                            .to(one(random, List.of("loans@quay.example", account.address(), "all@list.example")))
                            .saying(one(random, WORDS) + " " + "and so on ".repeat(random.nextInt(40)))
                            .named("q" + i, one(random, THREADS), one(random, THREADS)));
            Places places = places();
            State to = new State(
                    one(random, places.folders()).id(),
                    random.nextBoolean(),
                    random.nextBoolean(),
                    random.nextBoolean() ? null : one(random, places.flags()).id(),
                    random.nextBoolean()
                            ? null
                            : new DayTime(
                                    LocalDate.of(2026, 11, 25 + random.nextInt(6)),
                                    random.nextBoolean() ? null : LocalTime.of(random.nextInt(24), 0)),
                    random.nextBoolean()
                            ? null
                            : one(random, places.categories()).id(),
                    random.nextInt(4) == 0
                            ? Set.of(one(random, places.categories()).id())
                            : Set.of(),
                    random.nextBoolean()
                            ? Set.of()
                            : Set.of(one(random, places.labels()).id()),
                    random.nextBoolean() ? null : one(random, places.trays()).id(),
                    random.nextInt(4) == 0 ? DayTime.parse("2026-12-01 09:00") : null,
                    random.nextBoolean() ? null : LocalDate.of(2026, 11, 25 + random.nextInt(6)));
            cabinet.filing.act(user, Cause.HAND, "x", List.of(id), state -> to);
            cabinet.jdbc
                    .sql("update message set answered = ?, forwarded = ? where id = ?")
                    .params(random.nextBoolean(), random.nextInt(4) == 0, id)
                    .update();
            if (random.nextInt(4) == 0) {
                cabinet.jdbc
                        .sql("update message_head set list_id = 'rowers.club.example' where message_id = ?")
                        .param(id)
                        .update();
            }
        }
    }

    private Condition condition(Random random, int depth) {
        Places places = places();
        Supplier<LabelRef> label = () -> one(random, places.labels()).ref();
        Supplier<CategoryRef> category = () -> one(random, places.categories()).ref();
        return switch (random.nextInt(depth == 0 ? 10 : 12)) {
            case 0 ->
                Correspondent.sender(one(
                        random,
                        List.of(
                                "anna@wharf.example",
                                "wharf.example",
                                "*.wharf.example",
                                "@shop.example",
                                "example",
                                "quay.example")));
            case 1 -> new Marked(List.of(label.get(), label.get()), List.of(), random.nextBoolean());
            case 2 -> new Marked(List.of(), List.of(category.get()), random.nextBoolean());
            case 3 ->
                new InAccount(accounts.subList(0, 1 + random.nextInt(2)).stream()
                        .map(Account::ref)
                        .toList());
            case 4 ->
                new Traits(List.of(one(
                        random,
                        List.of(
                                Trait.TO_ME,
                                Trait.ONLY_COPIED,
                                Trait.TO_ME_ALONE,
                                Trait.NOT_ADDRESSED,
                                Trait.AUTOMATED,
                                Trait.KEY_PERSON,
                                Trait.ATTACHMENT))));
            case 5 ->
                new SentTo(List.of(one(random, List.of("loans@quay.example", "all@list.example", "x@y.example"))));
            case 6 ->
                random.nextBoolean()
                        ? new Sized(random.nextBoolean(), random.nextBoolean(), 200 + random.nextInt(400))
                        : new FromList(List.of("a.list.example"));
            case 7 ->
                random.nextBoolean()
                        ? new InConversation("It", List.of(one(random, IDS), one(random, IDS)))
                        : new InGroup(List.of(one(random, List.of("Harbour people", "Nobody"))));
            case 8 ->
                new ReceivedAt(
                        random.nextBoolean() ? null : LocalDate.of(2026, 11, 1),
                        random.nextBoolean() ? null : LocalDate.of(2027, 11, 1),
                        random.nextBoolean() ? Set.of() : Set.of(DayOfWeek.of(1 + random.nextInt(6)), DayOfWeek.SUNDAY),
                        random.nextInt(ReceivedAt.DAY),
                        1 + random.nextInt(ReceivedAt.DAY));
            case 9 ->
                new Attached(
                        Attached.By.KIND, List.of(one(random, List.of("pdf", ".TXT", "application", "image")), "csv"));
            case 10 -> new Not(condition(random, depth - 1));
            default ->
                new Group(
                        random.nextBoolean(),
                        Stream.generate(() -> condition(random, depth - 1))
                                .limit(random.nextInt(3))
                                .toList());
        };
    }

    private Query query(Random random, int depth) {
        Places places = places();
        return switch (random.nextInt(depth == 0 ? 10 : 14)) {
            case 0 -> new Query.InFolder(one(random, places.folders()).ref());
            case 1 -> new Query.InTray(one(random, places.trays()).ref());
            case 2 -> new Query.Tickled();
            case 3 -> new Query.Unread();
            case 4 -> one(random, List.of(Filter.values())).query();
            case 5 ->
                new Words(
                        one(random, List.of(Words.WordField.values())),
                        one(
                                random,
                                List.of(
                                        "invoice",
                                        "INVOI",
                                        "voic",
                                        "crate sail",
                                        "crate sai",
                                        "rate",
                                        "nothing",
                                        "",
                                        "--",
                                        "wharf",
                                        "harf",
                                        "anna@wharf.example",
                                        "x'y",
                                        "quay.exa",
                                        "and so on and")),
                        random.nextBoolean());
            case 6, 7 -> new Query.Meets(condition(random, 2));
            case 8 ->
                new Query.OnDay(
                        one(random, List.of(Query.MessageDay.values())),
                        random.nextBoolean() ? null : LocalDate.of(2026, 11, 25 + random.nextInt(4)),
                        random.nextBoolean() ? null : LocalDate.of(2026, 11, 28 + random.nextInt(3)));
            case 9 ->
                random.nextBoolean()
                        ? new Query.FlaggedAs(one(random, places.flags()).ref())
                        : new Query.Dealt(one(random, List.of(Query.Dealing.values())));
            case 12 -> new Query.OnList(one(random, List.of("Rowers", "rowers.club.example", "row", "club")));
            case 10 -> new Query.Without(query(random, depth - 1));
            case 11 ->
                new Query.Any(Stream.generate(() -> query(random, depth - 1))
                        .limit(random.nextInt(3))
                        .toList());
            default ->
                new Query.All(Stream.generate(() -> query(random, depth - 1))
                        .limit(random.nextInt(4))
                        .toList());
        };
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 4})
    void findsTheSameAsThePredicate(int seed) {
        Random random = new Random(seed);
        fill(random);
        accounts.forEach(account -> cabinet.index.index(account.id(), MESSAGES));
        List<RuleInputStore.RuleCandidate> all = new ArrayList<>();
        cabinet.subjects.forEach(user, Query.everything(), Set.of(Condition.Need.BODY), all::add);
        assertThat(all).hasSize(MESSAGES);
        int found = 0;
        for (int i = 0; i < QUERIES; i++) {
            Query query = query(random, 3);
            List<Long> expected = all.stream()
                    .filter(one -> query.holds(one.input()))
                    .map(one -> one.row().id())
                    .sorted(Comparator.reverseOrder())
                    .toList();
            found += expected.size();
            assertThat(cabinet.lists.all(user, query)).as(query.sentence()).isEqualTo(expected);
            assertThat(cabinet.subjects.count(user, query)).as(query.sentence()).isEqualTo(expected.size());
            List<Long> seen = new ArrayList<>();
            cabinet.subjects.forEach(
                    user, query, Set.of(), one -> seen.add(one.row().id()));
            assertThat(seen).as(query.sentence()).containsExactlyInAnyOrderElementsOf(expected);
        }
        assertThat(found).isBetween(QUERIES, QUERIES * MESSAGES - QUERIES);
    }

    @Test
    void whatOnlyRulesCanAskIsRefusedAndNotLeftOut() {
        Query query = new Query.Meets(new Attached(Attached.By.NAME, List.of("*.pdf")));
        assertThatThrownBy(() -> cabinet.lists.all(user, query))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining("an attachment named *.pdf")
                .hasMessageContaining("a rule can ask it");
    }

    @Test
    void saysWhatItMeans() {
        Query loans = new Query.InFolder(new FolderRef(1, FolderPath.parse("Loans/Halden")));
        Query sails = new Query.InTray(new TrayRef(2, "Sails"));
        assertThat(Query.everything().sentence()).isEqualTo("anywhere");
        assertThat(Query.everything().and(loans)).isEqualTo(loans);
        assertThat(loans.and(Filter.UNREAD.query())
                        .and(new Query.Without(sails))
                        .sentence())
                .isEqualTo("in Loans / Halden and unread and not in the tray Sails");
        assertThat(new Query.Any(List.of(loans, sails))
                        .and(new Words(Words.WordField.ANYWHERE, "crate", false))
                        .sentence())
                .isEqualTo("(in Loans / Halden or in the tray Sails) and with “crate”");
        assertThat(new Query.Without(new Query.Any(List.of(loans, sails))).sentence())
                .isEqualTo("not (in Loans / Halden or in the tray Sails)");
    }
}
