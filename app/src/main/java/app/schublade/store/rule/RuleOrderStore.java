package app.schublade.store.rule;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** In which order a user's rules stand, and under which headings. A heading goes for all rules down to the next one. */
@Repository
public class RuleOrderStore {
    private final JdbcClient jdbc;

    public RuleOrderStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Moves a rule up or down among the user's rules; one at the end stays there. */
    @Transactional
    public void shift(long userId, long id, int by) {
        List<Long> order = order(userId);
        int from = order.indexOf(id);
        int to = from + by;
        if (from < 0 || to < 0 || to >= order.size()) {
            return;
        }
        handOn(userId, id, order);
        order.add(to, order.remove(from));
        store(order);
    }

    /** Puts a rule before another one, under the same heading. */
    @Transactional
    public void putBefore(long userId, long id, long other) {
        List<Long> order = order(userId);
        if (id == other || !order.contains(id) || !order.contains(other)) {
            return;
        }
        handOn(userId, id, order);
        order.remove(id);
        order.add(order.indexOf(other), id);
        store(order);
        pass(userId, other, id);
    }

    /** Puts a rule behind all others. */
    @Transactional
    public void putLast(long userId, long id) {
        List<Long> order = order(userId);
        if (order.contains(id)) {
            handOn(userId, id, order);
            order.remove(id);
            order.add(id);
            store(order);
        }
    }

    /** The names of all rules by their ids, in their order. */
    public Map<Long, String> names(long userId) {
        Map<Long, String> names = new LinkedHashMap<>();
        jdbc.sql("select id, name from rule where user_id = ? order by position, id")
                .param(userId)
                .query(row -> {
                    names.put(row.getLong("id"), row.getString("name"));
                });
        return names;
    }

    private List<Long> order(long userId) {
        return new ArrayList<>(jdbc.sql("select id from rule where user_id = ? order by position, id for update")
                .param(userId)
                .query(Long.class)
                .list());
    }

    private void store(List<Long> order) {
        jdbc.sql("""
                        update rule r set position = v.position
                        from unnest(?::bigint[]) with ordinality as v (id, position) where r.id = v.id
                        """).param(order.toArray(Long[]::new)).update();
    }

    /** The headings, by the rules that they stand above. */
    public Map<Long, String> headings(long userId) {
        Map<Long, String> headings = new HashMap<>();
        jdbc.sql("select id, heading from rule where user_id = ? and heading is not null")
                .param(userId)
                .query((row, number) -> Map.entry(row.getLong(1), row.getString(2)))
                .list()
                .forEach(entry -> headings.put(entry.getKey(), entry.getValue()));
        return headings;
    }

    /** @param heading what is to stand above the rule; empty for nothing */
    public void setHeading(long userId, long id, String heading) {
        jdbc.sql("update rule set heading = nullif(?, '') where user_id = ? and id = ?")
                .params(heading, userId, id)
                .update();
    }

    /** A rule leaves its place: what stands above it stands above the next one then, if that has no heading of its own. */
    void handOn(long userId, long id) {
        handOn(userId, id, order(userId));
    }

    private void handOn(long userId, long id, List<Long> order) {
        int next = order.indexOf(id) + 1;
        if (next > 0 && next < order.size()) {
            pass(userId, id, order.get(next));
        } else {
            setHeading(userId, id, "");
        }
    }

    /** One rule's heading stands above another then, unless that has its own; the first has none any more. */
    private void pass(long userId, long from, long to) {
        jdbc.sql("""
                        update rule t set heading = f.heading from rule f
                        where f.id = ? and t.id = ? and t.user_id = ? and f.heading is not null and t.heading is null
                        """).params(from, to, userId).update();
        setHeading(userId, from, "");
    }
}
