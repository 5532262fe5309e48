package app.schublade.store.cabinet;

import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.base.Sequence;
import app.schublade.store.base.Transactions;
import app.schublade.store.base.UserLock;
import app.schublade.store.filing.ActInParts;
import app.schublade.store.filing.MessageWriter;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RulePauses;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
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
    private final ActInParts parts;
    private final RulePauses pauses;

    public CategoryStore(
            JdbcClient jdbc,
            Sequence sequence,
            MessageWriter writer,
            UserLock users,
            ActInParts parts,
            RulePauses pauses) {
        this.parts = parts;
        this.pauses = pauses;
        this.writer = writer;
        this.users = users;
        this.sequence = sequence;
        this.jdbc = jdbc;
    }

    /** How many messages have each category. */
    public Map<Long, Integer> messages(long userId) {
        Map<Long, Integer> counts = new HashMap<>();
        jdbc.sql("""
                        select c.id, count(*) from category c join message m on m.user_id = c.user_id
                            and (m.category_id = c.id or c.id = any(m.also_categories))
                        where c.user_id = ? group by c.id
                        """).param(userId).query(row -> {
            counts.put(row.getLong(1), row.getInt(2));
        });
        return counts;
    }

    /** The rules that name each of them, and "the routine X". */
    public Map<Long, List<String>> usedBy(long userId) {
        return pauses.naming(userId, RulePauses.NamedThing.CATEGORY);
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

    /**
     * Takes it off all messages, and away; the ranks below it move up. A message goes by the next of its categories; rules that
     * name it are paused.
     */
    public ActOutcome remove(long userId, Places.Category category) {
        long gone = category.id();
        List<Long> ranked = sequence.of(Sequence.Sequenced.CATEGORY, userId);
        return parts.run(
                userId,
                "Deleted the category " + category.name(),
                () -> {},
                () -> jdbc.sql("""
                                select id from message
                                where user_id = ? and (category_id = ? or ? = any(also_categories)) limit ?
                                """)
                        .params(userId, gone, gone, Transactions.MOST)
                        .query(Long.class)
                        .list(),
                state -> state.categorised(ranked.stream()
                        .filter(id -> id != gone && state.categories().contains(id))
                        .toList()),
                batch -> {
                    pauses.pause(
                            userId,
                            "The category %s is gone.".formatted(category.name()),
                            RulePauses.NamedThing.CATEGORY,
                            List.of(gone));
                    jdbc.sql("delete from category where id = ? and user_id = ?")
                            .params(gone, userId)
                            .update();
                    sequence.arrange(
                            Sequence.Sequenced.CATEGORY, userId, sequence.of(Sequence.Sequenced.CATEGORY, userId));
                });
    }

    /** Ranks it one place higher; the first stays where it is. Messages with several go by the highest as it is now. */
    @Transactional
    public void up(long userId, long category) {
        users.alone(userId);
        sequence.up(Sequence.Sequenced.CATEGORY, userId, category);
        writer.rank(userId);
    }
}
