package app.schublade.store.cabinet;

import app.schublade.core.place.Colour;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.base.Sequence;
import app.schublade.store.base.Transactions;
import app.schublade.store.base.UserLock;
import app.schublade.store.filing.ActInParts;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RulePauses;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
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
    private final ActInParts parts;
    private final RulePauses pauses;

    public LabelStore(
            JdbcClient jdbc,
            PlaceStore places,
            Sequence sequence,
            UserLock users,
            ActInParts parts,
            RulePauses pauses) {
        this.users = users;
        this.sequence = sequence;
        this.jdbc = jdbc;
        this.places = places;
        this.parts = parts;
        this.pauses = pauses;
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

    /** How many messages have each label, or one below it. */
    public Map<Long, Integer> messagesWithBelow(long userId) {
        Map<Long, Integer> counts = new LinkedHashMap<>();
        jdbc.sql("""
                        select l.id, count(distinct ml.message_id) from label l join label b on b.user_id = l.user_id
                            and (b.id = l.id or starts_with(b.path, l.path || '/'))
                        join message_label ml on ml.label_id = b.id where l.user_id = ? group by l.id
                        """).param(userId).query(row -> {
            counts.put(row.getLong(1), row.getInt(2));
        });
        return counts;
    }

    /** The rules that name each label, or one below it, and "the routine X". */
    public Map<Long, List<String>> usedByWithBelow(long userId, List<Places.Label> labels) {
        Map<Long, List<String>> naming = pauses.naming(userId, RulePauses.NamedThing.LABEL);
        Map<Long, List<String>> all = new LinkedHashMap<>();
        for (Places.Label label : labels) {
            List<String> names = labels.stream()
                    .filter(one -> one.path().equals(label.path()) || one.path().isBelow(label.path()))
                    .flatMap(one -> naming.getOrDefault(one.id(), List.of()).stream())
                    .distinct()
                    .toList();
            if (!names.isEmpty()) {
                all.put(label.id(), names);
            }
        }
        return all;
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

    /** Takes a label and all below it off all messages, and away; rules that name it are paused. */
    public ActOutcome remove(long userId, Places.Label label) {
        List<Long> gone = jdbc.sql("select id from label where id in " + WITH_ALL_BELOW)
                .param("label", label.id())
                .param("user", userId)
                .query(Long.class)
                .list();
        String name = "the label " + label.path().shown();
        return parts.run(
                userId,
                "Took away " + name,
                () -> {},
                () -> jdbc.sql("select distinct message_id from message_label where label_id = any(?) limit ?")
                        .params(gone.toArray(Long[]::new), Transactions.MOST)
                        .query(Long.class)
                        .list(),
                state -> {
                    Set<Long> left = new TreeSet<>(state.labels());
                    gone.forEach(left::remove);
                    return state.labelled(left);
                },
                batch -> {
                    pauses.pause(userId, "T" + name.substring(1) + " is gone.", RulePauses.NamedThing.LABEL, gone);
                    jdbc.sql("delete from label where id = any(?)")
                            .param(gone.toArray(Long[]::new))
                            .update();
                });
    }

    public void hide(long userId, long label, boolean on) {
        jdbc.sql("update label set hidden = ? where id = ? and user_id = ?")
                .params(on, label, userId)
                .update();
    }

    /** Puts labels that lie in the same place into this order. */
    public void arrange(long userId, List<Long> siblings) {
        sequence.arrange(Sequence.Sequenced.LABEL, userId, siblings);
    }
}
