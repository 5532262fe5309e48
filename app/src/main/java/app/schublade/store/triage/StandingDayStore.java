package app.schublade.store.triage;

import java.time.DayOfWeek;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Days of the week that users put things off to, under names of their own. */
@Repository
public class StandingDayStore {
    private final JdbcClient jdbc;

    StandingDayStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** {@code "Saturday morning"}. */
    public record StandingDay(long id, String name, DayOfWeek weekday) {}

    /** From Monday to Sunday. */
    public List<StandingDay> of(long userId) {
        return jdbc.sql("select id, name, weekday from standing_day where user_id = ? order by weekday, lower(name)")
                .param(userId)
                .query((row, number) ->
                        new StandingDay(row.getLong("id"), row.getString("name"), DayOfWeek.of(row.getInt("weekday"))))
                .list();
    }

    /** Adds a day; one that has the name already moves to this day of the week. */
    public void add(long userId, String name, DayOfWeek weekday) {
        jdbc.sql("""
                        insert into standing_day (user_id, name, weekday) values (?, ?, ?)
                        on conflict (user_id, lower(name)) do update set name = excluded.name, weekday = excluded.weekday
                        """).params(userId, name, weekday.getValue()).update();
    }

    public void remove(long userId, long id) {
        jdbc.sql("delete from standing_day where user_id = ? and id = ?")
                .params(userId, id)
                .update();
    }
}
