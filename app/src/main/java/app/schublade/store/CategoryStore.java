package app.schublade.store;

import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What becomes of categories. */
@Repository
public class CategoryStore {
    private final JdbcClient jdbc;
    private final Sequence sequence;
    private final MessageWriter writer;
    private final UserLock users;

    public CategoryStore(JdbcClient jdbc, Sequence sequence, MessageWriter writer, UserLock users) {
        this.writer = writer;
        this.users = users;
        this.sequence = sequence;
        this.jdbc = jdbc;
    }

    /**
     * @param mark what stands in the stamp instead of the rank, or null
     * @param dueDays a message that gets the category is flagged, due so many days later; or null
     * @throws InputProblem if another one has the name
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
            throw new InputProblem("There is a category %s already.".formatted(name));
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
        users.alone(userId);
        writer.takeOff(userId, category);
        writer.rank(userId);
        jdbc.sql("delete from category where id = ? and user_id = ?")
                .params(category, userId)
                .update();
        sequence.arrange(Sequence.Kind.CATEGORY, userId, sequence.of(Sequence.Kind.CATEGORY, userId));
    }

    /** Ranks it one place higher; the first stays where it is. Messages with several go by the highest as it is now. */
    @Transactional
    public void up(long userId, long category) {
        users.alone(userId);
        sequence.up(Sequence.Kind.CATEGORY, userId, category);
        writer.rank(userId);
    }
}
