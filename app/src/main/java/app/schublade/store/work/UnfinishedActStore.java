package app.schublade.store.work;

import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import app.schublade.store.base.Json;
import java.time.Duration;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;

/**
 * Acts on very many messages while they are being done, part by part. One that its process did not end can be seen by every
 * other, taken back as far as it came, and gone on with from there.
 */
@Repository
public class UnfinishedActStore {
    /** No part takes as long as this; an act of which nothing was heard for so long stands still. */
    private static final Duration SILENCE = Duration.ofSeconds(30);

    /** Of an act: nothing is being done of it, and something is left. */
    public static final String STANDS_STILL = """
            exists (select from unfinished_act u where u.batch_id = batch.id and u.request is not null
                and batch.undoing_at is null and u.seen_at < now() - interval '%d seconds')\s""".formatted(SILENCE.toSeconds());

    private final JdbcClient jdbc;
    private final Acts acts;

    public UnfinishedActStore(JdbcClient jdbc, Acts acts) {
        this.jdbc = jdbc;
        this.acts = acts;
    }

    /**
     * How far an act came.
     *
     * @param standsStill whether whoever did it has ended
     */
    public record ActProgress(String title, int done, int total, boolean standsStill) {}

    /**
     * An act as it is gone on with.
     *
     * @param rest the messages that nothing was done to yet
     */
    public record ActRest<T>(String title, T request, List<Long> rest, int done) {}

    /**
     * Begins an act.
     *
     * @param request what to go on with it by; null if that cannot be done
     * @return its batch
     */
    @Transactional
    public long begin(long userId, Cause cause, String title, @Nullable Object request, Collection<Long> messages) {
        long batch = acts.open(userId, cause, title);
        jdbc.sql("insert into unfinished_act (batch_id, request, messages) values (?, ?::jsonb, ?)")
                .param(batch)
                .param(request == null ? null : Json.write(request))
                .param(messages.toArray(Long[]::new))
                .update();
        return batch;
    }

    /** The user wants no more of an act done. */
    public static final class Stopped extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Stopped() {
            super("The act was stopped.", null, false, false);
        }
    }

    /** Nothing more is to be done of an act, whichever process does it; it can be gone on with later. */
    public void stop(long userId, long batch) {
        jdbc.sql("""
                        update unfinished_act set stop_wanted = true from batch
                        where batch_id = batch.id and batch.id = ? and batch.user_id = ?
                        """).params(batch, userId).update();
    }

    /**
     * Does the next part; that it is done is known exactly if it is done.
     *
     * @throws Stopped before, if that is wanted
     */
    @Transactional
    public ActOutcome part(long batch, int messages, Supplier<ActOutcome> work) {
        boolean stop = jdbc.sql("select stop_wanted from unfinished_act where batch_id = ?")
                .param(batch)
                .query(Boolean.class)
                .optional()
                .orElse(false);
        if (stop) {
            throw new Stopped();
        }
        ActOutcome outcome = work.get();
        jdbc.sql("update unfinished_act set done = done + ?, seen_at = now() where batch_id = ?")
                .params(messages, batch)
                .update();
        return outcome;
    }

    /** The last part is done. */
    @Transactional
    public void end(long batch, boolean changedNothing) {
        if (changedNothing) {
            jdbc.sql("""
                            delete from batch where id = ?
                                and not exists (select from filing_record where batch_id = batch.id)
                                and not exists (select from kept_row where batch_id = batch.id)
                            """).param(batch).update();
        }
        jdbc.sql("delete from unfinished_act where batch_id = ?").param(batch).update();
    }

    /** It will not be gone on with unless somebody asks for it. */
    public void standsStill(long batch) {
        jdbc.sql("update unfinished_act set seen_at = '-infinity' where batch_id = ?")
                .param(batch)
                .update();
    }

    /** Empty if it has ended. */
    public Optional<ActProgress> progress(long userId, long batch) {
        return jdbc.sql("""
                        select batch.title, u.done, cardinality(u.messages) as total,\s""" + STANDS_STILL + """
                        as stands_still from unfinished_act u join batch on batch.id = u.batch_id
                        where batch.user_id = ? and batch.id = ? and batch.undoing_at is null
                        """)
                .params(userId, batch)
                .query((row, number) -> new ActProgress(
                        row.getString("title"),
                        row.getInt("done"),
                        row.getInt("total"),
                        row.getBoolean("stands_still")))
                .optional();
    }

    /** An act of which nobody knows any more who did it. */
    public record Abandoned(long userId, long batch) {}

    /** Acts whose process has ended in the middle of them; not those that were stopped, or failed. */
    public List<Abandoned> abandoned() {
        return jdbc.sql("select batch.user_id, batch.id as batch from batch where exists "
                        + "(select from unfinished_act s where s.batch_id = batch.id and s.seen_at > '-infinity') and "
                        + STANDS_STILL)
                .query(Abandoned.class)
                .list();
    }

    /** Takes up an act that stands still; empty if it does not. */
    @Transactional
    public <T> Optional<ActRest<T>> goOn(long userId, long batch, TypeReference<T> type) {
        int taken = jdbc.sql(
                        "update unfinished_act set seen_at = now(), stop_wanted = false from batch where batch_id = batch.id and "
                                + STANDS_STILL + " and batch.user_id = ? and batch.id = ?")
                .params(userId, batch)
                .update();
        if (taken == 0) {
            return Optional.empty();
        }
        return jdbc.sql("""
                        select batch.title, u.request, u.messages[u.done + 1:] as rest, u.done
                        from unfinished_act u join batch on batch.id = u.batch_id where batch.id = ?
                        """)
                .param(batch)
                .query((row, number) -> new ActRest<>(
                        row.getString("title"),
                        Json.read(row.getString("request"), type),
                        List.of((Long[]) row.getArray("rest").getArray()),
                        row.getInt("done")))
                .optional();
    }
}
