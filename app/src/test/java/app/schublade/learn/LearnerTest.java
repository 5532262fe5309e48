package app.schublade.learn;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.learn.Likely;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.learn.LearnStore;
import app.schublade.store.learn.LearnStore.LessonKind;
import app.schublade.store.place.Places;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.work.Background;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What is filed is learnt, what is taken back is forgotten, and a restart changes nothing. */
@ExtendWith(Cabinet.Extension.class)
class LearnerTest {
    private final Cabinet cabinet;
    private final LearnStore store;
    private final Learner learner;
    private final long user;
    private final Account account;

    LearnerTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        store = cabinet.bean(LearnStore.class);
        learner = learner();
        user = cabinet.user();
        account = cabinet.account(user, "MU");
    }

    private Learner learner() {
        return new Learner(store, cabinet.subjects, cabinet.bean(Background.class));
    }

    private Places places() {
        return cabinet.places.of(user, null);
    }

    private long arrives(String sender, String subject) {
        return cabinet.arrives(account, TestMail.from(sender, subject));
    }

    private long file(long message, String path) {
        long folder = cabinet.folder(user, path).id();
        return cabinet.filing
                .act(user, Cause.HAND, "Filed", List.of(message), state -> state.in(folder))
                .batch();
    }

    private List<String> likely(Learner asked, long message) {
        Set<Long> open = Set.copyOf(store.folders(user));
        return asked.likely(user, message, LessonKind.FOLDER, open, 3).stream()
                .map(Likely::place)
                .map(id -> places().folderOf(id).path().shown())
                .toList();
    }

    @Test
    void whatIsFiledIsLearntAndWhatIsTakenBackIsForgotten() {
        learner.learn(user);
        for (int i = 0; i < 3; i++) {
            file(arrives("registrar@halden.example", "Loan " + i), "Loans/Halden");
            file(arrives("x@y.example", "Other " + i), "Travel");
        }
        long asked = arrives("registrar@halden.example", "Values");
        assertThat(likely(learner, asked)).first().isEqualTo("Loans / Halden");
        long stranger = arrives("new@elsewhere.example", "Quite new");
        long batch = file(arrives("new@elsewhere.example", "First"), "Travel");
        assertThat(likely(learner, stranger)).first().isEqualTo("Travel");
        cabinet.undo.act(user, batch);
        file(arrives("new@elsewhere.example", "First"), "Loans/Halden");
        assertThat(likely(learner, stranger)).first().isEqualTo("Loans / Halden");
    }

    @Test
    void whatLiesInFoldersBeforeIsLearntAtFirstAndKept() {
        for (int i = 0; i < 3; i++) {
            file(arrives("registrar@halden.example", "Loan " + i), "Loans/Halden");
            file(arrives("x@y.example", "Other " + i), "Travel");
        }
        learner.learn(user);
        long asked = arrives("registrar@halden.example", "Values");
        assertThat(likely(learner, asked)).first().isEqualTo("Loans / Halden");
        learner.go();
        assertThat(store.after(user, 0, 10))
                .as("lessons that are learnt and kept")
                .isEmpty();
        file(arrives("late@halden.example", "Late"), "Travel");
        Learner restarted = learner();
        restarted.learn(user);
        assertThat(likely(restarted, asked)).isEqualTo(likely(learner, asked));
        assertThat(likely(restarted, arrives("late@halden.example", "Later")))
                .first()
                .isEqualTo("Travel");
    }

    @Test
    void labelsAreLearntToo() {
        learner.learn(user);
        long label = cabinet.places.label(user, FolderPath.parse("Glass")).id();
        long other = cabinet.places.label(user, FolderPath.parse("Rope")).id();
        for (int i = 0; i < 3; i++) {
            cabinet.filing.act(
                    user,
                    Cause.HAND,
                    "Labelled",
                    List.of(arrives("anna@wharf.example", "Vases " + i)),
                    state -> state.with(label, true));
            cabinet.filing.act(
                    user,
                    Cause.HAND,
                    "Labelled",
                    List.of(arrives("bo@wharf.example", "Ropes " + i)),
                    state -> state.with(other, true));
        }
        List<Long> found =
                learner
                        .likely(user, arrives("bo@wharf.example", "Knots"), LessonKind.LABEL, Set.of(label, other), 3)
                        .stream()
                        .map(Likely::place)
                        .collect(Collectors.toList());
        assertThat(found).first().isEqualTo(other);
    }

    @Test
    void whatIsThrownAwayTeachesNoFolder() {
        learner.learn(user);
        long trash = places().special(SpecialUse.TRASH).id();
        for (int i = 0; i < 3; i++) {
            long message = arrives("shop@goods.example", "Offer " + i);
            cabinet.filing.act(user, Cause.HAND, "Deleted", List.of(message), state -> state.in(trash));
        }
        assertThat(likely(learner, arrives("shop@goods.example", "Offer"))).isEmpty();
    }
}
