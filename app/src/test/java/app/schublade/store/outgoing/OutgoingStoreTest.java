package app.schublade.store.outgoing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.message.Address;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.OutgoingStore.Edition;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.OutgoingStore.OutgoingState;
import app.schublade.testing.Cabinet;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
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

    private static final Edition NOBODY = new Edition(0, "");

    private final Cabinet cabinet;
    private final OutgoingStore outgoing;
    private final SendingStore sending;
    private final long user;
    private final DraftText text;

    OutgoingStoreTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        outgoing = cabinet.outgoing;
        sending = cabinet.sending;
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
        assertThat(sending.claim(List.of())).map(Outgoing::id).contains(due);
        assertThat(sending.claim(List.of()))
                .as("one is claimed, the other is not due")
                .isEmpty();
        sending.handedIn(due);
        assertThat(state(due)).isEqualTo(OutgoingState.SENT);
        sending.done(due);
        assertThat(outgoing.of(user)).extracting(Outgoing::id).containsExactly(later);
    }

    @Test
    void whatIsBeingHandedInCannotBeTakenBackNorChanged() {
        long id = waiting(Duration.ZERO);
        assertThat(outgoing.keepOver(user, id, text, NOBODY))
                .as("it is on its way")
                .isEmpty();
        assertThat(sending.claim(List.of())).isPresent();
        assertThat(outgoing.recall(user, id)).as("a process has it").isFalse();
        sending.later(id, "Away.", Duration.ofMinutes(1));
        assertThat(outgoing.recall(user, id)).as("it was not taken").isTrue();
        assertThat(state(id)).isEqualTo(OutgoingState.DRAFT);
        assertThat(outgoing.keep(user, id, text, NOBODY)).isPresent();
    }

    private OptionalInt types(long id, String body, int version, String window) {
        DraftText typed = new DraftText(text.accountId(), text.sender(), "", "", "", "", body, null);
        return outgoing.keep(user, id, typed, new Edition(version, window));
    }

    private String bodyOf(long id) {
        return outgoing.byId(user, id).orElseThrow().text().body();
    }

    @Test
    void aWindowThatDoesNotKnowWhatAnotherOneWroteWritesNothingOverIt() {
        long id = outgoing.begin(user, text, null, null, List.of());
        assertThat(types(id, "One", 0, "here")).hasValue(1);
        assertThat(types(id, "One two", 0, "here")).as("its answer was lost").hasValue(2);
        assertThat(types(id, "Another", 1, "there")).isEmpty();
        assertThat(types(id, "Another", 0, "")).isEmpty();
        assertThat(bodyOf(id)).isEqualTo("One two");
        assertThat(types(id, "One two", 0, "there"))
                .as("the same was written in both")
                .hasValue(3);
        assertThat(types(id, "One two three", 2, "here")).isEmpty();
        assertThat(types(id, "One two three", 3, "here")).hasValue(4);
        DraftText over = new DraftText(text.accountId(), text.sender(), "", "", "", "", "Over", null);
        assertThat(outgoing.keepOver(user, id, over, new Edition(0, "there"))).hasValue(5);
        assertThat(bodyOf(id)).isEqualTo("Over");
        outgoing.discard(user, id);
        assertThat(outgoing.keepOver(user, id, over, NOBODY)).as("gone").isEmpty();
    }

    /** However many windows write at once, what each was told is kept stood there, and the others know. */
    @Test
    void ofManyWindowsAtOnceOneWrites() throws Exception {
        long id = outgoing.begin(user, text, null, null, List.of());
        ExecutorService windows = Executors.newFixedThreadPool(8);
        try {
            List<Callable<OptionalInt>> all = IntStream.range(0, 8)
                    .mapToObj(n -> (Callable<OptionalInt>) () -> types(id, "Window " + n, 0, "window" + n))
                    .toList();
            List<Integer> kept = new ArrayList<>();
            for (Future<OptionalInt> one : windows.invokeAll(all)) {
                one.get().ifPresent(kept::add);
            }
            assertThat(kept).containsExactly(1);
        } finally {
            windows.shutdownNow();
        }
    }

    @Test
    void whatWasRefusedIsWrittenOnAndWhatIsKeptHereCanBeThrownAway() {
        long id = waiting(Duration.ZERO);
        assertThat(sending.claim(List.of())).isPresent();
        sending.refused(id, "Nobody of that name.");
        assertThat(state(id)).isEqualTo(OutgoingState.REFUSED);
        assertThat(outgoing.send(user, id, OUTLINE, Instant.now(), Instant.now()))
                .isTrue();
        outgoing.discard(user, id);
        assertThat(state(id)).as("on its way").isEqualTo(OutgoingState.WAITING);
        assertThat(sending.claim(List.of())).isPresent();
        sending.handedIn(id);
        outgoing.discard(user, id);
        assertThat(state(id)).as("its copy is to be filed").isEqualTo(OutgoingState.SENT);
        sending.keptHere(id);
        assertThat(sending.claim(List.of())).isEmpty();
        outgoing.discard(user, id);
        assertThat(outgoing.of(user)).isEmpty();
    }

    @Test
    void whatIsWrittenForAnAccountThatGoesIsAnotherOnes() {
        Account heir = cabinet.account(user, "TS");
        Account gone = cabinet.bean(AccountStore.class).byId(text.accountId()).orElseThrow();
        long draft = outgoing.begin(user, text, null, null, List.of());
        long later = waiting(Duration.ofDays(3));
        long leaving = waiting(Duration.ZERO);
        assertThat(sending.claim(List.of())).map(Outgoing::id).contains(leaving);
        long forwarded = cabinet.arrives(gone, Cabinet.TestMail.from("crate@petrel.example", "Freight"));
        long passesOn = outgoing.begin(user, text, null, null, List.of());
        outgoing.enclose(passesOn, forwarded, true);

        assertThat(outgoing.handOver(user, gone.id(), heir)).isEqualTo(3);
        cabinet.bean(AccountStore.class).remove(user, gone.id());

        assertThat(outgoing.of(user))
                .extracting(Outgoing::id, Outgoing::state, Outgoing::dueAt)
                .containsExactly(
                        tuple(passesOn, OutgoingState.REFUSED, null),
                        tuple(later, OutgoingState.REFUSED, null),
                        tuple(draft, OutgoingState.DRAFT, null));
        assertThat(outgoing.of(user))
                .allMatch(one -> one.text().accountId() == heir.id()
                        && one.text().sender().equals(heir.address())
                        && one.text().body().equals(text.body()));
        assertThat(outgoing.of(user))
                .extracting(Outgoing::trouble)
                .satisfiesExactly(
                        lost -> assertThat(lost).contains("without it"),
                        stopped -> assertThat(stopped).contains("before it left"),
                        calm -> assertThat(calm).isNull());
    }
}
