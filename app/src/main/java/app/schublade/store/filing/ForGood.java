package app.schublade.store.filing;

import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import java.util.Collection;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Deletes messages for good. Each stays in the trash until its server has deleted it, so that a look in between never takes it
 * for a new one; whoever moves it elsewhere before that spares it. Of accounts whose server only gives mail out they go at once.
 */
@Component
class ForGood {
    private final JdbcClient jdbc;
    private final MessageLock locks;
    private final MessageRemoval removal;
    private final Acts acts;
    private final ChangeEvents changes;

    ForGood(JdbcClient jdbc, MessageLock locks, MessageRemoval removal, Acts acts, ChangeEvents changes) {
        this.jdbc = jdbc;
        this.locks = locks;
        this.removal = removal;
        this.acts = acts;
        this.changes = changes;
    }

    /**
     * Of the messages, those that lie in the trash.
     *
     * @param batchSoFar that of the parts before; 0 if there is none yet
     */
    ActOutcome delete(long userId, String title, Collection<Long> messages, long batchSoFar) {
        record InTrash(long id, boolean imap) {}
        List<InTrash> found = jdbc.sql("""
                        select m.id, a.protocol = 'IMAP' as imap from message m join account a on a.id = m.account_id
                        join folder f on f.id = m.folder_id
                        where m.user_id = ? and m.id = any(?) and f.use = 'TRASH' order by m.id
                        """)
                .params(userId, locks.lock(userId, messages).keySet().toArray(Long[]::new))
                .query(InTrash.class)
                .list();
        if (found.isEmpty()) {
            return ActOutcome.NOTHING;
        }
        long batch = batchSoFar == 0 ? acts.open(userId, Cause.FOR_GOOD, title) : batchSoFar;
        jdbc.sql("""
                        insert into server_order (account_id, message_id, kind, batch_id)
                        select m.account_id, m.id, 'DELETE', :batch from message m
                        where m.id = any(:ids) and not exists (
                            select from server_order o where o.message_id = m.id and o.kind = 'DELETE' and o.trouble is null)
                        order by m.id
                        """)
                .param("batch", batch)
                .param(
                        "ids",
                        found.stream().filter(InTrash::imap).map(InTrash::id).toArray(Long[]::new))
                .update();
        removal.remove(
                userId,
                found.stream().filter(one -> !one.imap()).map(InTrash::id).toList());
        changes.tellAll(userId);
        return new ActOutcome(batch, title, found.stream().map(InTrash::id).toList(), 0);
    }
}
