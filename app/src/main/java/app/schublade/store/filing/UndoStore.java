package app.schublade.store.filing;

import app.schublade.core.filing.State;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.KeptRows;
import app.schublade.store.base.Transactions;
import app.schublade.store.base.UserLock;
import app.schublade.store.place.ExistingPlaces;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntConsumer;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Takes back what was done. What was changed again since stays as it is. */
@Repository
public class UndoStore {
    /** The title of an act; of one that is not finished with how far it came. */
    static final String SHOWN_TITLE = """
            batch.title || coalesce(
                (select format(' (%s of them done)', done) from unfinished_act where batch_id = batch.id), '')\s""";

    private static final String OPEN = """
            select user_id, id as batch, title, (select count(distinct message_id) from filing_record
                where batch_id = batch.id and undone_at is null) as messages from batch where\s""";

    /** Nobody is taking it back just now: whoever does so notes it at least so often. */
    private static final String FREE = "(undoing_at is null or undoing_at < now() - interval '30 seconds') ";

    private final JdbcClient jdbc;
    private final ChangeWriter writer;
    private final FilingRecord filings;
    private final KeptRows rows;
    private final MessageLock locks;
    private final UserLock users;
    private final Transactions transactions;

    UndoStore(
            JdbcClient jdbc,
            ChangeWriter writer,
            FilingRecord filings,
            KeptRows rows,
            MessageLock locks,
            UserLock users,
            Transactions transactions) {
        this.jdbc = jdbc;
        this.writer = writer;
        this.filings = filings;
        this.rows = rows;
        this.locks = locks;
        this.users = users;
        this.transactions = transactions;
    }

    /** Takes back the user's latest act that is not undone yet, however much it is. */
    public ActOutcome latest(long userId) {
        return latestOf(userId).map(act -> act(userId, act.batch())).orElse(ActOutcome.NOTHING);
    }

    /**
     * Takes back one act: all that it changed, unless it was changed again since. Of an act on very many messages some are
     * taken back at a time; should that be cut off, taking it back again goes on with it.
     */
    public ActOutcome act(long userId, long batchId) {
        return act(userId, batchId, messages -> {});
    }

    /**
     * As {@link #act(long, long)}; nothing, if somebody is taking it back already.
     *
     * @param done is told how many messages were taken back in each part
     */
    public ActOutcome act(long userId, long batchId, IntConsumer done) {
        Optional<ActOutcome> begun = transactions.in(() -> begin(userId, batchId));
        if (begun.isEmpty()) {
            return ActOutcome.NOTHING;
        }
        try {
            ActOutcome undone = begun.get();
            for (Optional<ActOutcome> part = part(userId, batchId); part.isPresent(); part = part(userId, batchId)) {
                undone = undone.and(part.get());
                done.accept(part.get().changed().size() + part.get().kept());
            }
            return undone.and(transactions.in(() -> end(userId, batchId)));
        } catch (RuntimeException | Error e) {
            // Whoever presses the key again goes on with it, and nobody else.
            jdbc.sql("update batch set undoing_at = '-infinity' where id = ? and undone_at is null")
                    .param(batchId)
                    .update();
            throw e;
        }
    }

    /**
     * An act that can be taken back.
     *
     * @param messages how many of its messages are not as before yet
     */
    public record OpenAct(long userId, long batch, String title, int messages) {}

    /** The user's latest act that is not undone yet, and is not being undone. */
    public Optional<OpenAct> latestOf(long userId) {
        return jdbc.sql(OPEN
                        + "user_id = ? and undone_at is null and cause in ('HAND', 'RUN') and " + FREE
                        + "order by id desc limit 1")
                .param(userId)
                .query(OpenAct.class)
                .optional();
    }

    /** One act of the user's that is not undone yet. */
    public Optional<OpenAct> of(long userId, long batchId) {
        return jdbc.sql(OPEN + "user_id = ? and undone_at is null and id = ?")
                .params(userId, batchId)
                .query(OpenAct.class)
                .optional();
    }

    /** Acts whose process has ended in the middle of taking them back. */
    public List<OpenAct> abandoned() {
        return jdbc.sql(
                        OPEN
                                + "undone_at is null and undoing_at > '-infinity' and undoing_at < now() - interval '30 seconds'")
                .query(OpenAct.class)
                .list();
    }

    private Optional<ActOutcome> begin(long userId, long batchId) {
        users.alone(userId);
        return jdbc.sql("""
                        update batch set undoing_at = now()
                        where id = ? and user_id = ? and undone_at is null and\s""" + FREE + "returning " + SHOWN_TITLE)
                .params(batchId, userId)
                .query(String.class)
                .optional()
                .map(title -> new ActOutcome(0, title, List.of(), 0, putBack(userId, batchId)));
    }

    private List<String> putBack(long userId, long batchId) {
        Set<String> leftOut = rows.putBack(userId, batchId);
        if (rows.anyCategoryOf(batchId)) {
            writer.rank(userId);
        }
        return List.copyOf(leftOut);
    }

    /** Empty if nothing is left of messages. */
    private Optional<ActOutcome> part(long userId, long batchId) {
        return transactions.in(() -> {
            users.shared(userId);
            List<FilingRecord.Entry> entries = filings.open(userId, batchId, Transactions.MOST);
            jdbc.sql("update batch set undoing_at = now() where id = ?")
                    .param(batchId)
                    .update();
            return entries.isEmpty() ? Optional.empty() : Optional.of(takeBack(userId, "", entries));
        });
    }

    private ActOutcome end(long userId, long batchId) {
        users.alone(userId);
        Set<String> leftOut = rows.takeAwayPlaces(batchId);
        jdbc.sql("update batch set undone_at = now() where id = ?")
                .param(batchId)
                .update();
        jdbc.sql("delete from unfinished_act where batch_id = ?").param(batchId).update();
        if (rows.anyOf(batchId)) {
            writer.tellAll(userId);
        }
        return new ActOutcome(0, "", List.of(), 0, List.copyOf(leftOut));
    }

    /** Takes back what one act did to one message. */
    @Transactional
    public ActOutcome of(long userId, long messageId, long batchId) {
        return takeBack(userId, "Filing", filings.openOf(userId, batchId, messageId));
    }

    private ActOutcome takeBack(long userId, String title, List<FilingRecord.Entry> entries) {
        Map<Long, Moving> now = locks.lock(
                userId, entries.stream().map(FilingRecord.Entry::messageId).toList());
        ExistingPlaces existing = new ExistingPlaces(jdbc, userId);
        Map<Long, State> target = new LinkedHashMap<>();
        int kept = 0;
        for (FilingRecord.Entry entry : entries) {
            Moving moving = now.get(entry.messageId());
            if (moving == null) {
                continue;
            }
            State from = target.getOrDefault(entry.messageId(), moving.state());
            kept += entry.change().isOvertaken(from) ? 1 : 0;
            target.put(entry.messageId(), entry.change().undo(from));
        }
        List<Step> steps = target.entrySet().stream()
                .map(entry -> {
                    Moving moving = find(now, entry.getKey());
                    return new Step(moving, existing.possible(moving.state(), entry.getValue()), null);
                })
                .filter(Step::changesSomething)
                .toList();
        writer.write(userId, steps);
        filings.close(entries);
        return new ActOutcome(0, title, Step.ids(steps), kept, existing.leftOut());
    }

    private static Moving find(Map<Long, Moving> all, long id) {
        Moving moving = all.get(id);
        if (moving == null) {
            throw new IllegalStateException("Message " + id + " was not locked.");
        }
        return moving;
    }
}
