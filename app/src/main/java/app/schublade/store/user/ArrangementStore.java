package app.schublade.store.user;

import app.schublade.core.place.Arrangement;
import app.schublade.core.place.Arrangement.Grouping;
import app.schublade.core.place.Arrangement.SortOrder;
import app.schublade.core.place.Columns;
import app.schublade.core.query.Filter;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** How each place's list is arranged, and what the user's own filter leaves in it. A place is named by the end of its address: {@code inbox}, {@code folder/12}. */
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

    /** From now on every place is arranged so, whatever it was before; its own filter stays. */
    @Transactional
    public void keepForAll(long userId, Arrangement arrangement) {
        jdbc.sql("delete from arrangement where user_id = ? and own_filter = ''")
                .param(userId)
                .update();
        jdbc.sql("select place from arrangement where user_id = ?")
                .param(userId)
                .query(String.class)
                .list()
                .forEach(place -> keep(userId, place, arrangement));
        keep(userId, ALL, arrangement);
    }

    /** What the user's own filter leaves in a place's list: messages for which one of these holds. */
    public Set<Filter> ownFilter(long userId, String place) {
        return jdbc.sql("select own_filter from arrangement where user_id = ? and place = ? and own_filter <> ''")
                .params(userId, place)
                .query(String.class)
                .optional()
                .map(names -> Arrays.stream(names.split(","))
                        .map(Filter::valueOf)
                        .collect(Collectors.toCollection(() -> EnumSet.noneOf(Filter.class))))
                .orElse(EnumSet.of(Filter.UNREAD, Filter.FLAGGED));
    }

    /** @param filters of which one is to hold; none for the usual ones */
    @Transactional
    public void keepOwnFilter(long userId, String place, Set<Filter> filters) {
        keep(userId, place, of(userId, place));
        jdbc.sql("update arrangement set own_filter = ? where user_id = ? and place = ?")
                .params(filters.stream().sorted().map(Filter::name).collect(Collectors.joining(",")), userId, place)
                .update();
    }
}
