package app.schublade.store.filing;

import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.act.TakenBack;
import app.schublade.store.base.Transactions;
import app.schublade.store.place.ExistingPlaces;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/**
 * The one way in which messages change: every act of a user, a rule or an undo comes through here, and in one
 * transaction changes the messages, their counts, the filing record and the orders for the mail servers.
 */
@Repository
public class FilingStore {
    private final JdbcClient jdbc;
    private final ChangeWriter writer;
    private final FilingRecord filings;
    private final OrderStore orders;
    private final MessageLock locks;
    private final Transactions transactions;

    FilingStore(
            JdbcClient jdbc,
            ChangeWriter writer,
            FilingRecord filings,
            OrderStore orders,
            MessageLock locks,
            Transactions transactions) {
        this.jdbc = jdbc;
        this.writer = writer;
        this.filings = filings;
        this.orders = orders;
        this.locks = locks;
        this.transactions = transactions;
    }

    /** Begins an act that is done in parts; what is given back goes to each of them. */
    @Transactional
    public long begin(long userId, Cause cause, String title) {
        return filings.openBatch(userId, cause, title);
    }

    /** A user's wish: the same change for all the messages; very many are changed some at a time, as one act. */
    public ActOutcome act(
            long userId, Cause cause, String title, Collection<Long> messages, UnaryOperator<State> change) {
        ActOutcome outcome = ActOutcome.NOTHING;
        for (List<Long> part : Transactions.parts(List.copyOf(messages))) {
            long batch = outcome.batch();
            ActOutcome further = transactions.in(() -> actFurther(userId, cause, title, part, change, batch));
            outcome = batch == 0 ? further : outcome.and(further);
        }
        return outcome;
    }

    /**
     * A part of an act on more messages than one transaction should hold.
     *
     * @param batch that of the parts before; 0 if there is none yet
     * @throws TakenBack if the user has taken those back meanwhile
     */
    @Transactional
    public ActOutcome actFurther(
            long userId,
            Cause cause,
            String title,
            Collection<Long> messages,
            UnaryOperator<State> change,
            long batch) {
        List<Step> steps = steps(userId, messages, change);
        return carryOut(userId, cause, title, steps, steps, batch);
    }

    private List<Step> steps(long userId, Collection<Long> messages, UnaryOperator<State> change) {
        return steps(userId, locks.lock(userId, messages), moving -> change.apply(moving.state()));
    }

    /** What is wanted is known before it is looked up what there is: a change may make the place that it wants. */
    private List<Step> steps(long userId, Map<Long, Moving> locked, Function<Moving, State> wanted) {
        Map<Moving, State> all = new LinkedHashMap<>();
        locked.values().forEach(moving -> all.put(moving, wanted.apply(moving)));
        ExistingPlaces existing = new ExistingPlaces(jdbc, userId);
        return all.entrySet().stream()
                .map(one ->
                        new Step(one.getKey(), existing.possible(one.getKey().state(), one.getValue()), null))
                .filter(Step::changesSomething)
                .toList();
    }

    /** What a run of rules changes; see {@link MessageCopier#run}, which makes their copies too. */
    @Transactional
    ActOutcome run(long userId, String title, Map<Long, List<Verdict.Hit>> hits, long batch) {
        Map<Long, Moving> before = locks.lock(userId, hits.keySet());
        ExistingPlaces existing = new ExistingPlaces(jdbc, userId);
        List<Step> wholes = new ArrayList<>();
        List<Step> parts = new ArrayList<>();
        hits.forEach((id, all) -> {
            Moving moving = before.get(id);
            if (moving != null) {
                List<Step> one = Step.ofRules(moving, all, Map.of()).stream()
                        .filter(step -> existing.has(step.after()))
                        .toList();
                parts.addAll(one);
                wholes.add(new Step(
                        moving,
                        one.isEmpty() ? moving.state() : one.get(one.size() - 1).after(),
                        null));
            }
        });
        return carryOut(
                userId,
                Cause.RUN,
                title,
                wholes.stream().filter(Step::changesSomething).toList(),
                parts,
                batch);
    }

    /** @param recorded the same, as it goes into the filing record: with a line for each rule that had a part in it */
    private ActOutcome carryOut(
            long userId, Cause cause, String title, List<Step> steps, List<Step> recorded, long batchSoFar) {
        if (steps.isEmpty()) {
            return ActOutcome.NOTHING;
        }
        writer.write(userId, steps);
        long batch = batchSoFar == 0 ? filings.openBatch(userId, cause, title) : stillGoingOn(batchSoFar);
        filings.write(batch, recorded);
        return new ActOutcome(batch, title, Step.ids(steps), 0);
    }

    /** It cannot be taken back until this transaction ends. */
    long stillGoingOn(long batch) {
        boolean goesOn = jdbc.sql("select undone_at is null and undoing_at is null from batch where id = ? for share")
                .param(batch)
                .query(Boolean.class)
                .optional()
                .orElse(false);
        if (!goesOn) {
            throw new TakenBack();
        }
        return batch;
    }

    /** What is so on the server: stored, but neither recorded nor ordered. */
    @Transactional
    public void accept(long userId, Map<Long, UnaryOperator<State>> changes) {
        writer.adopt(userId, steps(userId, changes));
    }

    /**
     * What another mail program changed on the server, as {@link #accept}; but messages with orders that are not carried
     * out stay as they are, for the server has not been told yet what the user wants.
     *
     * @return whether all the messages are as the changes want them
     */
    @Transactional
    public boolean follow(long userId, Map<Long, UnaryOperator<State>> changes) {
        List<Step> steps = steps(userId, changes);
        // Asked while they are locked, so that no act can come between.
        Set<Long> ahead = orders.ahead(Step.ids(steps));
        writer.adopt(
                userId,
                steps.stream()
                        .filter(step -> !ahead.contains(step.moving().id()))
                        .toList());
        return ahead.isEmpty();
    }

    private List<Step> steps(long userId, Map<Long, UnaryOperator<State>> changes) {
        if (changes.isEmpty()) {
            return List.of();
        }
        return steps(userId, locks.lock(userId, changes.keySet()), moving -> changed(changes, moving));
    }

    private static State changed(Map<Long, UnaryOperator<State>> changes, Moving moving) {
        UnaryOperator<State> change = changes.get(moving.id());
        return change == null ? moving.state() : change.apply(moving.state());
    }
}
