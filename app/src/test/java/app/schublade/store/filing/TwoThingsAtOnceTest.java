package app.schublade.store.filing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.filing.State;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.act.TakenBack;
import app.schublade.store.base.Transactions;
import app.schublade.store.cabinet.CategoryStore;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.cabinet.LabelStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RuleStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Everything that can be done, at once and in any order: nothing fails, nothing is lost, and every count is true. */
@ExtendWith(Cabinet.Extension.class)
class TwoThingsAtOnceTest {
    private static final AtomicLong UIDS = new AtomicLong(1_000_000);

    private final Cabinet cabinet;
    private final FolderStore folders;
    private final LabelStore labels;
    private final CategoryStore categories;
    private final MessageCopier copier;

    TwoThingsAtOnceTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        folders = cabinet.bean(FolderStore.class);
        labels = cabinet.bean(LabelStore.class);
        categories = cabinet.bean(CategoryStore.class);
        copier = cabinet.bean(MessageCopier.class);
    }

    /** One user with two accounts and some mail, and all that can happen to it. */
    private final class World {
        private final long user = cabinet.user();
        private final Account first = cabinet.account(user, "AA");
        private final Account second = cabinet.account(user, "BB");

        World(int messages) {
            for (int i = 0; i < messages; i++) {
                cabinet.arrives(i % 3 == 0 ? second : first, TestMail.from("anna@wharf.example", "m" + i));
            }
            for (String path : List.of("A", "A/B", "A/B/C", "D", "E")) {
                folder(path);
            }
            for (String path : List.of("X", "X/Y", "Z")) {
                cabinet.places.label(user, FolderPath.parse(path));
            }
        }

        long folder(String path) {
            return cabinet.places.folder(user, FolderPath.parse(path)).id();
        }

        List<Long> some(Random random) {
            List<Long> all = cabinet.jdbc
                    .sql("select id from message where user_id = ? order by id")
                    .param(user)
                    .query(Long.class)
                    .list();
            List<Long> some = new ArrayList<>();
            for (int i = 1 + random.nextInt(20); i > 0 && !all.isEmpty(); i--) {
                some.add(all.get(random.nextInt(all.size())));
            }
            return some;
        }

        private <T> T one(Random random, List<T> all, T none) {
            return all.isEmpty() ? none : all.get(random.nextInt(all.size()));
        }

        private Places places() {
            return cabinet.places.of(user, null);
        }

        private String path(Random random) {
            return List.of("A", "A/B", "D", "E", "F", "D/G").get(random.nextInt(6));
        }

        UnaryOperator<State> change(Random random) {
            Places places = places();
            long folder =
                    one(random, places.folders().stream().map(Places.Folder::id).toList(), 0L);
            long label =
                    one(random, places.labels().stream().map(Places.Label::id).toList(), 0L);
            long category = one(
                    random,
                    places.categories().stream().map(Places.Category::id).toList(),
                    0L);
            boolean on = random.nextBoolean();
            return switch (random.nextInt(5)) {
                case 0 -> state -> state.in(folder);
                case 1 -> state -> state.unread(on);
                case 2 -> state -> state.flagged(on);
                case 3 -> state -> state.with(label, on);
                default -> state -> state.categorised(on ? (Long) category : null);
            };
        }

        /** One thing that a user, a rule or a server does. */
        void doSomething(Random random, boolean forGood) {
            switch (random.nextInt(forGood ? 14 : 8)) {
                case 0, 1, 2, 3 -> cabinet.filing.act(user, Cause.HAND, "act", some(random), change(random));
                case 4 -> cabinet.undo.latest(user);
                case 5 -> folders.portrait(user, folder(path(random))).ifPresent(one -> folders.delete(user, one));
                case 6 -> cabinet.filing.accept(user, Map.of(one(random, some(random), 0L), change(random)));
                case 7 -> arrive();
                case 8 ->
                    tell(() -> folders.portrait(user, folder(path(random)))
                            .ifPresent(one -> folders.rename(user, one, FolderPath.parse(path(random)))));
                case 9 -> cabinet.bean(MessageRemoval.class).remove(user, some(random));
                case 12, 13 -> tell(() -> copier.copyInto(user, "copy", some(random), folder("E"), 0));
                case 10 -> {
                    List<Places.Label> all = places().labels();
                    if (!all.isEmpty()) {
                        labels.remove(user, all.get(random.nextInt(all.size())));
                    }
                    cabinet.places.label(user, FolderPath.parse("X/Y"));
                }
                default ->
                    tell(() -> folders.portrait(user, folder("A"))
                            .ifPresent(from -> folders.portrait(user, folder("D"))
                                    .ifPresent(into -> folders.merge(user, from, into))));
            }
        }

        /** Not looked for afterwards: it may be gone again by then. */
        private void arrive() {
            Mailbox inbox = cabinet.inbox(first);
            TestMail letter = TestMail.from("anna@wharf.example", "new");
            cabinet.intake.store(first, inbox, List.of(cabinet.incoming(first, inbox, letter, UIDS.incrementAndGet())));
        }

        /** What cannot be done is said to the user, and changes nothing. */
        private void tell(Runnable work) {
            try {
                work.run();
            } catch (InputProblem e) {
                assertThat(e.getMessage()).isNotBlank();
            }
        }

        /** How each message is, by its subject and number. */
        Map<Long, State> states() {
            Map<Long, State> states = new HashMap<>();
            List<Long> all = cabinet.jdbc
                    .sql("select id from message where user_id = ?")
                    .param(user)
                    .query(Long.class)
                    .list();
            cabinet.bean(Transactions.class).in(() -> {
                cabinet.bean(MessageLock.class).lock(user, all).forEach((id, moving) -> states.put(id, moving.state()));
                return true;
            });
            return states;
        }

        void isTrue() {
            assertThat(cabinet.bean(CountStore.class).wrong(user)).as("counts").isEmpty();
            assertThat(cabinet.jdbc.sql("""
                                    select count(*) from message m join folder f on f.id = m.folder_id
                                    where m.user_id = ? and f.deleted_at is not null
                                    """).param(user).query(Integer.class).single())
                    .as("messages in folders that nobody sees")
                    .isZero();
        }

        /** Every message lies on a server, or will. */
        void isOnServers() {
            assertThat(cabinet.jdbc.sql("""
                                    select count(*) from message m where m.user_id = ?
                                    and not exists (select from server_copy c where c.message_id = m.id)
                                    and not exists (select from server_order o where o.other_id = m.id and o.kind = 'COPY')
                                    """).param(user).query(Integer.class).single())
                    .as("copies that no server will ever make")
                    .isZero();
        }
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void tenThreadsDoWhateverCanBeDone(long seed) throws Exception {
        World world = new World(60);
        ConcurrentLinkedQueue<Throwable> failures = new ConcurrentLinkedQueue<>();
        ExecutorService threads = Executors.newFixedThreadPool(10);
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(4);
        for (int i = 0; i < 10; i++) {
            Random random = new Random(seed * 100 + i);
            threads.execute(() -> {
                while (System.nanoTime() < end) {
                    try {
                        world.doSomething(random, true);
                    } catch (RuntimeException | AssertionError e) {
                        failures.add(e);
                    }
                }
            });
        }
        threads.shutdown();
        assertThat(threads.awaitTermination(60, TimeUnit.SECONDS)).isTrue();
        assertThat(failures).isEmpty();
        world.isTrue();
        world.isOnServers();
    }

    /** Where nothing is deleted for good, taking everything back leads to the beginning. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4})
    void takingBackEverythingLeadsToTheBeginning(long seed) {
        World world = new World(20);
        Random random = new Random(seed);
        cabinet.jdbc
                .sql("delete from batch where user_id = ?")
                .param(world.user)
                .update();
        Map<Long, State> beginning = world.states();
        Set<String> shown = shown(world);
        for (int i = 0; i < 60; i++) {
            switch (random.nextInt(6)) {
                case 0 ->
                    folders.portrait(world.user, world.folder(world.path(random)))
                            .filter(one -> !one.path().toString().matches("F|D/G"))
                            .ifPresent(one -> folders.delete(world.user, one));
                case 1 -> cabinet.undo.latest(world.user);
                default -> cabinet.filing.act(world.user, Cause.HAND, "act", world.some(random), world.change(random));
            }
        }
        takeBackEverything(world);
        assertThat(world.states()).isEqualTo(beginning);
        assertThat(shown(world)).containsAll(shown);
        world.isTrue();
    }

    private static Set<String> shown(World world) {
        Set<String> shown = new TreeSet<>();
        world.places().folders().forEach(one -> shown.add(one.path().toString()));
        return shown;
    }

    private void takeBackEverything(World world) {
        for (int i = 0; open(world) > 0; i++) {
            assertThat(i).as("each Z takes back one act more").isLessThan(1000);
            int before = open(world);
            cabinet.undo.latest(world.user);
            assertThat(open(world)).isEqualTo(before - 1);
        }
    }

    private int open(World world) {
        return cabinet.jdbc
                .sql("select count(*) from batch where user_id = ? and undone_at is null and cause in ('HAND', 'RUN')")
                .param(world.user)
                .query(Integer.class)
                .single();
    }

    /** Whatever has been deleted for good meanwhile, no undo ever fails, and the next one can follow. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void undoNeverFailsWhateverIsGone(long seed) {
        World world = new World(20);
        Random random = new Random(seed);
        for (int i = 0; i < 80; i++) {
            world.doSomething(random, true);
            if (i % 20 == 19) {
                List<Places.Category> all = world.places().categories();
                if (!all.isEmpty()) {
                    categories.remove(world.user, all.get(random.nextInt(all.size())));
                }
            }
        }
        takeBackEverything(world);
        world.isTrue();
    }

    @Test
    void withAnOriginalGoTheCopiesOfItsCopiesThatNoServerHasMade() {
        World world = new World(3);
        long original = world.states().keySet().iterator().next();
        long copy = copy(world, original);
        long copyOfCopy = copy(world, copy);
        cabinet.bean(MessageRemoval.class).remove(world.user, List.of(original));
        assertThat(world.states())
                .doesNotContainKeys(original, copy, copyOfCopy)
                .hasSize(2);
        world.isOnServers();
    }

    /** Made while the original's going waits for it: nobody would ever make it. */
    @Test
    void whatIsCopiedWhileItGoesIsNotLeftBehind() throws Exception {
        World world = new World(3);
        long original = world.states().keySet().iterator().next();
        CountDownLatch removing = new CountDownLatch(1);
        ExecutorService other = Executors.newSingleThreadExecutor();
        Future<?> removed = cabinet.bean(Transactions.class).in(() -> {
            copy(world, original);
            Future<?> waiting = other.submit(() -> {
                removing.countDown();
                cabinet.bean(MessageRemoval.class).remove(world.user, List.of(original));
            });
            Await.until("it waits", () -> removing.getCount() == 0 && isSomebodyWaiting());
            return waiting;
        });
        removed.get(20, TimeUnit.SECONDS);
        other.shutdown();
        assertThat(world.states()).hasSize(2);
        world.isOnServers();
    }

    private boolean isSomebodyWaiting() {
        return cabinet.jdbc
                .sql(
                        "select exists (select from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database())")
                .query(Boolean.class)
                .single();
    }

    private long copy(World world, long message) {
        return copier.copyInto(world.user, "Copied", List.of(message), world.folder("E"), 0)
                .changed()
                .get(0);
    }

    @Test
    void whatIsGoneIsLeftOutAndSaid() {
        World world = new World(3);
        List<Long> all = List.copyOf(world.states().keySet());
        long label =
                cabinet.places.label(world.user, FolderPath.parse("Values")).id();
        cabinet.filing.act(world.user, Cause.HAND, "Label", all, state -> state.with(label, true));
        long batch = cabinet.filing
                .act(
                        world.user,
                        Cause.HAND,
                        "No label",
                        all,
                        state -> state.with(label, false).flagged(true))
                .batch();
        labels.remove(world.user, label(world, "Values"));
        ActOutcome undone = cabinet.undo.act(world.user, batch);
        assertThat(undone.changed()).hasSize(3);
        assertThat(undone.leftOut()).containsExactly("The label Values is gone; 3 messages are without it.");
        assertThat(cabinet.undo.latest(world.user).title()).isEqualTo("Took away the label Values");
        assertThat(cabinet.undo.latest(world.user).title()).isEqualTo("Label");
    }

    @Test
    void aFolderWhoseNameAnotherTookComesBackUnderAnother() {
        World world = new World(6);
        long trash = cabinet.places.special(world.user, SpecialUse.TRASH);
        long a = world.folder("A");
        cabinet.filing.act(
                world.user, Cause.HAND, "File", List.copyOf(world.states().keySet()), state -> state.in(a));
        folders.delete(world.user, folders.portrait(world.user, a).orElseThrow());
        folders.rename(
                world.user, folders.portrait(world.user, world.folder("E")).orElseThrow(), FolderPath.parse("A"));
        ActOutcome undone = cabinet.undo.latest(world.user);
        assertThat(undone.leftOut()).contains("Another folder has its name by now, so that it is called A (earlier).");
        assertThat(world.states().values()).allMatch(state -> state.folder() == a && state.folder() != trash);
        assertThat(shown(world)).contains("A", "A (earlier)", "A (earlier)/B");
    }

    @Test
    void whatLiesInAMovedFolderNeverLiesTooDeepAndWhatDoesIsStillShown() {
        World world = new World(7);
        String seven = "1/2/3/4/5/6/7";
        world.folder("Deep/" + seven);
        world.folder("Other/" + seven);
        FolderStore.Portrait deep =
                folders.portrait(world.user, world.folder("Deep")).orElseThrow();
        Set<String> before = shown(world);
        assertThatThrownBy(() -> folders.rename(world.user, deep, FolderPath.parse("Other/" + seven + "/Deep")))
                .isInstanceOf(InputProblem.class)
                .hasMessage("“Other” would be 16 folders deep; 12 is the limit.");
        assertThatThrownBy(() -> folders.merge(
                        world.user,
                        deep,
                        folders.portrait(world.user, world.folder("Other/" + seven))
                                .orElseThrow()))
                .isInstanceOf(InputProblem.class);
        assertThat(shown(world)).isEqualTo(before);

        cabinet.places.label(world.user, FolderPath.parse("Deep/" + seven));
        cabinet.places.label(world.user, FolderPath.parse("Other/" + seven));
        Places.Label label = label(world, "Deep");
        assertThatThrownBy(() -> labels.rename(world.user, label, FolderPath.parse("Other/" + seven + "/Deep")))
                .isInstanceOf(InputProblem.class);

        cabinet.jdbc
                .sql("update folder set path = ? || substr(path, 5) where user_id = ? and starts_with(path, 'Deep')")
                .params("Other/" + seven + "/Deep", world.user)
                .update();
        assertThat(shown(world)).contains("Other/" + seven + "/Deep/" + seven);
        assertThat(cabinet.bean(RuleStore.class).book(world.user)).isNotNull();
    }

    @Test
    void whoeverMovesAFolderThatHasBeenMovedMeanwhileTakesAllOfItAlong() {
        World world = new World(8);
        world.folder("Before/Inner");
        FolderStore.Portrait seen =
                folders.portrait(world.user, world.folder("Before")).orElseThrow();
        folders.rename(world.user, seen, FolderPath.parse("Elsewhere entirely"));
        folders.rename(world.user, seen, FolderPath.parse("There"));
        assertThat(shown(world)).contains("There", "There/Inner").doesNotContain("Before", "Elsewhere entirely");

        cabinet.places.label(world.user, FolderPath.parse("Before/Inner"));
        Places.Label label = label(world, "Before");
        labels.rename(world.user, label, FolderPath.parse("Elsewhere entirely"));
        labels.rename(world.user, label, FolderPath.parse("There"));
        assertThat(cabinet.places.of(world.user, null).labels())
                .extracting(one -> one.path().toString())
                .contains("There", "There/Inner");

        labels.remove(world.user, label);
        assertThatThrownBy(() -> labels.rename(world.user, label, FolderPath.parse("Again")))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining("gone");
    }

    @Test
    void whoeverMergesAFolderThatHasBeenMovedMeanwhileMergesAllOfItWhereItIs() {
        World world = new World(4);
        world.folder("Before/Deep/Down/Inner");
        world.folder("Target");
        FolderStore.Portrait from =
                folders.portrait(world.user, world.folder("Before/Deep/Down")).orElseThrow();
        FolderStore.Portrait into =
                folders.portrait(world.user, world.folder("Target")).orElseThrow();
        folders.rename(world.user, from, FolderPath.parse("There"));
        folders.rename(world.user, into, FolderPath.parse("Elsewhere"));
        folders.merge(world.user, from, into);
        assertThat(shown(world))
                .contains("Elsewhere", "Elsewhere/Inner")
                .doesNotContain("There", "Target", "Before/Deep/Down");
        assertThatThrownBy(() -> folders.merge(world.user, from, into))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining("gone");
    }

    private Places.Label label(World world, String path) {
        return cabinet.places.of(world.user, null).labels().stream()
                .filter(one -> one.path().toString().equals(path))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void anActThatIsTakenBackBetweenItsPartsIsOver() {
        World world = new World(4);
        List<Long> all = List.copyOf(world.states().keySet());
        Map<Long, State> before = world.states();
        ActOutcome first = cabinet.filing.actFurther(
                world.user, Cause.HAND, "Flag", all.subList(0, 2), state -> state.flagged(true), 0);
        cabinet.undo.act(world.user, first.batch());
        assertThatThrownBy(() -> cabinet.filing.actFurther(
                        world.user, Cause.HAND, "Flag", all.subList(2, 4), state -> state.flagged(true), first.batch()))
                .isInstanceOf(TakenBack.class);
        assertThat(world.states()).isEqualTo(before);
    }

    /** More than one transaction should hold, in acts, undo, and folders that are merged and deleted. */
    @Test
    void veryManyMessagesAreChangedInParts() {
        World world = new World(1);
        long template = world.states().keySet().iterator().next();
        int many = Transactions.MOST + 700;
        cabinet.jdbc.sql("""
                        insert into message (user_id, account_id, folder_id, received_at, unread, flagged, attachments)
                        select user_id, account_id, folder_id, received_at, unread, flagged, attachments
                        from message, generate_series(1, ?) where id = ?
                        """).params(many, template).update();
        cabinet.bean(CountStore.class).mend(world.user);
        List<Long> all = List.copyOf(world.states().keySet());
        long a = world.folder("A");
        Map<Long, State> beginning = world.states();
        cabinet.filing.act(world.user, Cause.HAND, "File", all, state -> state.in(a));
        folders.merge(
                world.user,
                folders.portrait(world.user, a).orElseThrow(),
                folders.portrait(world.user, world.folder("D")).orElseThrow());
        folders.delete(
                world.user, folders.portrait(world.user, world.folder("D")).orElseThrow());
        assertThat(largestTransaction()).isLessThanOrEqualTo(Transactions.MOST);
        world.isTrue();
        takeBackEverything(world);
        assertThat(world.states()).isEqualTo(beginning);
        world.isTrue();
    }

    /** Records of one transaction have the same system number. */
    private int largestTransaction() {
        return cabinet.jdbc
                .sql(
                        "select coalesce(max(n), 0)::int from (select count(*) as n from filing_record group by xmin::text) t")
                .query(Integer.class)
                .single();
    }

    @Test
    void aWrongCountIsMendedAndTold() {
        World world = new World(5);
        cabinet.jdbc
                .sql("update folder_count set unread = -200 where folder_id = ?")
                .param(cabinet.places.inbox(world.user))
                .update();
        CountStore counts = cabinet.bean(CountStore.class);
        assertThat(counts.wrong(world.user)).isNotEmpty();
        assertThat(counts.mend(world.user)).isPositive();
        world.isTrue();
    }

    /** Who waits for a message takes it as it is then, with the labels that it has by then. */
    @Test
    void whoeverWaitedSeesTheLabelsOfTheOther() throws Exception {
        World world = new World(1);
        long message = world.some(new Random(1)).get(0);
        long x = cabinet.places.label(world.user, FolderPath.parse("X")).id();
        long z = cabinet.places.label(world.user, FolderPath.parse("Z")).id();
        ExecutorService second = Executors.newSingleThreadExecutor();
        Future<?> waiting = cabinet.bean(Transactions.class).in(() -> {
            cabinet.filing.act(world.user, Cause.HAND, "x", List.of(message), state -> state.with(x, true));
            Future<?> other = second.submit(() ->
                    cabinet.filing.act(world.user, Cause.HAND, "z", List.of(message), state -> state.with(z, true)));
            Await.until(
                    "it waits for the lock",
                    () -> cabinet.jdbc
                                    .sql("select count(*) from pg_locks where not granted")
                                    .query(Integer.class)
                                    .single()
                            > 0);
            return other;
        });
        waiting.get(30, TimeUnit.SECONDS);
        second.shutdown();
        assertThat(world.states().values())
                .singleElement()
                .satisfies(state -> assertThat(state.labels()).containsExactlyInAnyOrder(x, z));
        world.isTrue();
    }

    @Test
    void oneOfTwoThatStopEachOtherIsDoneAgain() throws Exception {
        World world = new World(2);
        long[] ids = world.states().keySet().stream()
                .mapToLong(Long::longValue)
                .sorted()
                .toArray();
        Transactions transactions = cabinet.bean(Transactions.class);
        CountDownLatch both = new CountDownLatch(2);
        ExecutorService threads = Executors.newFixedThreadPool(2);
        List<java.util.concurrent.Future<Integer>> done = IntStream.range(0, 2)
                .mapToObj(i -> threads.submit(() -> transactions.in(() -> {
                    touch(ids[i]);
                    both.countDown();
                    try {
                        both.await(5, TimeUnit.SECONDS);
                    } catch (InterruptedException e) {
                        throw new IllegalStateException(e);
                    }
                    return touch(ids[1 - i]);
                })))
                .toList();
        for (java.util.concurrent.Future<Integer> one : done) {
            assertThat(one.get(30, TimeUnit.SECONDS)).isEqualTo(1);
        }
        threads.shutdown();
    }

    private int touch(long id) {
        return cabinet.jdbc
                .sql("update message set attachments = attachments where id = ?")
                .param(id)
                .update();
    }
}
