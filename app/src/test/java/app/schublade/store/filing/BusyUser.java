package app.schublade.store.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.State;
import app.schublade.core.place.FolderPath;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.act.Cause;
import app.schublade.store.base.Transactions;
import app.schublade.store.cabinet.FlagStore;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.cabinet.LabelStore;
import app.schublade.store.place.Places;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.UnaryOperator;

/** One user with two accounts and some mail, and all that can happen to it. */
final class BusyUser {
    private static final AtomicLong UIDS = new AtomicLong(1_000_000);

    final long user;
    final FolderStore folders;

    private final Cabinet cabinet;
    private final Account first;
    private final Account second;

    BusyUser(Cabinet cabinet, int messages) {
        this.cabinet = cabinet;
        folders = cabinet.bean(FolderStore.class);
        user = cabinet.user();
        first = cabinet.account(user, "AA");
        second = cabinet.account(user, "BB");
        for (int i = 0; i < messages; i++) {
            cabinet.arrives(i % 3 == 0 ? second : first, TestMail.from("anna@wharf.example", "m" + i));
        }
        for (String path : List.of("A", "A/B", "A/B/C", "D", "E")) {
            folder(path);
        }
        for (String name : List.of("To call", "To pay")) {
            cabinet.bean(FlagStore.class).add(user, name);
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

    Places places() {
        return cabinet.places.of(user, null);
    }

    String path(Random random) {
        return List.of("A", "A/B", "D", "E", "F", "D/G").get(random.nextInt(6));
    }

    UnaryOperator<State> change(Random random) {
        Places places = places();
        long folder =
                one(random, places.folders().stream().map(Places.Folder::id).toList(), 0L);
        long label = one(random, places.labels().stream().map(Places.Label::id).toList(), 0L);
        long category = one(
                random, places.categories().stream().map(Places.Category::id).toList(), 0L);
        LocalDate day = LocalDate.of(2026, 11, 20 + random.nextInt(9));
        long flag = one(random, places.flags().stream().map(Places.OwnFlag::id).toList(), 0L);
        boolean on = random.nextBoolean();
        return switch (random.nextInt(6)) {
            case 0 -> state -> state.in(folder);
            case 1 -> state -> state.unread(on);
            case 2 -> state -> on ? state.flagged(true) : state.ticked(day);
            case 3 -> state -> state.with(label, on);
            case 4 -> state -> state.flaggedAs(on ? (Long) flag : null);
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
            case 12, 13 ->
                tell(() -> cabinet.bean(MessageCopier.class).copyInto(user, "copy", some(random), folder("E"), 0));
            case 10 -> {
                List<Places.Label> all = places().labels();
                if (!all.isEmpty()) {
                    cabinet.bean(LabelStore.class).remove(user, all.get(random.nextInt(all.size())));
                }
                cabinet.places.label(user, FolderPath.parse("X/Y"));
                places().flags().stream()
                        .findAny()
                        .ifPresent(flag -> cabinet.bean(FlagStore.class).remove(user, flag));
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

    /** The folders that the user sees. */
    Set<String> shown() {
        Set<String> shown = new TreeSet<>();
        places().folders().forEach(one -> shown.add(one.path().toString()));
        return shown;
    }

    FolderStore.Portrait portrait(String path) {
        return folders.portrait(user, folder(path)).orElseThrow();
    }

    Places.Label label(String path) {
        return places().labels().stream()
                .filter(one -> one.path().toString().equals(path))
                .findFirst()
                .orElseThrow();
    }
}
