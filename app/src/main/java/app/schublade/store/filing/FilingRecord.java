package app.schublade.store.filing;

import app.schublade.core.filing.Change;
import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.State;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import app.schublade.store.message.StateRows;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Writes the filing record: what each act did to each message. */
@Component
public class FilingRecord {
    private static final int JDBC_BATCH = 500;

    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final Acts acts;

    FilingRecord(JdbcClient jdbc, JdbcTemplate template, Acts acts) {
        this.jdbc = jdbc;
        this.template = template;
        this.acts = acts;
    }

    /** What one act did to one message and is not undone yet. */
    record Entry(long id, long messageId, Change change) {}

    /** The act that is being done, or a new one. */
    public long openBatch(long userId, Cause cause, String title) {
        return acts.open(userId, cause, title);
    }

    public void write(long batch, List<Step> steps) {
        template.batchUpdate("""
                insert into filing_record (batch_id, message_id, rule_id, rule_name, reasons, folder_before, folder_after,
                    unread_before, unread_after, flagged_before, flagged_after, due_before, due_after, due_at_before, due_at_after,
                    category_before, category_after, also_before, also_after, labels_before, labels_after, tray_before,
                    tray_after, until_before, until_after, until_at_before, until_at_after, besides)
                values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
                """, steps, JDBC_BATCH, (statement, step) -> {
            Object[] row = row(batch, step);
            for (int i = 0; i < row.length; i++) {
                statement.setObject(i + 1, row[i]);
            }
        });
    }

    private static @Nullable LocalDate day(@Nullable DayTime one) {
        return one == null ? null : one.day();
    }

    private static @Nullable LocalTime time(@Nullable DayTime one) {
        return one == null ? null : one.time();
    }

    private static @Nullable Object[] row(long batch, Step step) {
        State before = step.moving().state();
        State after = step.after();
        return new @Nullable Object[] {
            batch,
            step.moving().id(),
            step.hit() == null || step.hit().rule().id() == 0
                    ? null
                    : step.hit().rule().id(),
            step.hit() == null ? null : step.hit().rule().name(),
            step.hit() == null ? new String[0] : step.hit().reasons().toArray(String[]::new),
            before.folder(),
            after.folder(),
            before.unread(),
            after.unread(),
            before.flagged(),
            after.flagged(),
            day(before.due()),
            day(after.due()),
            time(before.due()),
            time(after.due()),
            before.category(),
            after.category(),
            before.also().toArray(Long[]::new),
            after.also().toArray(Long[]::new),
            before.labels().toArray(Long[]::new),
            after.labels().toArray(Long[]::new),
            before.tray(),
            after.tray(),
            day(before.until()),
            day(after.until()),
            time(before.until()),
            time(after.until()),
            step.besides().toArray(String[]::new)
        };
    }

    /**
     * What an act of this user did to some of its messages and is not undone yet, the latest first; all of it for each of
     * those messages.
     *
     * @param most how many messages
     */
    List<Entry> open(long userId, long batchId, int most) {
        return entries("""
                and r.message_id in (select o.message_id from filing_record o where o.batch_id = :batch and o.undone_at is null
                    group by o.message_id order by o.message_id limit :which)
                """, userId, batchId, most);
    }

    /** What an act of this user did to one message and is not undone yet, the latest first. */
    List<Entry> openOf(long userId, long batchId, long messageId) {
        return entries("and r.message_id = :which ", userId, batchId, messageId);
    }

    private List<Entry> entries(String condition, long userId, long batchId, long which) {
        return jdbc.sql("""
                        select r.* from filing_record r join batch b on b.id = r.batch_id
                        where b.user_id = :user and r.batch_id = :batch and r.undone_at is null
                        """ + condition + "order by r.id desc")
                .param("user", userId)
                .param("batch", batchId)
                .param("which", which)
                .query((row, number) -> new Entry(
                        row.getLong("id"),
                        row.getLong("message_id"),
                        new Change(StateRows.read(row, "_before"), StateRows.read(row, "_after"))))
                .list();
    }

    void close(List<Entry> entries) {
        jdbc.sql("update filing_record set undone_at = now() where id = any(?)")
                .param(entries.stream().map(Entry::id).toArray(Long[]::new))
                .update();
    }
}
