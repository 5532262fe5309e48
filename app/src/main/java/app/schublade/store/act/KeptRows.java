package app.schublade.store.act;

import app.schublade.core.place.FolderPath;
import app.schublade.store.base.Json;
import app.schublade.store.place.PlaceStore;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.core.type.TypeReference;

/**
 * The rows of places, rules, people and settings that acts change, as they were before: kept by triggers, and put back when the
 * act is taken back. What was changed again since stays as it is.
 */
@Component
public class KeptRows {
    private static final TypeReference<Map<String, @Nullable Object>> ROW = new TypeReference<>() {};

    private static final String DELETED = "deleted_at";

    private final JdbcClient jdbc;
    private final PlaceStore places;
    private final TransactionTemplate savepoint;
    private final Map<Table, List<String>> columns = new ConcurrentHashMap<>();

    KeptRows(JdbcClient jdbc, PlaceStore places, PlatformTransactionManager transactions) {
        this.jdbc = jdbc;
        this.places = places;
        savepoint = new TransactionTemplate(transactions);
        savepoint.setPropagationBehavior(TransactionDefinition.PROPAGATION_NESTED);
    }

    /** What is kept, with the columns that tell one row from the others. */
    enum Table {
        FOLDER("folder", "path", "id"),
        LABEL("label", "path", "id"),
        CATEGORY("category", "name", "id"),
        TRAY("tray", "name", "id"),
        FLAG("flag", "name", "id"),
        TRAY_SENDER("sender", "value", "user_id, value"),
        RULE("rule", "name", "id"),
        RULE_EFFECT("rule", "", "rule_id, position"),
        RULE_VERSION("rule", "", "id"),
        RULE_ANSWER("rule", "", "rule_id, address"),
        KEY_PERSON("key person", "value", "user_id, value"),
        PEOPLE_GROUP("group", "name", "id"),
        PEOPLE_GROUP_MEMBER("person", "value", "group_id, value"),
        ALIAS("alias", "address", "account_id, address"),
        ALIAS_DECLINED("alias", "address", "account_id, address"),
        ARRANGEMENT("list", "", "user_id, place"),
        SAVED_SEARCH("search", "name", "id"),
        ROUTINE("routine", "name", "id"),
        ROUTINE_STEP("routine", "", "routine_id, position"),
        AWAITED("question", "asked", "message_id"),
        BLOCKED("blocked sender", "value", "user_id, value"),
        SAVED_TEXT("text", "name", "id"),
        STANDING_DAY("standing day", "name", "id"),
        MUTED("muted conversation", "", "user_id, conversation_id"),
        OUTGOING("message", "subject", "id");

        private final String word;
        private final String name;
        private final String key;

        Table(String word, String name, String key) {
            this.word = word;
            this.name = name;
            this.key = key;
        }

        static Table of(String name) {
            return valueOf(name.toUpperCase(java.util.Locale.ROOT));
        }

        String sql() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }

        /** Whether messages can be there: one that an act made goes when its messages have left it. */
        boolean isPlace() {
            return this == FOLDER || this == LABEL || this == CATEGORY || this == TRAY || this == FLAG;
        }

        String where() {
            return Arrays.stream(key.split(", "))
                    .map("t.%1$s = k.%1$s"::formatted)
                    .collect(Collectors.joining(" and "));
        }

