package app.schublade.store.user;

import app.schublade.core.place.Habits;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** How each person likes the desk. */
@Repository
public class HabitStore {
    private final JdbcClient jdbc;

    public HabitStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    public Habits of(long userId) {
        return jdbc.sql("""
                        select pane, density, read_after, opens, unread_only, hidden_too, trays, several_categories, scheme,
                            oldest_first, copy_beside
                        from habits where user_id = ?
                        """)
                .param(userId)
                .query((row, number) -> new Habits(
                        Habits.Pane.valueOf(row.getString("pane")),
                        Habits.Density.valueOf(row.getString("density")),
                        row.getObject("read_after", Integer.class),
                        row.getString("opens"),
                        row.getBoolean("unread_only"),
                        row.getBoolean("hidden_too"),
                        row.getBoolean("trays"),
                        row.getBoolean("several_categories"),
                        Habits.Scheme.valueOf(row.getString("scheme")),
                        new Habits.Letters(row.getBoolean("oldest_first"), row.getBoolean("copy_beside"))))
                .optional()
                .orElse(Habits.USUAL);
    }

    public void keep(long userId, Habits habits) {
        jdbc.sql("""
                        insert into habits (user_id, pane, density, read_after, opens, unread_only, hidden_too, trays,
                            several_categories, scheme, oldest_first, copy_beside)
                        values (:user, :pane, :density, :readAfter, :opens, :unreadOnly, :hiddenToo, :trays, :several, :scheme,
                            :oldestFirst, :copyBeside)
                        on conflict (user_id) do update set pane = :pane, density = :density, read_after = :readAfter,
                            opens = :opens, unread_only = :unreadOnly, hidden_too = :hiddenToo, trays = :trays,
                            several_categories = :several, scheme = :scheme, oldest_first = :oldestFirst,
                            copy_beside = :copyBeside
                        """)
                .param("user", userId)
                .param("pane", habits.pane().name())
                .param("density", habits.density().name())
                .param("readAfter", habits.readAfter())
                .param("opens", habits.opens())
                .param("unreadOnly", habits.unreadOnly())
                .param("hiddenToo", habits.hiddenToo())
                .param("trays", habits.trays())
                .param("several", habits.severalCategories())
                .param("scheme", habits.scheme().name())
                .param("oldestFirst", habits.letters().oldestFirst())
                .param("copyBeside", habits.letters().copyBeside())
                .update();
    }

    /** Keys chosen by the user, by the usual ones. */
    public Map<String, String> keys(long userId) {
        Map<String, String> keys = new TreeMap<>();
        jdbc.sql("select usual, chosen from own_key where user_id = ?")
                .param(userId)
                .query((row, number) -> Map.entry(row.getString(1), row.getString(2)))
                .list()
                .forEach(entry -> keys.put(entry.getKey(), entry.getValue()));
        return keys;
    }

    /**
     * From now on one key does what another usually does; a key that was chosen for something else before is free for it
     * again.
     */
    @Transactional
    public void chooseKey(long userId, String usual, String chosen) {
        jdbc.sql("delete from own_key where user_id = ? and (usual = ? or chosen = ?)")
                .params(userId, usual, chosen)
                .update();
        if (!usual.equals(chosen)) {
            jdbc.sql("insert into own_key (user_id, usual, chosen) values (?, ?, ?)")
                    .params(userId, usual, chosen)
                    .update();
        }
    }

    public void usualKeys(long userId) {
        jdbc.sql("delete from own_key where user_id = ?").param(userId).update();
    }
}
