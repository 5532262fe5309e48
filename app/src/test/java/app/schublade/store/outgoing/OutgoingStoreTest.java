package app.schublade.store.outgoing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.message.Address;
import app.schublade.store.account.Account;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.OutgoingStore.OutgoingState;
import app.schublade.testing.Cabinet;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Who may do what to a message on its way; nobody sends here. */
@ExtendWith(Cabinet.Extension.class)
class OutgoingStoreTest {
    private static final OutgoingMessage OUTLINE = new OutgoingMessage(
            new Address("Tilda", "tilda@quay.example"),
            List.of(new Address("", "anna@wharf.example")),
            List.of(),
            "Loan",
            "Dear Anna,",
            null,
            List.of());

    private final OutgoingStore outgoing;
    private final long user;
    private final DraftText text;

    OutgoingStoreTest(Cabinet cabinet) {
        outgoing = cabinet.outgoing;
        user = cabinet.user();
        Account account = cabinet.account(user, "MU");
        text = new DraftText(account.id(), account.address(), "anna@wharf.example", "", "", "Loan", "Dear Anna,", null);
        cabinet.jdbc.sql("delete from outgoing").update();
    }

    private long waiting(Duration until) {
        long id = outgoing.begin(user, text, null, null, List.of());
        assertThat(outgoing.send(user, id, OUTLINE, Instant.now(), Instant.now().plus(until)))
                .isTrue();
        return id;
    }

    private OutgoingState state(long id) {
        return outgoing.byId(user, id).map(Outgoing::state).orElseThrow();
    }

    @Test
    void oneProcessHandsInWhatIsDue() {
        long later = waiting(Duration.ofMinutes(1));
        long due = waiting(Duration.ZERO);
        assertThat(outgoing.claim(List.of())).map(Outgoing::id).contains(due);
        assertThat(outgoing.claim(List.of()))
                .as("one is claimed, the other is not due")
                .isEmpty();
        outgoing.handedIn(due);
        assertThat(state(due)).isEqualTo(OutgoingState.SENT);
        outgoing.done(due);
        assertThat(outgoing.of(user)).extracting(Outgoing::id).containsExactly(later);
    }

    @Test
    void whatIsBeingHandedInCannotBeTakenBackNorChanged() {
        long id = waiting(Duration.ZERO);
        assertThat(outgoing.keep(user, id, text)).as("it is on its way").isFalse();
        assertThat(outgoing.claim(List.of())).isPresent();
        assertThat(outgoing.recall(user, id)).as("a process has it").isFalse();
        outgoing.later(id, "Away.", Duration.ofMinutes(1));
        assertThat(outgoing.recall(user, id)).as("it was not taken").isTrue();
        assertThat(state(id)).isEqualTo(OutgoingState.DRAFT);
        assertThat(outgoing.keep(user, id, text)).isTrue();
    }

    @Test
    void whatWasRefusedIsWrittenOnAndWhatIsKeptHereCanBeThrownAway() {
        long id = waiting(Duration.ZERO);
        assertThat(outgoing.claim(List.of())).isPresent();
        outgoing.refused(id, "Nobody of that name.");
        assertThat(state(id)).isEqualTo(OutgoingState.REFUSED);
        assertThat(outgoing.send(user, id, OUTLINE, Instant.now(), Instant.now()))
                .isTrue();
        outgoing.discard(user, id);
        assertThat(state(id)).as("on its way").isEqualTo(OutgoingState.WAITING);
        assertThat(outgoing.claim(List.of())).isPresent();
        outgoing.handedIn(id);
        outgoing.discard(user, id);
        assertThat(state(id)).as("its copy is to be filed").isEqualTo(OutgoingState.SENT);
        outgoing.keptHere(id);
        assertThat(outgoing.claim(List.of())).isEmpty();
        outgoing.discard(user, id);
        assertThat(outgoing.of(user)).isEmpty();
    }
}
