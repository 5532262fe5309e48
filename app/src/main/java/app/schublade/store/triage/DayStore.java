package app.schublade.store.triage;

import java.sql.Timestamp;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** What happened by itself since the user looked last. */
@Repository
public class DayStore {
    private static final int MOST = 100;

    private final JdbcClient jdbc;

    DayStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * What a rule did with mail that came.
     *
     * @param rule null if it was deleted since
     * @param folder where it filed the messages; null if it left them where they were
     */
    public record FiledByRule(
            @Nullable Long rule, String name, @Nullable Long folder, int messages) {}

    /** What is new in a folder. */
    public record NewInFolder(long folder, int messages, int unread) {}

    /** When the user said last that all was seen. */
    public Optional<Instant> seen(long userId) {
        return jdbc.sql("select day_seen_at from app_user where id = ? and day_seen_at is not null")
                .param(userId)
                .query((row, number) -> row.getTimestamp(1).toInstant())
                .optional();
    }

    public void see(long userId, Instant at) {
        jdbc.sql("update app_user set day_seen_at = ? where id = ?")
                .params(at.atOffset(ZoneOffset.UTC), userId)
                .update();
    }

    /** What rules did with mail as it came, and nobody took back: those that did most first. */
    public List<FiledByRule> filed(long userId, Instant since) {
        return jdbc.sql("""
                        select r.rule_id, r.rule_name, case when r.folder_after <> r.folder_before then r.folder_after end as folder,
                            count(distinct r.message_id)::int as messages
                        from batch b join filing_record r on r.batch_id = b.id
                        where b.user_id = ? and b.at > ? and b.cause = 'ARRIVAL' and r.rule_name is not null and r.undone_at is null
                        group by 1, 2, 3 order by 4 desc, 2 limit ?
                        """)
                .params(userId, Timestamp.from(since), MOST)
                .query((row, number) -> new FiledByRule(
                        row.getObject("rule_id", Long.class),
                        row.getString("rule_name"),
                        row.getObject("folder", Long.class),
                        row.getInt("messages")))
                .list();
    }

    /** What came into folders of the user's own, which one does not watch as one does the Inbox. */
    public List<NewInFolder> arrived(long userId, Instant since) {
        return jdbc.sql("""
                        select m.folder_id, count(*)::int as messages, (count(*) filter (where m.unread))::int as unread
                        from message m join folder f on f.id = m.folder_id and f.use is null and f.deleted_at is null
                        where m.user_id = ? and m.received_at > ? group by 1 order by 3 desc, 2 desc limit ?
                        """)
                .params(userId, Timestamp.from(since), MOST)
                .query((row, number) ->
                        new NewInFolder(row.getLong("folder_id"), row.getInt("messages"), row.getInt("unread")))
                .list();
    }
}
