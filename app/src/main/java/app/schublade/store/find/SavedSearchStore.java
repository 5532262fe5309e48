package app.schublade.store.find;

import app.schublade.core.problem.InputProblem;
import app.schublade.core.query.Search;
import app.schublade.core.query.SearchWorld.Reference;
import app.schublade.store.base.Json;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;

/** Searches that a user keeps under a name, and those of late. */
@Repository
public class SavedSearchStore {
    /** More are told to be too many. */
    private static final int MOST = 100;

    private static final int LONGEST_NAME = 60;
    private static final int MOST_RECENT = 30;

    private static final TypeReference<List<Reference>> PLACES = new TypeReference<>() {};

    private final JdbcClient jdbc;

    SavedSearchStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * A search under a name.
     *
     * @param words as they are typed into the find box
     * @param places what they name, as it was called when they were saved
     * @param ifUnread whether it is shown only while something in it is unread
     */
    public record SavedSearch(long id, String name, String words, List<Reference> places, boolean ifUnread) {}

    /** In their order. */
    public List<SavedSearch> of(long userId) {
        return jdbc.sql(
                        "select id, name, words, places, if_unread from saved_search where user_id = ? order by position, id")
                .param(userId)
                .query((row, number) -> new SavedSearch(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getString("words"),
                        Json.read(row.getString("places"), PLACES),
                        row.getBoolean("if_unread")))
                .list();
    }

    public Optional<SavedSearch> of(long userId, long id) {
        return of(userId).stream().filter(one -> one.id() == id).findFirst();
    }

    /** Whether there are as many as there can be. */
    public boolean isFull(long userId) {
        return of(userId).size() >= MOST;
    }

    /**
     * Keeps a search, at the end.
     *
     * @throws InputProblem if it has no name or one that is taken, if there is nothing in it, or if there are too many
     */
    @Transactional
    public long add(long userId, String name, Search search) {
        if (isFull(userId)) {
            throw new InputProblem("There are %d saved searches already; delete one first.".formatted(MOST));
        }
        String called = name(userId, name, 0);
        if (search.isEmpty()) {
            throw new InputProblem("There is nothing to search for.");
        }
        return jdbc.sql("""
                        insert into saved_search (user_id, name, words, places, position)
                        select :user, :name, :words, :places::jsonb, coalesce(max(position), 0) + 1 from saved_search where user_id = :user
                        returning id
                        """)
                .param("user", userId)
                .param("name", called)
                .param("words", search.typed())
                .param("places", Json.write(search.references()))
                .query(Long.class)
                .single();
    }

    private String name(long userId, String name, long except) {
        String called = name.strip();
        if (called.isEmpty()) {
            throw new InputProblem("A saved search needs a name.");
        }
        if (called.length() > LONGEST_NAME) {
            throw new InputProblem("A name has at most %d letters.".formatted(LONGEST_NAME));
        }
        boolean taken = of(userId).stream()
                .anyMatch(one -> one.id() != except && one.name().equalsIgnoreCase(called));
        if (taken) {
            throw new InputProblem("There is a saved search “%s” already.".formatted(called));
        }
        return called;
    }

    /**
     * Changes a search.
     *
     * @throws InputProblem if it is gone, or has no name or one that is taken
     */
    @Transactional
    public void change(long userId, SavedSearch search) {
        int changed = jdbc.sql(
                        "update saved_search set name = ?, words = ?, places = ?::jsonb, if_unread = ? where user_id = ? and id = ?")
                .params(
                        name(userId, search.name(), search.id()),
                        search.words(),
                        Json.write(search.places()),
                        search.ifUnread(),
                        userId,
                        search.id())
                .update();
        if (changed == 0) {
            throw new InputProblem("This search has been deleted meanwhile.");
        }
    }

    /** Puts a search before another or after it; at the end if there is no such other. */
    @Transactional
    public void move(long userId, long id, long other, boolean after) {
        List<Long> order = new ArrayList<>(of(userId).stream()
                .map(SavedSearch::id)
                .filter(one -> one != id)
                .toList());
        int at = order.indexOf(other);
        order.add(at < 0 ? order.size() : after ? at + 1 : at, id);
        jdbc.sql("""
                        update saved_search s set position = o.position from unnest(?::bigint[]) with ordinality as o (id, position)
                        where s.id = o.id and s.user_id = ?
                        """).params(order.toArray(Long[]::new), userId).update();
    }

    public void remove(long userId, long id) {
        jdbc.sql("delete from saved_search where user_id = ? and id = ?")
                .params(userId, id)
                .update();
    }

    /** What was searched for of late, the latest first. */
    public List<String> recent(long userId, int most) {
        return jdbc.sql("select words from recent_search where user_id = ? order by at desc limit ?")
                .params(userId, most)
                .query(String.class)
                .list();
    }

    /** Notes what is searched for. */
    @Transactional
    public void searched(long userId, String words) {
        jdbc.sql("""
                        insert into recent_search (user_id, words, at) values (?, ?, clock_timestamp())
                        on conflict (user_id, words) do update set at = excluded.at
                        """).params(userId, words).update();
        jdbc.sql("""
                        delete from recent_search where user_id = :user and at < (
                            select at from recent_search where user_id = :user order by at desc offset :most limit 1)
                        """).param("user", userId).param("most", MOST_RECENT - 1).update();
    }

    public void forgetRecent(long userId) {
        jdbc.sql("delete from recent_search where user_id = ?").param(userId).update();
    }
}
