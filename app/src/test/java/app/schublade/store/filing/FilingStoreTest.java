package app.schublade.store.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.core.place.FolderPath;
import app.schublade.core.query.Query;
import app.schublade.store.account.Account;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.MessageStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

@ExtendWith(Cabinet.Extension.class)
class FilingStoreTest {
    private final Cabinet cabinet;
    private long user;
    private Account account;

    FilingStoreTest(Cabinet cabinet) {
        this.cabinet = cabinet;
    }

    @BeforeEach
    void somebody() {
        user = cabinet.user();
        account = cabinet.account(user, "MU", "schools@quay.example");
    }

    private ActOutcome file(String path, Long... messages) {
        long folder = cabinet.folder(user, path).id();
        return cabinet.filing.act(user, Cause.HAND, "Filed into " + path, List.of(messages), state -> state.in(folder));
    }

    @Test
    void filingMovesCountsRecordsAndOrders() {
        long one = cabinet.arrives(account, TestMail.from("a@b.example", "One"));
        long two = cabinet.arrives(account, TestMail.from("a@b.example", "Two").read());
        assertThat(cabinet.counts(user, "Inbox")).isEqualTo("2/1");

        ActOutcome outcome = file("Loans/Halden", one, two);

        assertThat(outcome.changed()).containsExactly(one, two);
        assertThat(cabinet.lies(user, one)).isEqualTo("Loans / Halden");
        assertThat(cabinet.counts(user, "Inbox")).isEqualTo("0/0");
        assertThat(cabinet.counts(user, "Loans / Halden")).isEqualTo("2/1");
        assertThat(cabinet.waiting(account))
                .containsExactly("MOVE %d Loans / Halden".formatted(one), "MOVE %d Loans / Halden".formatted(two));
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    @Test
    void undoBringsEverythingBackAndTellsTheServer() {
        long message = cabinet.arrives(account, TestMail.from("a@b.example", "One"));
        file("Loans", message);

        ActOutcome undone = cabinet.undo.latest(user);

        assertThat(undone.title()).isEqualTo("Filed into Loans");
        assertThat(cabinet.lies(user, message)).isEqualTo("Inbox");
        assertThat(cabinet.counts(user, "Inbox")).isEqualTo("1/1");
        assertThat(cabinet.waiting(account)).endsWith("MOVE %d Inbox".formatted(message));
        assertThat(cabinet.undo.latest(user).changed()).isEmpty();
    }

    @Test
    void undoGoesBackActByActAndSkipsGlances() {
        long message = cabinet.arrives(account, TestMail.from("a@b.example", "One"));
        file("Loans", message);
        file("Travel", message);
        cabinet.filing.act(user, Cause.GLANCE, "", List.of(message), state -> state.unread(false));

        cabinet.undo.latest(user);
        assertThat(cabinet.lies(user, message)).isEqualTo("Loans");
        cabinet.undo.latest(user);
        assertThat(cabinet.lies(user, message)).isEqualTo("Inbox");
        assertThat(cabinet.messages.row(user, message).orElseThrow().unread()).isFalse();
    }

    @Test
    void whatTheUserChangedSinceStaysAsItIs() {
        long one = cabinet.arrives(account, TestMail.from("a@b.example", "One"));
        long two = cabinet.arrives(account, TestMail.from("a@b.example", "Two"));
        long batch = file("Loans", one, two).batch();
        file("Travel", one);

        ActOutcome undone = cabinet.undo.act(user, batch);

        assertThat(undone.kept()).isEqualTo(1);
        assertThat(undone.changed()).containsExactly(two);
        assertThat(cabinet.lies(user, one)).isEqualTo("Travel");
        assertThat(cabinet.lies(user, two)).isEqualTo("Inbox");
    }

    @Test
    void anActThatChangesNothingLeavesNoTrace() {
        long message =
                cabinet.arrives(account, TestMail.from("a@b.example", "One").read());
        ActOutcome outcome =
                cabinet.filing.act(user, Cause.HAND, "Read", List.of(message), state -> state.unread(false));
        assertThat(outcome).isEqualTo(ActOutcome.NOTHING);
        assertThat(cabinet.waiting(account)).isEmpty();
        assertThat(cabinet.undo.latest(user)).isEqualTo(ActOutcome.NOTHING);
    }

    @Test
    void marksBecomeOrders() {
        long message = cabinet.arrives(account, TestMail.from("a@b.example", "One"));
        long label = cabinet.places
                .label(user, FolderPath.parse("Objects/Ship models"))
                .id();
        long category = cabinet.places.category(user, "Next").id();
        cabinet.filing.act(
                user,
                Cause.HAND,
                "All",
                List.of(message),
                state -> state.unread(false)
                        .flagged(true)
                        .labelled(Set.of(label))
                        .categorised(category));
        assertThat(cabinet.waiting(account))
                .hasSize(4)
                .contains("MARK %d +\\Seen".formatted(message), "MARK %d +\\Flagged".formatted(message))
                .anyMatch(order -> order.contains("ship"))
                .anyMatch(order -> order.contains("next"));
        cabinet.undo.latest(user);
        assertThat(cabinet.waiting(account))
                .hasSize(8)
                .contains("MARK %d -\\Seen".formatted(message))
                .allMatch(order -> order.startsWith("MARK"));
    }

    @Test
    void aRuleFilesOnArrivalWithItsReason() {
        Rule rule = new Rule(
                0,
                "Class visits",
                true,
                List.of(new SentTo(List.of("schools@quay.example"))),
                List.of(),
                List.of(
                        new Effect.FileInto(cabinet.folder(user, "Schools")),
                        new Effect.Categorise(cabinet.places.category(user, "Next"))),
                false);
        long id = cabinet.rules.save(user, rule);

        long message =
                cabinet.arrives(account, TestMail.from("a@b.example", "Visit").to("schools@quay.example"));

        assertThat(cabinet.lies(user, message)).isEqualTo("Schools");
        assertThat(cabinet.counts(user, "Inbox")).isIn("0/0", "none");
        assertThat(cabinet.counts(user, "Schools")).isEqualTo("1/1");
        assertThat(cabinet.waiting(account))
                .contains("MOVE %d Schools".formatted(message))
                .hasSize(2);
        List<MessageStore.Filed> filed = cabinet.messages.filed(user, message);
        assertThat(filed).hasSize(1);
        assertThat(filed.get(0).rule()).isEqualTo(id);
        assertThat(filed.get(0).reasons()).containsExactly("sent to schools@quay.example");
        assertThat(cabinet.rules.histories(user)).hasSize(1).hasEntrySatisfying(id, history -> {
            assertThat(history.acted()).isEqualTo(1);
            assertThat(history.lately()).isEqualTo(1);
            assertThat(history.last()).isNotNull();
        });

        cabinet.undo.of(user, message, filed.get(0).batch());
        assertThat(cabinet.lies(user, message)).isEqualTo("Inbox");
        assertThat(cabinet.messages.filed(user, message)).isEmpty();
        assertThat(cabinet.rules.histories(user)).hasEntrySatisfying(id, history -> {
            assertThat(history.acted()).isZero();
            assertThat(history.last()).isNull();
        });
    }

    @Test
    void zDoesNotTakeBackWhatRulesDidOnArrival() {
        cabinet.rules.save(user, cabinet.filing(user, "b.example", "Loans"));
        long message = cabinet.arrives(account, TestMail.from("a@b.example", "One"));
        assertThat(cabinet.undo.latest(user)).isEqualTo(ActOutcome.NOTHING);
        assertThat(cabinet.lies(user, message)).isEqualTo("Loans");
    }

    @Test
    void aRunOfARuleIsOneBatch() {
        long one = cabinet.arrives(account, TestMail.from("a@b.example", "One"));
        long two = cabinet.arrives(account, TestMail.from("a@b.example", "Two"));
        Rule rule = cabinet.filing(user, "b.example", "Loans");
        long id = cabinet.rules.save(user, rule);
        RuleBook book = cabinet.rules.book(user);
        Map<Long, List<Verdict.Hit>> hits = new HashMap<>();
        cabinet.subjects.forEach(
                user,
                Query.everything(),
                book.needs(),
                subject -> hits.put(
                        subject.row().id(),
                        List.of(book.file(subject.message(), subject.state())
                                .of(id)
                                .orElseThrow())));

        ActOutcome outcome = cabinet.filing.run(user, "Run", hits, 0);

        assertThat(outcome.changed()).containsExactlyInAnyOrder(one, two);
        assertThat(cabinet.counts(user, "Loans")).isEqualTo("2/2");
        cabinet.undo.latest(user);
        assertThat(cabinet.counts(user, "Loans")).isEqualTo("0/0");
        assertThat(cabinet.counts(user, "Inbox")).isEqualTo("2/2");
    }

    @Test
    void nobodyTouchesTheMailOfOthers() {
        long message = cabinet.arrives(account, TestMail.from("a@b.example", "Mine"));
        long stranger = cabinet.user();
        long folder = cabinet.folder(stranger, "Stolen").id();
        long batch = file("Loans", message).batch();

        assertThat(cabinet.filing
                        .act(stranger, Cause.HAND, "x", List.of(message), state -> state.in(folder))
                        .changed())
                .isEmpty();
        assertThat(cabinet.undo.act(stranger, batch).changed()).isEmpty();
        assertThat(cabinet.undo.of(stranger, message, batch).changed()).isEmpty();
        assertThat(cabinet.undo.latest(stranger)).isEqualTo(ActOutcome.NOTHING);
        assertThat(cabinet.lies(user, message)).isEqualTo("Loans");
    }

    @Test
    void whatAnotherProgramChangedIsNeitherRecordedNorOrdered() {
        long message = cabinet.arrives(account, TestMail.from("a@b.example", "One"));
        cabinet.filing.accept(user, Map.of(message, state -> state.unread(false)));
        assertThat(cabinet.counts(user, "Inbox")).isEqualTo("1/0");
        assertThat(cabinet.waiting(account)).isEmpty();
        assertThat(cabinet.undo.latest(user)).isEqualTo(ActOutcome.NOTHING);
    }

    /** Whatever is done in whatever order: undoing it all, last first, gives what was there. */
    @Test
    void undoIsTheInverseOfEverything() {
        Random random = new Random(11);
        List<Long> messages = List.of(
                cabinet.arrives(account, TestMail.from("a@b.example", "One")),
                cabinet.arrives(account, TestMail.from("a@b.example", "Two").read()),
                cabinet.arrives(account, TestMail.from("a@b.example", "Three")));
        List<Long> folders = List.of(
                cabinet.places.inbox(user),
                cabinet.folder(user, "A").id(),
                cabinet.folder(user, "A/B").id());
        long label = cabinet.places.label(user, FolderPath.parse("L")).id();
        List<UnaryOperator<State>> deeds = List.of(
                state -> state.unread(!state.unread()),
                state -> state.flagged(!state.flagged()),
                state -> state.labelled(state.labels().isEmpty() ? Set.of(label) : Set.of()),
                state -> state.in(folders.get(1)),
                state -> state.in(folders.get(2)),
                state -> state.in(folders.get(0)));
        List<ListRow> before = rows(messages);
        int acts = 0;
        for (int i = 0; i < 60; i++) {
            List<Long> some = messages.subList(random.nextInt(3), 3);
            UnaryOperator<State> deed = deeds.get(random.nextInt(deeds.size()));
            acts += cabinet.filing.act(user, Cause.HAND, "deed", some, deed).batch() == 0 ? 0 : 1;
            assertThat(cabinet.wrongCounts()).isEmpty();
        }
        for (int i = 0; i < acts; i++) {
            assertThat(cabinet.undo.latest(user).kept()).isZero();
        }
        assertThat(rows(messages)).isEqualTo(before);
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    private List<ListRow> rows(List<Long> messages) {
        return messages.stream()
                .map(id -> cabinet.messages.row(user, id).orElseThrow())
                .toList();
    }
}
