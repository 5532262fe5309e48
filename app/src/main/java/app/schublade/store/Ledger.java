package app.schublade.store;

import app.schublade.core.filing.Change;
import app.schublade.core.filing.State;
import app.schublade.store.FilingStore.Step;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** What is written down beside a change: the filing record, the counts, and the orders for the mail servers. */
@Component
class Ledger {
    private static final int JDBC_BATCH = 500;

    private final JdbcClient jdbc;
    private final JdbcTemplate template;

    Ledger(JdbcClient jdbc, JdbcTemplate template) {
        this.jdbc = jdbc;
        this.template = template;
    }

    /** What one act did to one message and is not undone yet. */
    record Entry(long id, long messageId, Change change) {}

    long openBatch(long userId, FilingStore.Cause cause, String title) {
        return jdbc.sql("insert into batch (user_id, cause, title) values (?, ?, ?) returning id")
                .params(userId, cause.name(), title)
                .query(Long.class)
                .single();
    }

    void write(long batch, List<Step> steps) {
        template.batchUpdate("""
                insert into filing_record (batch_id, message_id, rule_id, rule_name, reasons, folder_before, folder_after,
                    unread_before, unread_after, flagged_before, flagged_after, due_before, due_after,
                    category_before, category_after, also_before, also_after, labels_before, labels_after, tray_before,
                    tray_after, until_before, until_after, besides)
                values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
                """, steps, JDBC_BATCH, (statement, step) -> {
            Object[] row = row(batch, step);
            for (int i = 0; i < row.length; i++) {
                statement.setObject(i + 1, row[i]);
            }
        });
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
            before.due(),
            after.due(),
            before.category(),
            after.category(),
            before.also().toArray(Long[]::new),
            after.also().toArray(Long[]::new),
            before.labels().toArray(Long[]::new),
            after.labels().toArray(Long[]::new),
            before.tray(),
            after.tray(),
            before.until(),
            after.until(),
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
                        new Change(FilingStore.state(row, "_before"), FilingStore.state(row, "_after"))))
                .list();
    }

    void close(List<Entry> entries) {
        jdbc.sql("update filing_record set undone_at = now() where id = any(?)")
                .param(entries.stream().map(Entry::id).toArray(Long[]::new))
                .update();
    }

    /** Counts what came into a folder, or left it. A folder that was deleted comes back with what is put into it, and so do those that it lies in. */
    void count(long folder, long account, int total, int unread) {
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
    void countLabel(long label, long account, int unread) {
        jdbc.sql("""
                        insert into label_count (label_id, account_id, unread) values (:label, :account, :unread)
                        on conflict (label_id, account_id) do update set unread = label_count.unread + :unread
                        """)
                .param("label", label)
                .param("account", account)
                .param("unread", unread)
                .update();
    }

    /** What the mail servers must be told so that they agree with a change. */
    void order(List<Step> steps) {
        List<@Nullable Object[]> orders = new ArrayList<>();
        for (Step step : steps) {
            State before = step.moving().state();
            State after = step.after();
            if (before.unread() != after.unread()) {
                orders.add(mark(step, "\\Seen", !after.unread()));
            }
            if (before.flagged() != after.flagged()) {
                orders.add(mark(step, "\\Flagged", after.flagged()));
            }
            orders.addAll(keywords(step));
            if (before.folder() != after.folder()) {
                orders.add(new @Nullable Object[] {
                    step.moving().accountId(), step.moving().id(), "MOVE", after.folder(), null, null
                });
            }
        }
        template.batchUpdate(
                "insert into server_order (account_id, message_id, kind, folder_id, flag, flag_on) values (?, ?, ?, ?, ?, ?)",
                orders,
                JDBC_BATCH,
                (statement, order) -> {
                    for (int i = 0; i < order.length; i++) {
                        statement.setObject(i + 1, order[i]);
                    }
                });
    }

    private static @Nullable Object[] mark(Step step, String flag, boolean on) {
        return new @Nullable Object[] {step.moving().accountId(), step.moving().id(), "MARK", null, flag, on};
    }

    private List<@Nullable Object[]> keywords(Step step) {
        State before = step.moving().state();
        State after = step.after();
        List<@Nullable Object[]> orders = new ArrayList<>();
        orders.addAll(keywords(step, "category", before.categories(), after.categories()));
        orders.addAll(keywords(step, "label", before.labels(), after.labels()));
        return orders;
    }

    private List<@Nullable Object[]> keywords(Step step, String kind, Set<Long> before, Set<Long> after) {
        List<@Nullable Object[]> orders = new ArrayList<>();
        before.stream()
                .filter(id -> !after.contains(id))
                .sorted()
                .forEach(id -> keyword(kind, id).ifPresent(word -> orders.add(mark(step, word, false))));
        after.stream()
                .filter(id -> !before.contains(id))
                .sorted()
                .forEach(id -> keyword(kind, id).ifPresent(word -> orders.add(mark(step, word, true))));
        return orders;
    }

    /** Empty if it is gone: then nobody is to be told of it. */
    private Optional<String> keyword(String kind, long id) {
        String sql = kind.equals("label")
                ? "select keyword from label where id = ?"
                : "select keyword from category where id = ?";
        return jdbc.sql(sql).param(id).query(String.class).optional();
    }
}
