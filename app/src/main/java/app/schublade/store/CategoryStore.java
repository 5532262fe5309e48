package app.schublade.store;

import app.schublade.core.place.Tone;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What becomes of categories. */
@Repository
public class CategoryStore {
    private final JdbcClient jdbc;
    private final Sequence sequence;

    public CategoryStore(JdbcClient jdbc, Sequence sequence) {
        this.sequence = sequence;
        this.jdbc = jdbc;
    }

    /**
     * @param mark what stands in the stamp instead of the rank, or null
     * @param dueDays a message that gets the category is flagged, due so many days later; or null
     * @throws IllegalArgumentException if another one has the name
     */
    @Transactional
    public void change(
            long userId, long category, String name, Tone tone, @Nullable String mark, @Nullable Integer dueDays) {
        boolean taken = jdbc.sql("""
                        select exists (select from category where user_id = ? and lower(name) = lower(?) and id <> ?)
                        """)
                .params(userId, name, category)
                .query(Boolean.class)
                .single();
        if (taken) {
            throw new IllegalArgumentException("There is a category %s already.".formatted(name));
        }
        jdbc.sql("""
                        update category set name = :name, tone = :tone, mark = :mark, due_days = :days
                        where id = :category and user_id = :user
                        """)
                .param("name", name)
                .param("tone", tone.name())
                .param("mark", mark)
                .param("days", dueDays)
                .param("category", category)
                .param("user", userId)
                .update();
    }

    /** Takes it off all messages, and away; the ranks below it move up. A message goes by the next of its categories. */
    @Transactional
    public void remove(long userId, long category) {
        jdbc.sql("""
                        update message set category_id = nullif(category_id, :category),
                            also_categories = array_remove(also_categories, :category)
                        where user_id = :user and also_categories <> '{}'
                            and (category_id = :category or :category = any(also_categories))
                        """).param("category", category).param("user", userId).update();
        rank(userId);
        jdbc.sql("delete from category where id = ? and user_id = ?")
                .params(category, userId)
                .update();
        sequence.arrange(Sequence.Kind.CATEGORY, userId, sequence.of(Sequence.Kind.CATEGORY, userId));
    }

    /** Ranks it one place higher; the first stays where it is. Messages with several go by the highest as it is now. */
    @Transactional
    public void up(long userId, long category) {
        sequence.up(Sequence.Kind.CATEGORY, userId, category);
        rank(userId);
    }

    /** Of messages with several categories the one with the highest rank is the first. */
    private void rank(long userId) {
        jdbc.sql("""
                        update message m set category_id = r.ids[1], also_categories = r.ids[2:] from (
                            select m.id, array_agg(c.id order by c.rank, c.id) as ids from message m
                            join category c on c.id = m.category_id or c.id = any(m.also_categories)
                            where m.user_id = ? and m.also_categories <> '{}' group by m.id) r
                        where m.id = r.id
                        """).param(userId).update();
    }
}
