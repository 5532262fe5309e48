package app.schublade.store.filing;

import app.schublade.core.filing.State;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Writes down what the mail servers must be told of what was done. */
@Component
public class OrderWriter {
    private static final int JDBC_BATCH = 500;

    private final JdbcClient jdbc;
    private final JdbcTemplate template;

    OrderWriter(JdbcClient jdbc, JdbcTemplate template) {
        this.jdbc = jdbc;
        this.template = template;
    }

    /** What the mail servers must be told so that they agree with a change. */
    public void order(List<Step> steps) {
        List<@Nullable Object[]> orders = new ArrayList<>();
        List<Long> moved = new ArrayList<>();
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
                moved.add(step.moving().id());
                orders.add(new @Nullable Object[] {
                    step.moving().accountId(), step.moving().id(), "MOVE", after.folder(), null, null
                });
            }
        }
        spare(moved);
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

    /** What is put elsewhere is not deleted for good any more, unless the server is just doing so. */
    private void spare(List<Long> messages) {
        if (!messages.isEmpty()) {
            jdbc.sql("delete from server_order where message_id = any(?) and kind = 'DELETE' and not begun")
                    .param(messages.toArray(Long[]::new))
                    .update();
        }
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
