package app.schublade.store.filing;

import app.schublade.store.base.UserLock;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The counts of folders and labels: moved with every change, never counted anew, and checked against the messages. */
@Repository
public class CountStore {
    private static final Logger LOG = LoggerFactory.getLogger(CountStore.class);

    /** What the counts of a user's folders and labels say, and what is so, where that differs. */
    private static final String WRONG = """
            with true_folders as (
                select folder_id, account_id, count(*) as total, count(*) filter (where unread) as unread
                from message where user_id = :user group by 1, 2),
            said_folders as (
                select c.folder_id, c.account_id, c.total, c.unread from folder_count c
                join folder f on f.id = c.folder_id where f.user_id = :user),
            true_labels as (
                select l.label_id, m.account_id, count(*) as unread from message m
                join message_label l on l.message_id = m.id where m.user_id = :user and m.unread group by 1, 2),
            said_labels as (
                select c.label_id, c.account_id, c.unread from label_count c
                join label l on l.id = c.label_id where l.user_id = :user)
            select 'FOLDER' as kind, folder_id as place, account_id as account, coalesce(s.total, 0) as said_total,
                coalesce(t.total, 0) as total, coalesce(s.unread, 0) as said_unread, coalesce(t.unread, 0) as unread
            from true_folders t full join said_folders s using (folder_id, account_id)
            where coalesce(s.total, 0) <> coalesce(t.total, 0) or coalesce(s.unread, 0) <> coalesce(t.unread, 0)
            union all
            select 'LABEL', label_id, account_id, 0, 0, coalesce(s.unread, 0), coalesce(t.unread, 0)
            from true_labels t full join said_labels s using (label_id, account_id)
            where coalesce(s.unread, 0) <> coalesce(t.unread, 0)
            """;

    private final JdbcClient jdbc;
    private final UserLock users;

    public CountStore(JdbcClient jdbc, UserLock users) {
        this.jdbc = jdbc;
        this.users = users;
    }

    /** Counts what came into a folder, or left it. A folder that was deleted comes back with what is put into it, and so do those that it lies in. */
    public void count(long folder, long account, int total, int unread) {
        if (total > 0) {
            jdbc.sql("""
                            update folder p set deleted_at = null from folder f
                            where f.id = ? and f.deleted_at is not null and p.user_id = f.user_id and p.deleted_at is not null
                                and (p.id = f.id or starts_with(f.path, p.path || '/'))
                            """).param(folder).update();
        }
        jdbc.sql("""
                        insert into folder_count (folder_id, account_id, total, unread) values (:folder, :account, :total, :unread)
                        on conflict (folder_id, account_id) do update
                        set total = folder_count.total + :total, unread = folder_count.unread + :unread
                        """)
                .param("folder", folder)
                .param("account", account)
                .param("total", total)
                .param("unread", unread)
                .update();
    }

    /** Counts unread messages that got a label, or lost it. */
    public void countLabel(long label, long account, int unread) {
        jdbc.sql("""
                        insert into label_count (label_id, account_id, unread) values (:label, :account, :unread)
                        on conflict (label_id, account_id) do update set unread = label_count.unread + :unread
                        """)
                .param("label", label)
                .param("account", account)
                .param("unread", unread)
                .update();
    }

    /**
     * A count that is not true.
     *
     * @param kind FOLDER or LABEL
     */
    public record Wrong(String kind, long place, long account, int saidTotal, int total, int saidUnread, int unread) {}

    /** The counts of a user that are not true at this moment. */
    public List<Wrong> wrong(long userId) {
        return jdbc.sql(WRONG).param("user", userId).query(Wrong.class).list();
    }

    /** Puts right what is wrong; nobody changes the user's mail meanwhile. Returns how much that was. */
    @Transactional
    public int mend(long userId) {
        users.alone(userId);
        List<Wrong> all = wrong(userId);
        for (Wrong one : all) {
            LOG.warn("A count of user {} was not true and is mended: {}", userId, one);
            String sql = one.kind().equals("FOLDER") ? """
                      insert into folder_count (folder_id, account_id, total, unread) values (:place, :account, :total, :unread)
                      on conflict (folder_id, account_id) do update set total = :total, unread = :unread
                      """ : """
                      insert into label_count (label_id, account_id, unread)
                      select :place, :account, :unread where :total = 0
                      on conflict (label_id, account_id) do update set unread = :unread
                      """;
            jdbc.sql(sql)
                    .param("place", one.place())
                    .param("account", one.account())
                    .param("total", one.total())
                    .param("unread", one.unread())
                    .update();
        }
        return all.size();
    }

    /** The user after this one, by id; the first after the last. Empty if there is none at all. */
    public Optional<Long> next(long userId) {
        return jdbc.sql("select id from app_user order by id <= ?, id limit 1")
                .param(userId)
                .query(Long.class)
                .optional();
    }
}
