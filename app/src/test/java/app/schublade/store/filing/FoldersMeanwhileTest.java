package app.schublade.store.filing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.mail.RemoteFolder;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import app.schublade.store.base.Transactions;
import app.schublade.store.base.UserLock;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.cabinet.LabelStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RuleStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Folders that are moved, merged, deleted and brought back while something else happens to them. */
@ExtendWith(Cabinet.Extension.class)
class FoldersMeanwhileTest {
    private final Cabinet cabinet;
    private final LabelStore labels;

    FoldersMeanwhileTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        labels = cabinet.bean(LabelStore.class);
    }

    @Test
    void aFolderWhoseNameAnotherTookComesBackUnderAnother() {
        BusyUser world = new BusyUser(cabinet, 6);
        long trash = cabinet.places.special(world.user, SpecialUse.TRASH);
        long a = world.folder("A");
        cabinet.filing.act(
                world.user, Cause.HAND, "File", List.copyOf(world.states().keySet()), state -> state.in(a));
        world.folders.delete(world.user, world.folders.portrait(world.user, a).orElseThrow());
        world.folders.rename(world.user, world.portrait("E"), FolderPath.parse("A"));
        ActOutcome undone = cabinet.undo.latest(world.user);
        assertThat(undone.leftOut()).contains("Another folder has its name by now, so that it is called A (earlier).");
        assertThat(world.states().values()).allMatch(state -> state.folder() == a && state.folder() != trash);
        assertThat(world.shown()).contains("A", "A (earlier)", "A (earlier)/B");
    }

    @Test
    void whatLiesInAMovedFolderNeverLiesTooDeepAndWhatDoesIsStillShown() {
        BusyUser world = new BusyUser(cabinet, 7);
        String seven = "1/2/3/4/5/6/7";
        world.folder("Deep/" + seven);
        world.folder("Other/" + seven);
        FolderStore.Portrait deep = world.portrait("Deep");
        Set<String> before = world.shown();
        assertThatThrownBy(() -> world.folders.rename(world.user, deep, FolderPath.parse("Other/" + seven + "/Deep")))
                .isInstanceOf(InputProblem.class)
                .hasMessage("“Other” would be 16 folders deep; 12 is the limit.");
        assertThatThrownBy(() -> world.folders.merge(world.user, deep, world.portrait("Other/" + seven)))
                .isInstanceOf(InputProblem.class);
        assertThat(world.shown()).isEqualTo(before);

        cabinet.places.label(world.user, FolderPath.parse("Deep/" + seven));
        cabinet.places.label(world.user, FolderPath.parse("Other/" + seven));
        Places.Label label = world.label("Deep");
        assertThatThrownBy(() -> labels.rename(world.user, label, FolderPath.parse("Other/" + seven + "/Deep")))
                .isInstanceOf(InputProblem.class);

        cabinet.jdbc
                .sql("update folder set path = ? || substr(path, 5) where user_id = ? and starts_with(path, 'Deep')")
                .params("Other/" + seven + "/Deep", world.user)
                .update();
        assertThat(world.shown()).contains("Other/" + seven + "/Deep/" + seven);
        assertThat(cabinet.bean(RuleStore.class).book(world.user)).isNotNull();
    }

    /** Whatever becomes of the folder between the question to the server and its answer. */
    @Test
    void whatAServerMadeBelongsToTheFolderItWasMadeFor() {
        BusyUser world = new BusyUser(cabinet, 9);
        Account account = cabinet.account(world.user, "MA");
        FolderPath asked = FolderPath.parse("Asked");

        long deleted = world.folder("Asked");
        world.folders.delete(world.user, world.portrait("Asked"));
        assertThat(made(account, deleted, asked, "Asked").folderId()).isEqualTo(deleted);
        assertThat(world.shown()).doesNotContain("Asked");
        assertThat(cabinet.mailboxes.toDelete(account.id()))
                .extracting(Mailbox::serverName)
                .containsExactly("Asked");

        long renamed = world.folder("Renamed");
        assertThat(made(account, renamed, FolderPath.parse("Before"), "Before").folderId())
                .isEqualTo(renamed);
        assertThat(world.shown()).doesNotContain("Before");
        assertThat(cabinet.mailboxes.toRename(account.id()))
                .extracting(Mailbox::serverName)
                .containsExactly("Before");

        long taken = world.folder("Taken");
        assertThat(made(account, taken, FolderPath.parse("Taken"), "Taken (2)").folderId())
                .isEqualTo(taken);
        assertThat(cabinet.mailboxes.toRename(account.id())).hasSize(1);

        long unheard = world.folder("Unheard");
        cabinet.mailboxes.wish(account.id(), unheard);
        world.folders.delete(world.user, world.portrait("Unheard"));
        assertThat(cabinet.mailboxes.toMake(account.id())).isEmpty();
        assertThat(cabinet.mailbox(account, "Unheard").folderId()).isEqualTo(unheard);
        assertThat(world.shown()).doesNotContain("Unheard");

        long nobody = Long.MAX_VALUE;
        assertThat(made(account, nobody, asked, "Left over").folderId()).isEqualTo(world.folder("Left over"));
    }

    private Mailbox made(Account account, long folder, FolderPath asked, String serverName) {
        FolderPath path = FolderPath.parse(serverName);
        return cabinet.mailboxes.made(
                account, folder, asked, new RemoteFolder(serverName, path, SpecialUse.of(path, List.of()), true));
    }

    @Test
    void whoeverMovesAFolderThatHasBeenMovedMeanwhileTakesAllOfItAlong() {
        BusyUser world = new BusyUser(cabinet, 8);
        world.folder("Before/Inner");
        FolderStore.Portrait seen = world.portrait("Before");
        world.folders.rename(world.user, seen, FolderPath.parse("Elsewhere entirely"));
        world.folders.rename(world.user, seen, FolderPath.parse("There"));
        assertThat(world.shown()).contains("There", "There/Inner").doesNotContain("Before", "Elsewhere entirely");

        cabinet.places.label(world.user, FolderPath.parse("Before/Inner"));
        Places.Label label = world.label("Before");
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
        BusyUser world = new BusyUser(cabinet, 4);
        world.folder("Before/Deep/Down/Inner");
        world.folder("Target");
        FolderStore.Portrait from = world.portrait("Before/Deep/Down");
        FolderStore.Portrait into = world.portrait("Target");
        world.folders.rename(world.user, from, FolderPath.parse("There"));
        world.folders.rename(world.user, into, FolderPath.parse("Elsewhere"));
        world.folders.merge(world.user, from, into);
        assertThat(world.shown())
                .contains("Elsewhere", "Elsewhere/Inner")
                .doesNotContain("There", "Target", "Before/Deep/Down");
        assertThatThrownBy(() -> world.folders.merge(world.user, from, into))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining("gone");
    }

    /** Undo of the act that brought it back does not take it away from what came into it since. */
    @Test
    void aFolderThatWasBroughtBackStaysWhileSomethingElseIsInIt() {
        BusyUser world = new BusyUser(cabinet, 2);
        List<Long> all = List.copyOf(world.states().keySet());
        world.folders.delete(world.user, world.portrait("D"));
        assertThat(world.shown()).doesNotContain("D");
        long first = file(world, all.get(0), "D");
        long second = file(world, all.get(1), "D");
        assertThat(world.shown()).contains("D");
        assertThat(cabinet.undo.act(world.user, first).leftOut())
                .containsExactly("The folder D stays, for something else uses it by now.");
        assertThat(world.shown()).contains("D");
        world.isTrue();
        cabinet.undo.act(world.user, second);
        world.isTrue();
    }

    @Test
    void aFolderThatWasBroughtBackGoesWithWhatBroughtIt() {
        BusyUser world = new BusyUser(cabinet, 1);
        world.folders.delete(world.user, world.portrait("D"));
        long batch = file(world, world.states().keySet().iterator().next(), "D");
        assertThat(cabinet.undo.act(world.user, batch).leftOut()).isEmpty();
        assertThat(world.shown()).doesNotContain("D");
        world.isTrue();
    }

    /** Filed into the folder of a path, which is made or brought back by it. */
    private long file(BusyUser world, long message, String path) {
        cabinet.bean(Acts.class).record(world.user, "File", () -> {
            long folder = world.folder(path);
            cabinet.filing.act(world.user, Cause.HAND, "File", List.of(message), state -> state.in(folder));
        });
        return cabinet.undo.latestOf(world.user).orElseThrow().batch();
    }

    /** What lay in the merged folder when it began and does not lie there as it ends is none of its business. */
    @Test
    void whatIsMovedOutOfAFolderWhileItIsMergedStays() throws Exception {
        BusyUser world = new BusyUser(cabinet, 1);
        file(world, world.states().keySet().iterator().next(), "A/B");
        FolderStore.Portrait from = world.portrait("A");
        FolderStore.Portrait into = world.portrait("D");
        meanwhile(world, () -> world.folders.merge(world.user, from, into), "A/B", "Elsewhere");
        assertThat(world.shown()).contains("Elsewhere", "Elsewhere/C", "D").doesNotContain("A");
        world.isTrue();
    }

    @Test
    void aFolderThatComesToLieInTheOneThatIsMergedIntoItStaysWithIt() throws Exception {
        BusyUser world = new BusyUser(cabinet, 1);
        file(world, world.states().keySet().iterator().next(), "A");
        FolderStore.Portrait from = world.portrait("A");
        FolderStore.Portrait into = world.portrait("D");
        meanwhile(world, () -> world.folders.merge(world.user, from, into), "D", "A/D");
        assertThat(world.shown()).contains("A", "A/D");
        world.isTrue();
    }

    /** A folder is moved after the work has begun, and before it goes on: who waits for a user is served in turn. */
    private void meanwhile(BusyUser world, Runnable work, String moved, String to) throws Exception {
        FolderStore.Portrait folder = world.portrait(moved);
        ExecutorService threads = Executors.newFixedThreadPool(2);
        List<Future<?>> both = cabinet.bean(Transactions.class).in(() -> {
            cabinet.bean(UserLock.class).alone(world.user);
            Future<?> first = threads.submit(work);
            Await.until("the work waits", () -> waiting(world) == 1);
            Future<?> second = threads.submit(() -> world.folders.rename(world.user, folder, FolderPath.parse(to)));
            Await.until("so does who moves the folder", () -> waiting(world) == 2);
            return List.of(first, second);
        });
        for (Future<?> each : both) {
            each.get(30, TimeUnit.SECONDS);
        }
        threads.shutdown();
    }

    private int waiting(BusyUser world) {
        return cabinet.jdbc
                .sql("select count(*) from pg_locks where locktype = 'advisory' and not granted and objid = ?::int::oid"
                        + " and database = (select oid from pg_database where datname = current_database())")
                .param((int) world.user)
                .query(Integer.class)
                .single();
    }
}
