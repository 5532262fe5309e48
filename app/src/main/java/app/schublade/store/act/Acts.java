package app.schublade.store.act;

import app.schublade.store.base.Transactions;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * The one list of what each user does, in its order: each act has a title, and keeps what it changed. Of messages that is the
 * filing record; of all else, the rows as they were ({@link KeptRows}).
 */
@Component
public class Acts {
    private final JdbcClient jdbc;
    private final KeptRows rows;
    private final Transactions transactions;

    Acts(JdbcClient jdbc, KeptRows rows, Transactions transactions) {
        this.jdbc = jdbc;
        this.rows = rows;
        this.transactions = transactions;
    }

    /** An act that is being done. */
    public static final class Act {
        private final long batch;
        private String title = "";

        private Act(long batch) {
            this.batch = batch;
        }

        /** What it will be called in the list, and when it is taken back. */
        public void called(String name) {
            title = name;
        }
    }

    /**
     * Does something as one act of the user's, in one transaction. All that it changes belongs to the act, which is not written
     * down if that is nothing. Within another act it is a part of that one.
     *
     * @param work is to say what the act is called
     */
    public <T extends @Nullable Object> T record(long userId, Function<Act, T> work) {
        Act greater = open();
        return greater == null ? transactions.in(() -> begun(userId, work)) : work.apply(new Act(greater.batch));
    }

    private <T extends @Nullable Object> T begun(long userId, Function<Act, T> work) {
        Act act = new Act(insert(userId, Cause.HAND, ""));
        T result = during(act, () -> work.apply(act));
        boolean kept = !jdbc.sql("""
                        update batch set title = :title where id = :batch and (
                            exists (select from kept_row where batch_id = batch.id)
                            or exists (select from filing_record where batch_id = batch.id)
                            or exists (select from sent_in_act where batch_id = batch.id)
                            or exists (select from unfinished_act where batch_id = batch.id)) returning id
                        """)
                .param("title", act.title)
                .param("batch", act.batch)
                .query(Long.class)
                .list()
                .isEmpty();
        if (!kept) {
            jdbc.sql("delete from batch where id = ?").param(act.batch).update();
        }
        return result;
    }

    /** As {@link #record(long, Function)}, of an act whose title is known. */
    public void record(long userId, String title, Runnable work) {
        record(userId, act -> {
            act.called(title);
            work.run();
            return null;
        });
    }

    /** Does a further part of an act that was begun before, in the transaction that is going on. */
    public void goOn(long batch, Runnable work) {
        during(new Act(batch), () -> {
            work.run();
            return null;
        });
    }

    private <T extends @Nullable Object> T during(Act act, Supplier<T> work) {
        TransactionSynchronizationManager.bindResource(this, act);
        try {
            rows.keepFor(act.batch);
            T result = work.get();
            rows.keepNoMore();
            return result;
        } finally {
            TransactionSynchronizationManager.unbindResource(this);
        }
    }

    /** What this thread is doing. */
    private @Nullable Act open() {
        return (Act) TransactionSynchronizationManager.getResource(this);
    }

    /** The act that is being done has put a message on its way; it is taken back with the act, as long as it has not left. */
    public void sent(long outgoing, String recipients) {
        Act act = open();
        if (act != null) {
            jdbc.sql("insert into sent_in_act (outgoing_id, batch_id, recipients) values (?, ?, ?)")
                    .params(outgoing, act.batch, recipients)
                    .update();
        }
    }

    /** The act that is being done, or a new one. */
    public long open(long userId, Cause cause, String title) {
        Act act = open();
        return act == null ? insert(userId, cause, title) : act.batch;
    }

    private long insert(long userId, Cause cause, String title) {
        return jdbc.sql("insert into batch (user_id, cause, title) values (?, ?, ?) returning id")
                .params(userId, cause.name(), title)
                .query(Long.class)
                .single();
    }
}
