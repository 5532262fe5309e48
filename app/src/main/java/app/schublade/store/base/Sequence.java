package app.schublade.store.base;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** The order in which a user has put things of one kind. */
@Component
public class Sequence {
    private final JdbcClient jdbc;

    Sequence(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** What is put in order; each is a table with a column for the place. */
    public enum Sequenced {
        FOLDER("folder", "position"),
        LABEL("label", "position"),
        TRAY("tray", "position"),
        CATEGORY("category", "rank"),
        FLAG("flag", "position"),
        ROUTINE("routine", "position");

        private final String table;
        private final String column;

        Sequenced(String table, String column) {
            this.table = table;
            this.column = column;
        }
    }

    /** Puts these into this order, from 1 on; others stay where they are. */
    public void arrange(Sequenced kind, long userId, List<Long> ids) {
        jdbc.sql("""
                        update %1$s t set %2$s = v.place
                        from unnest(:ids::bigint[]) with ordinality as v (id, place)
                        where t.id = v.id and t.user_id = :user and t.%2$s is distinct from v.place
                        """.formatted(kind.table, kind.column))
                .param("ids", ids.toArray(Long[]::new))
                .param("user", userId)
                .update();
    }

    /** All of a kind, from the first to the last. */
    public List<Long> of(Sequenced kind, long userId) {
        return jdbc.sql("select id from %1$s where user_id = ? order by %2$s, id".formatted(kind.table, kind.column))
                .param(userId)
                .query(Long.class)
                .list();
    }

    /** Puts one a place higher; the first stays where it is. */
    public void up(Sequenced kind, long userId, long id) {
        List<Long> order = new ArrayList<>(of(kind, userId));
        int place = order.indexOf(id);
        if (place > 0) {
            Collections.swap(order, place - 1, place);
        }
        arrange(kind, userId, order);
    }

    /** Puts one before another one, or after all of them if that is not there; nothing if it is not there itself. */
    public void putBefore(Sequenced kind, long userId, long id, long other) {
        List<Long> order = new ArrayList<>(of(kind, userId));
        if (id == other || !order.remove(id)) {
            return;
        }
        int place = order.indexOf(other);
        order.add(place < 0 ? order.size() : place, id);
        arrange(kind, userId, order);
    }
}
