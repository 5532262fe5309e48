package app.schublade.store;

import app.schublade.core.place.Colour;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What becomes of labels; messages keep them whatever they are called. */
@Repository
public class LabelStore {
    /** A label with all below it. */
    private static final String WITH_ALL_BELOW = """
            (select b.id from label f join label b on b.user_id = f.user_id
                and (b.id = f.id or starts_with(b.path, f.path || '/'))
             where f.id = :label and f.user_id = :user)\s""";

    private final JdbcClient jdbc;
    private final PlaceStore places;
    private final Sequence sequence;
    private final UserLock users;
    private final ApplicationEventPublisher events;

    public LabelStore(
            JdbcClient jdbc, PlaceStore places, Sequence sequence, UserLock users, ApplicationEventPublisher events) {
        this.users = users;
        this.sequence = sequence;
        this.jdbc = jdbc;
        this.places = places;
        this.events = events;
    }

    /** How many messages have each label. */
    public Map<Long, Integer> messages(long userId) {
        Map<Long, Integer> counts = new LinkedHashMap<>();
        jdbc.sql("""
                        select l.id, count(ml.message_id) from label l left join message_label ml on ml.label_id = l.id
                        where l.user_id = ? group by l.id
                        """)
                .param(userId)
                .query((row, number) -> Map.entry(row.getLong(1), row.getInt(2)))
                .list()
                .forEach(entry -> counts.put(entry.getKey(), entry.getValue()));
        return counts;
    }

    /** Names of the rules that put each label on or take it off. */
    public Map<Long, List<String>> rules(long userId) {
        Map<Long, List<String>> rules = new LinkedHashMap<>();
        jdbc.sql("""
                        select e.label_id, array_agg(distinct r.name) from rule_effect e join rule r on r.id = e.rule_id
                        where r.user_id = ? and e.label_id is not null group by e.label_id
                        """)
                .param(userId)
                .query((row, number) -> Map.entry(
                        row.getLong(1), List.of((String[]) row.getArray(2).getArray())))
                .list()
                .forEach(entry -> rules.put(entry.getKey(), entry.getValue()));
        return rules;
    }

    /**
     * Gives a label another path, with all that lies below it.
     *
     * @throws InputProblem if there is a label of that path, if the path lies within the label itself or what lies in it
     *     would lie too deep, or if the label is gone
     */
    @Transactional
    public void rename(long userId, Places.Label label, FolderPath path) {
        users.alone(userId);
        List<FolderPath> moved = jdbc.sql("select path from label where id in " + WITH_ALL_BELOW)
                .param("label", label.id())
                .param("user", userId)
                .query((row, number) -> FolderPath.stored(row.getString("path")))
                .list();
        String from = path.asTargetOf(moved).toString();
        boolean taken = jdbc.sql("""
                        select exists (select from label where user_id = ? and lower(path) = lower(?) and id <> ?)
                        """)
                .params(userId, path.toString(), label.id())
                .query(Boolean.class)
                .single();
        if (taken) {
            throw new InputProblem("There is a label %s already.".formatted(path.shown()));
        }
        if (path.parent() != null) {
            places.label(userId, path.parent());
        }
        jdbc.sql("update label set path = :to || substr(path, length(:from) + 1) where id in " + WITH_ALL_BELOW)
                .param("from", from)
                .param("to", path.toString())
                .param("label", label.id())
                .param("user", userId)
                .update();
    }

    /**
     * @param tone of the palette
     * @param own a colour that is to be shown in its place, or null
     * @param below whether those below it get the colour too
     */
    public void recolour(long userId, long label, Tone tone, @Nullable Colour own, boolean below) {
        jdbc.sql(
                        "update label set tone = :tone, own_colour = :own where user_id = :user and (id = :label or :below and id in "
                                + WITH_ALL_BELOW + ")")
                .param("tone", tone.name())
                .param("own", own == null ? null : own.toString())
                .param("label", label)
                .param("below", below)
                .param("user", userId)
                .update();
    }

    /** Takes a label and all below it off all messages, and away. */
    @Transactional
    public void remove(long userId, long label) {
        users.alone(userId);
        jdbc.sql("delete from label where id in " + WITH_ALL_BELOW)
                .param("label", label)
                .param("user", userId)
                .update();
        events.publishEvent(new MailChanged(userId, Set.of()));
    }

    public void hide(long userId, long label, boolean on) {
        jdbc.sql("update label set hidden = ? where id = ? and user_id = ?")
                .params(on, label, userId)
                .update();
    }

    /** Puts labels that lie in the same place into this order. */
    public void arrange(long userId, List<Long> siblings) {
        sequence.arrange(Sequence.Kind.LABEL, userId, siblings);
    }
}
