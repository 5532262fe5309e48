package app.schublade.store.triage;

import app.schublade.core.filing.DayTime;
import java.sql.Types;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.temporal.TemporalAdjusters;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Days of the week that users put things off to, under names of their own. */
@Repository
public class StandingDayStore {
    private final JdbcClient jdbc;

    StandingDayStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * {@code "Saturday morning"}.
     *
     * @param at at what time of that day, or null for the day as a whole
     */
    public record StandingDay(
            long id,
            String name,
            DayOfWeek weekday,
            @Nullable LocalTime at) {
        /** The next time that it is that, after a day. */
        public DayTime after(LocalDate today) {
            return new DayTime(today.with(TemporalAdjusters.next(weekday)), at);
        }
    }

    /** From Monday to Sunday. */
    public List<StandingDay> of(long userId) {
        return jdbc.sql(
                        "select id, name, weekday, at from standing_day where user_id = ? order by weekday, at nulls first, lower(name)")
                .param(userId)
                .query((row, number) -> new StandingDay(
                        row.getLong("id"),
                        row.getString("name"),
                        DayOfWeek.of(row.getInt("weekday")),
                        row.getObject("at", LocalTime.class)))
                .list();
    }

    /** Adds a day; one that has the name already moves to this day of the week and time. */
    public void add(long userId, String name, DayOfWeek weekday, @Nullable LocalTime at) {
        jdbc.sql("""
                        insert into standing_day (user_id, name, weekday, at) values (:user, :name, :weekday, :at)
                        on conflict (user_id, lower(name)) do update
                        set name = excluded.name, weekday = excluded.weekday, at = excluded.at
                        """)
                .param("user", userId)
                .param("name", name)
                .param("weekday", weekday.getValue())
                .param("at", at, Types.TIME)
                .update();
    }

    public void remove(long userId, long id) {
        jdbc.sql("delete from standing_day where user_id = ? and id = ?")
                .params(userId, id)
                .update();
    }
}
