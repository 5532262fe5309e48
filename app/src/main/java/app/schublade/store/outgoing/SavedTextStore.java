package app.schublade.store.outgoing;

import app.schublade.core.problem.InputProblem;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Texts that a user writes often, each under a name. */
@Repository
public class SavedTextStore {
    private static final int MOST = 200;
    private static final int LONGEST_NAME = 60;
    private static final int LONGEST = 20_000;

    private final JdbcClient jdbc;

    SavedTextStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * A text.
     *
     * @param body plain text, with gaps such as {@code {name}}
     */
    public record SavedText(long id, String name, String body) {}

    /** From A to Z. */
    public List<SavedText> of(long userId) {
        return jdbc.sql("select id, name, body from saved_text where user_id = ? order by lower(name), id")
                .param(userId)
                .query(SavedText.class)
                .list();
    }

    public Optional<SavedText> byId(long userId, long id) {
        return of(userId).stream().filter(one -> one.id() == id).findFirst();
    }

    /** The one that a few letters most likely mean: of that name, of a name that begins so, that has a word that does. */
    public Optional<SavedText> meant(long userId, String letters) {
        String typed = letters.toLowerCase(Locale.ROOT);
        List<SavedText> all = of(userId);
        return all.stream()
                .filter(one -> key(one).equals(typed))
                .findFirst()
                .or(() -> all.stream().filter(one -> key(one).startsWith(typed)).findFirst())
                .or(() -> all.stream()
                        .filter(one -> key(one).contains(" " + typed))
                        .findFirst());
    }

    private static String key(SavedText one) {
        return one.name().toLowerCase(Locale.ROOT);
    }

    /**
     * Keeps a text.
     *
     * @throws InputProblem if it cannot be kept so
     */
    public void add(long userId, String name, String body) {
        check(name, body);
        if (of(userId).size() >= MOST) {
            throw new InputProblem(
                    "There are %d texts, which is the limit. Delete one that you no longer use.".formatted(MOST));
        }
        try {
            jdbc.sql("insert into saved_text (user_id, name, body) values (?, ?, ?)")
                    .params(userId, name.strip(), body)
                    .update();
        } catch (DuplicateKeyException e) {
            throw taken(name, e);
        }
    }

    /** @throws InputProblem if it cannot be kept so */
    public void change(long userId, long id, String name, String body) {
        check(name, body);
        try {
            jdbc.sql("update saved_text set name = ?, body = ? where user_id = ? and id = ?")
                    .params(name.strip(), body, userId, id)
                    .update();
        } catch (DuplicateKeyException e) {
            throw taken(name, e);
        }
    }

    public void remove(long userId, long id) {
        jdbc.sql("delete from saved_text where user_id = ? and id = ?")
                .params(userId, id)
                .update();
    }

    private static InputProblem taken(String name, Exception cause) {
        return new InputProblem("There is a text called “%s” already.".formatted(name.strip()), cause);
    }

    private static void check(String name, String body) {
        if (name.isBlank() || name.strip().length() > LONGEST_NAME || name.indexOf('\0') >= 0) {
            throw new InputProblem("Give it a name of up to %d characters.".formatted(LONGEST_NAME));
        }
        if (body.isBlank() || body.length() > LONGEST || body.indexOf('\0') >= 0) {
            throw new InputProblem("Write a text of up to %,d characters.".formatted(LONGEST));
        }
    }
}
