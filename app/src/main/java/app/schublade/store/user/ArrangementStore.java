package app.schublade.store.user;

import app.schublade.core.place.Arrangement;
import app.schublade.core.place.Arrangement.Grouping;
import app.schublade.core.place.Arrangement.SortOrder;
import app.schublade.core.place.Columns;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** How each place's list is arranged. A place is named by the end of its address: {@code inbox}, {@code folder/12}. */
@Repository
public class ArrangementStore {
    private static final String ALL = "";

    private final JdbcClient jdbc;

    public ArrangementStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** The place's own arrangement, or that for all places. */
    public Arrangement of(long userId, String place) {
        return jdbc.sql("""
                        select grouping, ordering, conversations, columns from arrangement
                        where user_id = ? and place in (?, '') order by place desc limit 1
                        """)
                .params(userId, place)
                .query((row, number) -> new Arrangement(
                        Grouping.valueOf(row.getString(1)),
                        SortOrder.valueOf(row.getString(2)),
                        row.getBoolean(3),
                        Columns.parse(row.getString(4))))
                .optional()
                .orElse(Arrangement.usualIn(place));
    }

    public void keep(long userId, String place, Arrangement arrangement) {
        jdbc.sql("""
                        insert into arrangement (user_id, place, grouping, ordering, conversations, columns)
                        values (:user, :place, :grouping, :ordering, :conversations, :columns)
                        on conflict (user_id, place) do update
                        set grouping = :grouping, ordering = :ordering, conversations = :conversations, columns = :columns
                        """)
                .param("user", userId)
                .param("place", place)
                .param("grouping", arrangement.grouping().name())
                .param("ordering", arrangement.order().name())
                .param("conversations", arrangement.conversations())
                .param("columns", arrangement.columns().toString())
                .update();
    }

    /** From now on every place is arranged so, whatever it was before. */
    @Transactional
    public void keepForAll(long userId, Arrangement arrangement) {
        jdbc.sql("delete from arrangement where user_id = ?").param(userId).update();
        keep(userId, ALL, arrangement);
    }
}
