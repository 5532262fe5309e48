package app.schublade.store.filing;

import app.schublade.core.filing.Change;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.State;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import app.schublade.store.message.StateColumn;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Writes the filing record: what each act did to each message. */
@Component
public class FilingRecord {
    private static final int JDBC_BATCH = 500;

    private static final String WRITE =
            "insert into filing_record (batch_id, message_id, rule_id, rule_name, reasons, besides, "
                    + Arrays.stream(StateColumn.values())
                            .map(column -> column.before() + ", " + column.after())
                            .collect(Collectors.joining(", "))
                    + ") values (?, ?, ?, ?, ?, ?" + ", ?, ?".repeat(StateColumn.values().length) + ")";

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
        template.batchUpdate(WRITE, steps, JDBC_BATCH, (statement, step) -> {
            Rule rule = step.hit() == null ? null : step.hit().rule();
            statement.setLong(1, batch);
            statement.setLong(2, step.moving().id());
            statement.setObject(3, rule == null || rule.id() == 0 ? null : rule.id());
            statement.setString(4, rule == null ? null : rule.name());
            statement.setObject(
                    5, step.hit() == null ? new String[0] : step.hit().reasons().toArray(String[]::new));
            statement.setObject(6, step.besides().toArray(String[]::new));
            int next = 7;
            for (StateColumn column : StateColumn.values()) {
                statement.setObject(next++, value(column, step.moving().state()));
                statement.setObject(next++, value(column, step.after()));
            }
        });
    }

    private static @Nullable Object value(StateColumn column, State state) {
        Object value = column.of(state);
        return value instanceof Collection<?> many ? many.toArray(Long[]::new) : value;
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
                        new Change(StateColumn.readBefore(row), StateColumn.readAfter(row))))
                .list();
    }

    void close(List<Entry> entries) {
        jdbc.sql("update filing_record set undone_at = now() where id = any(?)")
                .param(entries.stream().map(Entry::id).toArray(Long[]::new))
                .update();
    }
}
