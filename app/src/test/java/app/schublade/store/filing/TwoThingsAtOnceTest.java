package app.schublade.store.filing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.filing.State;
import app.schublade.core.place.FolderPath;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.act.TakenBack;
import app.schublade.store.base.Transactions;
import app.schublade.store.cabinet.CategoryStore;
import app.schublade.store.cabinet.LabelStore;
import app.schublade.store.place.Places;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Everything that can be done, at once and in any order: nothing fails, nothing is lost, and every count is true. */
@ExtendWith(Cabinet.Extension.class)
class TwoThingsAtOnceTest {
    private final Cabinet cabinet;
    private final LabelStore labels;
    private final CategoryStore categories;
    private final MessageCopier copier;

    TwoThingsAtOnceTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        labels = cabinet.bean(LabelStore.class);
        categories = cabinet.bean(CategoryStore.class);
        copier = cabinet.bean(MessageCopier.class);
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void tenThreadsDoWhateverCanBeDone(long seed) throws Exception {
        BusyUser world = new BusyUser(cabinet, 60);
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
        BusyUser world = new BusyUser(cabinet, 20);
        Random random = new Random(seed);
        cabinet.jdbc
                .sql("delete from batch where user_id = ?")
                .param(world.user)
                .update();
        Map<Long, State> beginning = world.states();
        Set<String> shown = world.shown();
        for (int i = 0; i < 60; i++) {
            switch (random.nextInt(6)) {
                case 0 ->
                    world.folders
                            .portrait(world.user, world.folder(world.path(random)))
                            .filter(one -> !one.path().toString().matches("F|D/G"))
                            .ifPresent(one -> world.folders.delete(world.user, one));
                case 1 -> cabinet.undo.latest(world.user);
                default -> cabinet.filing.act(world.user, Cause.HAND, "act", world.some(random), world.change(random));
            }
        }
        takeBackEverything(world);
        assertThat(world.states()).isEqualTo(beginning);
        assertThat(world.shown()).containsAll(shown);
        world.isTrue();
    }

    private void takeBackEverything(BusyUser world) {
        for (int i = 0; open(world) > 0; i++) {
            assertThat(i).as("each Z takes back one act more").isLessThan(1000);
            int before = open(world);
            cabinet.undo.latest(world.user);
            assertThat(open(world)).isEqualTo(before - 1);
        }
    }

    private int open(BusyUser world) {
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
        BusyUser world = new BusyUser(cabinet, 20);
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
        BusyUser world = new BusyUser(cabinet, 3);
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
        BusyUser world = new BusyUser(cabinet, 3);
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

    private long copy(BusyUser world, long message) {
        return copier.copyInto(world.user, "Copied", List.of(message), world.folder("E"), 0)
                .changed()
                .get(0);
    }

    @Test
    void whatIsGoneIsLeftOutAndSaid() {
        BusyUser world = new BusyUser(cabinet, 3);
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
        labels.remove(world.user, world.label("Values"));
        ActOutcome undone = cabinet.undo.act(world.user, batch);
        assertThat(undone.changed()).hasSize(3);
        assertThat(undone.leftOut()).containsExactly("The label Values is gone; 3 messages are without it.");
        assertThat(cabinet.undo.latest(world.user).title()).isEqualTo("Took away the label Values");
        assertThat(cabinet.undo.latest(world.user).title()).isEqualTo("Label");
    }

    @Test
    void anActThatIsTakenBackBetweenItsPartsIsOver() {
        BusyUser world = new BusyUser(cabinet, 4);
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
        BusyUser world = new BusyUser(cabinet, 1);
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
        world.folders.merge(world.user, world.folders.portrait(world.user, a).orElseThrow(), world.portrait("D"));
        world.folders.delete(world.user, world.portrait("D"));
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
        BusyUser world = new BusyUser(cabinet, 5);
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
        BusyUser world = new BusyUser(cabinet, 1);
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
        BusyUser world = new BusyUser(cabinet, 2);
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
