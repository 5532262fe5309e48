package app.schublade.store.place;

import app.schublade.core.filing.State;
import app.schublade.core.message.Amount;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * The places that a user has at this moment. What acts and undo want of a place that is gone is left out, and told: they
 * never fail because of it.
 */
public final class ExistingPlaces {
    private final JdbcClient jdbc;
    private final long userId;
    private final Map<PlaceTable, Set<Long>> all = new EnumMap<>(PlaceTable.class);
    private final Map<PlaceTable, Map<Long, Integer>> missed = new EnumMap<>(PlaceTable.class);

    enum PlaceTable {
        FOLDER("folder"),
        LABEL("label"),
        CATEGORY("category"),
        TRAY("tray"),
        FLAG("flag");

        private final String word;

        PlaceTable(String word) {
            this.word = word;
        }
    }

    /** To be read when the user's lock is held. */
    public ExistingPlaces(JdbcClient jdbc, long userId) {
        this.jdbc = jdbc;
        this.userId = userId;
        for (PlaceTable kind : PlaceTable.values()) {
            all.put(kind, new HashSet<>());
            missed.put(kind, new LinkedHashMap<>());
        }
        jdbc.sql("""
                        select 'FOLDER' as kind, id from folder where user_id = :user
                        union all select 'LABEL', id from label where user_id = :user
                        union all select 'CATEGORY', id from category where user_id = :user
                        union all select 'TRAY', id from tray where user_id = :user
                        union all select 'FLAG', id from flag where user_id = :user
                        """).param("user", userId).query(row -> {
            places(PlaceTable.valueOf(row.getString("kind"))).add(row.getLong("id"));
        });
    }

    private Set<Long> places(PlaceTable kind) {
        return all.getOrDefault(kind, Set.of());
    }

    private boolean has(PlaceTable kind, long id) {
        return places(kind).contains(id);
    }

    private void miss(PlaceTable kind, long id) {
        missed.getOrDefault(kind, new LinkedHashMap<>()).merge(id, 1, Integer::sum);
    }

    /**
     * What a message can be made.
     *
     * @param now how it is
     * @param wanted how it is to be
     */
    public State possible(State now, State wanted) {
        long folder = wanted.folder();
        if (!has(PlaceTable.FOLDER, folder)) {
            miss(PlaceTable.FOLDER, folder);
            folder = now.folder();
        }
        return new State(
                folder,
                wanted.unread(),
                wanted.flagged(),
                one(PlaceTable.FLAG, wanted.flag()),
                wanted.due(),
                one(PlaceTable.CATEGORY, wanted.category()),
                some(PlaceTable.CATEGORY, wanted.also()),
                some(PlaceTable.LABEL, wanted.labels()),
                one(PlaceTable.TRAY, wanted.tray()),
                wanted.until(),
                wanted.done());
    }

    private @Nullable Long one(PlaceTable kind, @Nullable Long id) {
        if (id == null || has(kind, id)) {
            return id;
        }
        miss(kind, id);
        return null;
    }

    private Set<Long> some(PlaceTable kind, Set<Long> ids) {
        if (places(kind).containsAll(ids)) {
            return ids;
        }
        ids.stream().filter(id -> !has(kind, id)).forEach(id -> miss(kind, id));
        return ids.stream().filter(id -> has(kind, id)).collect(Collectors.toSet());
    }

    /** What was left out, in sentences: {@code "The label Values is gone; 3 messages are without it."} */
    public List<String> leftOut() {
        return missed.entrySet().stream()
                .flatMap(entry -> entry.getValue().entrySet().stream()
                        .map(one -> sentence(entry.getKey(), one.getKey(), one.getValue())))
                .toList();
    }

    private String sentence(PlaceTable kind, long id, int messages) {
        String name = jdbc.sql("select name from gone_place where user_id = ? and kind = ? and id = ?")
                .params(userId, kind.name(), id)
                .query(String.class)
                .optional()
                .map(path -> " " + path.replace("/", " / "))
                .orElse("");
        String many = Amount.messages(messages);
        return kind == PlaceTable.FOLDER
                ? "The folder%s is gone; %s %s where %s."
                        .formatted(name, many, messages == 1 ? "stays" : "stay", messages == 1 ? "it is" : "they are")
                : "The %s%s is gone; %s %s without it.".formatted(kind.word, name, many, messages == 1 ? "is" : "are");
    }

    /** Whether all places of a state exist. */
    public boolean has(State state) {
        return possible(state, state).equals(state) && has(PlaceTable.FOLDER, state.folder());
    }
}