        /** {@code "The label Objects / Ships"} */
        String called(Map<String, @Nullable Object> row) {
            Object own = row.get(name);
            return "The " + word + (own == null ? "" : " " + own.toString().replace("/", " / "));
        }
    }

    /** One row as an act found it and left it. */
    private record Kept(
            Table table,
            @Nullable Map<String, @Nullable Object> before,
            @Nullable Map<String, @Nullable Object> after) {

        /** The row that is meant, if it has not been taken away. */
        Map<String, @Nullable Object> row() {
            return Objects.requireNonNullElseGet(after == null ? before : after, Map::of);
        }

        boolean isMadePlace() {
            return before == null && table.isPlace();
        }

        /** A folder that was deleted, until the act put something into it: as good as made by it. */
        boolean isFolderBroughtBack() {
            return table == Table.FOLDER
                    && before != null
                    && after != null
                    && before.get(DELETED) != null
                    && after.get(DELETED) == null;
        }
    }

    /** From now on until the transaction ends, what is changed belongs to an act. */
    void keepFor(long batch) {
        keep(String.valueOf(batch));
    }

    void keepNoMore() {
        keep("");
    }

    private void keep(String act) {
        jdbc.sql("select set_config('schublade.act', ?, true)")
                .param(act)
                .query()
                .singleRow();
    }

    /** Whether an act changed anything but messages. */
    public boolean anyOf(long batch) {
        return jdbc.sql("""
                        select exists (select from kept_row where batch_id = :batch)
                            or exists (select from sent_in_act where batch_id = :batch)
                        """).param("batch", batch).query(Boolean.class).single();
    }

    /** Whether an act changed categories, so that messages with several may go by another one. */
    public boolean anyCategoryOf(long batch) {
        return of(batch).stream().anyMatch(kept -> kept.table() == Table.CATEGORY);
    }

    private List<Kept> of(long batch) {
        return jdbc.sql("select name, before, after from kept_row where batch_id = ? order by id desc")
                .param(batch)
                .query((row, number) ->
                        new Kept(Table.of(row.getString(1)), read(row.getString(2)), read(row.getString(3))))
                .list();
    }

    private static @Nullable Map<String, @Nullable Object> read(@Nullable String json) {
        return json == null ? null : Json.read(json, ROW);
    }

    /**
     * Puts back what an act changed and took away, the last first; places that it made stay until its messages have left them.
     * Doing it again does nothing.
     *
     * @return sentences about what cannot be as it was
     */
    public Set<String> putBack(long userId, long batch) {
        Set<String> leftOut = new LinkedHashSet<>(takeBackSent(batch));
        List<Kept> all = of(batch);
        List<Kept> left = all.stream().filter(kept -> !kept.isMadePlace()).toList();
        while (!left.isEmpty()) {
            // What went with another row was kept before it, and waits for it.
            List<Kept> waiting = left.stream()
                    .filter(kept -> !isDone(() -> putBack(kept).ifPresent(leftOut::add)))
                    .toList();
            if (waiting.size() == left.size()) {
                leftOut.add("Something that it belonged to is gone, so that a part of it is left out.");
                break;
            }
            left = waiting;
        }
        if (!all.isEmpty()) {
            foldersAreWhole(userId, all);
        }
        return leftOut;
    }

    /** What has left already, in sentences. */
    private List<String> takeBackSent(long batch) {
        jdbc.sql("""
                        with gone as (
                            delete from outgoing o using sent_in_act s
                            where s.batch_id = ? and s.outgoing_id = o.id and o.state = 'WAITING' and not o.claimed
                            returning o.id)
                        delete from sent_in_act where outgoing_id in (select id from gone)
                        """).param(batch).update();
        return jdbc
                .sql("select distinct recipients from sent_in_act where batch_id = ? order by 1")
                .param(batch)
                .query(String.class)
                .list()
                .stream()
                .map("The message to %s has left already"::formatted)
                .toList();
    }

    /** False if something that a row needs is not there. */
    private boolean isDone(Runnable work) {
        try {
            savepoint.executeWithoutResult(status -> work.run());
            return true;
        } catch (DataIntegrityViolationException e) {
            return false;
        }
    }

    private Optional<String> putBack(Kept kept) {
        Map<String, @Nullable Object> before = kept.before();
        Map<String, @Nullable Object> after = kept.after();
        Map<String, @Nullable Object> now = now(kept.table(), kept.row());
        if (before == null) {
            return now == null ? Optional.empty() : takeAway(kept.table(), kept.row(), now);
        }
        if (after == null) {
            return now == null ? bringBack(kept.table(), before) : Optional.empty();
        }
        return now == null ? Optional.of(kept.table().called(after) + " is gone.") : change(kept, before, after, now);
    }

    private @Nullable Map<String, @Nullable Object> now(Table table, Map<String, @Nullable Object> row) {
        return jdbc.sql("""
                        select as_kept(t) from %1$s t, jsonb_populate_record(null::%1$s, :row::jsonb) k where %2$s for update of t
                        """.formatted(table.sql(), table.where()))
                .param("row", Json.write(row))
                .query((one, number) -> Objects.requireNonNull(read(one.getString(1))))
                .optional()
                .orElse(null);
    }

    /** What the user made is taken away, unless it is otherwise by now; its place among the others does not count. */
    private Optional<String> takeAway(
            Table table, Map<String, @Nullable Object> made, Map<String, @Nullable Object> now) {
        Set<String> orders = Set.of("position", "rank", "expected", "heading");
        boolean changed = made.keySet().stream()
                .anyMatch(column -> !orders.contains(column)
                        && now.containsKey(column)
                        && !Objects.equals(made.get(column), now.get(column)));
        if (changed) {
            return Optional.of(table.called(now) + " was changed since, and stays.");
        }
        delete(table, made);
        return Optional.empty();
    }

    private void delete(Table table, Map<String, @Nullable Object> row) {
        jdbc.sql("delete from %1$s t using jsonb_populate_record(null::%1$s, :row::jsonb) k where %2$s"
                        .formatted(table.sql(), table.where()))
                .param("row", Json.write(row))
                .update();
    }

    /** What was taken away comes back; under another name if its own is taken by now. */
    private Optional<String> bringBack(Table table, Map<String, @Nullable Object> row) {
        Map<String, @Nullable Object> back = new LinkedHashMap<>(row);
        String name = String.valueOf(row.get(table.name));
        Optional<String> told = Optional.empty();
        for (int i = 1; isTaken(table, back); i++) {
            back.put(table.name, name + PlaceStore.EARLIER + (i == 1 ? ")" : " " + i + ")"));
            told = Optional.of(calledNow(table, back));
        }
        String columns =
                quoted(columns(table).stream().filter(back::containsKey).toList());
        jdbc.sql(("insert into %1$s (%2$s) overriding system value select %2$s from"
                                + " jsonb_populate_record(null::%1$s, :row::jsonb)")
                        .formatted(table.sql(), columns))
                .param("row", Json.write(back))
                .update();
        return told;
    }

    private static boolean isEarlier(Map<String, @Nullable Object> folder) {
        return String.valueOf(folder.get("path")).contains(PlaceStore.EARLIER);
    }

    private static String calledNow(Table table, Map<String, @Nullable Object> row) {
        return "Another %s has its name by now, so that it is called %s."
                .formatted(table.word, String.valueOf(row.get(table.name)).replace("/", " / "));
    }

    /** Whether another place of the user's has the name of this one. */
    private boolean isTaken(Table table, Map<String, @Nullable Object> row) {
        return (table.isPlace() || table == Table.PEOPLE_GROUP)
                && jdbc.sql("""
                        select exists (select from %1$s t, jsonb_populate_record(null::%1$s, :row::jsonb) k
                            where t.user_id = k.user_id and lower(t.%2$s) = lower(k.%2$s) and t.id <> k.id)
                        """.formatted(table.sql(), table.name))
                        .param("row", Json.write(row))
                        .query(Boolean.class)
                        .single();
    }

    private static String quoted(List<String> columns) {
        return columns.stream().map("\"%s\""::formatted).collect(Collectors.joining(", "));
    }

    /** They stay as they are while the application runs, and asking takes longer than bringing a row back. */
    private List<String> columns(Table table) {
        return columns.computeIfAbsent(
                table,
                asked -> jdbc.sql("""
                        select column_name from information_schema.columns
                        where table_schema = current_schema() and table_name = ? order by ordinal_position
                        """).param(asked.sql()).query(String.class).list());
    }

    /** Each column that is still as the act left it is what it was before. */
    private Optional<String> change(
            Kept kept,
            Map<String, @Nullable Object> before,
            Map<String, @Nullable Object> after,
            Map<String, @Nullable Object> now) {
        Table table = kept.table();
        List<String> changed = before.keySet().stream()
                .filter(column -> now.containsKey(column) && !Objects.equals(before.get(column), after.get(column)))
                .filter(column -> !(kept.isFolderBroughtBack() && column.equals(DELETED)))
                .toList();
        List<String> as = changed.stream()
                .filter(column -> Objects.equals(now.get(column), after.get(column)))
                .collect(Collectors.toCollection(ArrayList::new));
        boolean overtaken = changed.stream()
                .anyMatch(column -> !as.contains(column) && !Objects.equals(now.get(column), before.get(column)));
        Optional<String> told =
                overtaken ? Optional.of(table.called(now) + " was changed since, and stays so.") : Optional.empty();
        if (table == Table.FOLDER && as.contains(table.name)) {
            places.makeWay(
                    ((Number) Objects.requireNonNull(before.get("user_id"))).longValue(),
                    FolderPath.stored(String.valueOf(before.get(table.name))));
        }
        if (as.contains(table.name) && isTaken(table, before)) {
            as.remove(table.name);
            told = Optional.of("Another %s has the name %s by now."
                    .formatted(
                            table.word, String.valueOf(before.get(table.name)).replace("/", " / ")));
        }
        if (table == Table.FOLDER && as.contains(DELETED) && isEarlier(now)) {
            told = Optional.of(calledNow(table, now));
        }
        if (!as.isEmpty()) {
            String columns = quoted(as);
            jdbc.sql("""
                            update %1$s t set (%2$s) = (select %2$s from jsonb_populate_record(null::%1$s, :before::jsonb))
                            from jsonb_populate_record(null::%1$s, :before::jsonb) k where %3$s
                            """.formatted(table.sql(), columns, table.where()))
                    .param("before", Json.write(before))
                    .update();
        }
        return told;
    }

    /** Folders that came back lie in folders that are there, and their servers are told what they are called. */
    private void foldersAreWhole(long userId, List<Kept> all) {
        Long[] folders = all.stream()
                .filter(kept -> kept.table() == Table.FOLDER)
                .map(kept -> ((Number) Objects.requireNonNull(kept.row().get("id"))).longValue())
                .distinct()
                .toArray(Long[]::new);
        if (folders.length == 0) {
            return;
        }
        jdbc.sql("""
                        update folder p set deleted_at = null from folder f
                        where f.id = any(:folders) and f.user_id = :user and f.deleted_at is null and p.user_id = :user
                            and p.deleted_at is not null and starts_with(f.path, p.path || '/')
                        """).param("folders", folders).param("user", userId).update();
        jdbc.sql("""
                        update mailbox b set wanted_path = f.path from folder f
                        where b.folder_id = f.id and f.id = any(:folders) and f.user_id = :user
                            and coalesce(b.wanted_path, b.path) <> f.path
                        """).param("folders", folders).param("user", userId).update();
    }

    /**
     * Takes away the places that an act made or brought back, now that its messages have left them; one that something else
     * uses by now stays.
     *
     * @return sentences about those that stay
     */
    public Set<String> takeAwayPlaces(long batch) {
        Set<String> leftOut = new LinkedHashSet<>();
        for (Kept kept : of(batch)) {
            if (kept.isMadePlace() || kept.isFolderBroughtBack()) {
                Map<String, @Nullable Object> now = now(kept.table(), kept.row());
                if (now != null) {
                    takeAwayPlace(kept, now).ifPresent(leftOut::add);
                }
            }
        }
        return leftOut;
    }

    private Optional<String> takeAwayPlace(Kept kept, Map<String, @Nullable Object> row) {
        Table table = kept.table();
        long id = ((Number) Objects.requireNonNull(row.get("id"))).longValue();
        if (isUsed(table, id)) {
            return Optional.of(table.called(row) + " stays, for something else uses it by now.");
        }
        if (table == Table.FOLDER) { // Servers have it by now, perhaps.
            // One that had been deleted is so again since then, so that what deleted it can be taken back too.
            jdbc.sql("""
                            update folder set deleted_at = coalesce(cast(:before as timestamptz), now())
                            where id = :id and deleted_at is null
                            """)
                    .param(
                            "before",
                            kept.before() == null ? null : kept.before().get(DELETED))
                    .param("id", id)
                    .update();
        } else {
            delete(table, row);
        }
        return Optional.empty();
    }

    private boolean isUsed(Table table, long id) {
        String messages = switch (table) {
            case FOLDER ->
                "select from message where folder_id = :id union all select from folder b, folder f"
                        + " where f.id = :id and b.user_id = f.user_id and b.deleted_at is null"
                        + " and starts_with(b.path, f.path || '/')";
            case LABEL -> "select from message_label where label_id = :id";
            case CATEGORY -> "select from message where category_id = :id or :id = any(also_categories)";
            case FLAG -> "select from message where flag_id = :id";
            default -> "select from message where tray_id = :id union all select from tray_sender where tray_id = :id";
        };
        return jdbc.sql("""
                        select exists (%1$s) or exists (select from rule_effect where %2$s_id = :id)
                            or exists (select from routine_step where %2$s_id = :id)
                        """.formatted(messages, table.sql()))
                .param("id", id)
                .query(Boolean.class)
                .single();
    }
}
