package app.schublade.store.cabinet;

import app.schublade.core.place.FolderPath;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.base.Transactions;
import app.schublade.store.base.UserLock;
import app.schublade.store.filing.ChangeEvents;
import app.schublade.store.filing.UndoStore;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Folders that were deleted: out of sight, with their messages in the trash, until they are wanted back. */
@Repository
public class DeletedFolderStore {
    private static final int MOST_DELETED = 50;

    private final JdbcClient jdbc;
    private final UserLock users;
    private final Transactions transactions;
    private final UndoStore undo;
    private final ChangeEvents changes;

    DeletedFolderStore(
            JdbcClient jdbc, UserLock users, Transactions transactions, UndoStore undo, ChangeEvents changes) {
        this.jdbc = jdbc;
        this.users = users;
        this.transactions = transactions;
        this.undo = undo;
        this.changes = changes;
    }

    /**
     * A folder that was deleted.
     *
     * @param below how many folders were deleted with it
     * @param messages how many of its messages, and of those below it, have not been brought back
     */
    public record Deleted(long id, FolderPath path, Instant at, int below, int messages) {}

    /** The folders that were deleted, each with all below it; the latest first. */
    public List<Deleted> deleted(long userId) {
        return jdbc.sql("""
                        select f.id, f.path, f.deleted_at,
                            (select count(*) from folder b where b.user_id = f.user_id and b.deleted_at = f.deleted_at
                                and starts_with(b.path, f.path || '/')) as below,
                            (select count(*) from filing_record r
                                where r.batch_id = f.deleted_in and r.undone_at is null) as messages
                        from folder f where f.user_id = :user and f.deleted_at is not null and f.deleted_in is not null
                            and not exists (select from folder p where p.user_id = f.user_id
                                and p.deleted_at = f.deleted_at and starts_with(f.path, p.path || '/'))
                        order by f.deleted_at desc, f.id limit :most
                        """)
                .param("user", userId)
                .param("most", MOST_DELETED)
                .query((row, number) -> new Deleted(
                        row.getLong("id"),
                        FolderPath.stored(row.getString("path")),
                        row.getTimestamp("deleted_at").toInstant(),
                        row.getInt("below"),
                        row.getInt("messages")))
                .list();
    }

    /** Puts a deleted folder back as it was, with all below it and with what of its messages has not been moved since. */
    public ActOutcome restore(long userId, long folder) {
        List<Long> acts = transactions.in(() -> {
            users.alone(userId);
            return jdbc.sql("""
                            update folder f set deleted_at = null, deleted_in = null from folder d
                            where d.id = :folder and d.user_id = :user and f.user_id = :user
                                and f.deleted_at = d.deleted_at and d.deleted_in is not null
                            returning d.deleted_in
                            """)
                    .param("folder", folder)
                    .param("user", userId)
                    .query(Long.class)
                    .list();
        });
        changes.tellAll(userId);
        return undo.act(userId, acts.isEmpty() ? 0 : acts.get(0));
    }
}
