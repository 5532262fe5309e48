package app.schublade.store.cabinet;

import app.schublade.core.place.TrayKind;
import app.schublade.core.place.TraySorter;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.base.Sequence;
import app.schublade.store.base.Transactions;
import app.schublade.store.filing.ActInParts;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RulePauses;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The trays of the Inbox: which there are, and what comes into them. */
@Repository
public class TrayStore {
    /** More would be folders. */
    public static final int MOST = 8;

    private final JdbcClient jdbc;
    private final Sequence sequence;
    private final ActInParts parts;
    private final RulePauses pauses;

    public TrayStore(JdbcClient jdbc, Sequence sequence, ActInParts parts, RulePauses pauses) {
        this.parts = parts;
        this.pauses = pauses;
        this.sequence = sequence;
        this.jdbc = jdbc;
    }

    /** What sorts new mail. */
    public TraySorter sorter(long userId) {
        List<TraySorter.SortedTray> trays = jdbc.sql(
                        "select id, kind from tray where user_id = ? order by position, id")
                .param(userId)
                .query((row, number) -> new TraySorter.SortedTray(row.getLong(1), kind(row.getString(2))))
                .list();
        Map<String, Long> senders = new LinkedHashMap<>();
        jdbc.sql("select value, tray_id from tray_sender where user_id = ?")
                .param(userId)
                .query((row, number) -> Map.entry(row.getString(1), row.getLong(2)))
                .list()
                .forEach(entry -> senders.put(entry.getKey(), entry.getValue()));
        return new TraySorter(trays, senders);
    }

    private static @Nullable TrayKind kind(@Nullable String name) {
        return name == null ? null : TrayKind.valueOf(name);
    }

    /** Senders whose mail always goes into a tray, by tray. */
    public Map<Long, List<String>> senders(long userId) {
        Map<Long, List<String>> senders = new LinkedHashMap<>();
        jdbc.sql("select tray_id, array_agg(value order by value) from tray_sender where user_id = ? group by tray_id")
                .param(userId)
                .query((row, number) -> Map.entry(
                        row.getLong(1), List.of((String[]) row.getArray(2).getArray())))
                .list()
                .forEach(entry -> senders.put(entry.getKey(), entry.getValue()));
        return senders;
    }

    /** The rules that name each of them, and "the routine X". */
    public Map<Long, List<String>> usedBy(long userId) {
        return pauses.naming(userId, RulePauses.NamedThing.TRAY);
    }

    /**
     * Mail of a sender goes into this tray from now on.
     *
     * @param value an address, or a domain
     */
    public void always(long userId, String value, long tray) {
        jdbc.sql("""
                        insert into tray_sender (user_id, value, tray_id)
                        select :user, :value, id from tray where id = :tray and user_id = :user
                        on conflict (user_id, value) do update set tray_id = :tray
                        """)
                .param("user", userId)
                .param("value", value)
                .param("tray", tray)
                .update();
    }

    public void notAlways(long userId, String value) {
        jdbc.sql("delete from tray_sender where user_id = ? and value = ?")
                .params(userId, value)
                .update();
    }

    /** @throws InputProblem if there are enough, or one of this name */
    @Transactional
    public void add(long userId, String name) {
        refuseTwo(userId, 0, name);
        int count = jdbc.sql("select count(*) from tray where user_id = ?")
                .param(userId)
                .query(Integer.class)
                .single();
        if (count >= MOST) {
            throw new InputProblem(
                    "There are %d trays, and no more are possible. Rename or delete one.".formatted(count));
        }
        jdbc.sql("""
                        insert into tray (user_id, position, name)
                        select :user, coalesce(max(position), 0) + 1, :name from tray where user_id = :user
                        """).param("user", userId).param("name", name).update();
    }

    private void refuseTwo(long userId, long tray, String name) {
        boolean taken =
                jdbc.sql("""
                        select exists (select from tray where user_id = ? and lower(name) = lower(?) and id <> ?)
                        """).params(userId, name, tray).query(Boolean.class).single();
        if (taken) {
            throw new InputProblem("There is a tray %s already.".formatted(name));
        }
    }

    /**
     * @param kind what it takes by itself, or null; the tray that took it before takes nothing by itself any more
     * @throws InputProblem if another one has the name
     */
    @Transactional
    public void change(long userId, long tray, String name, @Nullable TrayKind kind) {
        refuseTwo(userId, tray, name);
        String kindName = kind == null ? null : kind.name();
        jdbc.sql("update tray set kind = null where user_id = :user and kind = :kind and id <> :tray")
                .param("user", userId)
                .param("kind", kindName)
                .param("tray", tray)
                .update();
        jdbc.sql("update tray set name = :name, kind = :kind where id = :tray and user_id = :user")
                .param("name", name)
                .param("kind", kindName)
                .param("tray", tray)
                .param("user", userId)
                .update();
    }

    /** Its messages stay in the Inbox, in no tray; rules that name it are paused. */
    public ActOutcome remove(long userId, Places.Tray tray) {
        return parts.run(
                userId,
                "Deleted the tray " + tray.name(),
                () -> {},
                () -> jdbc.sql("select id from message where user_id = ? and tray_id = ? limit ?")
                        .params(userId, tray.id(), Transactions.MOST)
                        .query(Long.class)
                        .list(),
                state -> state.sorted(null),
                batch -> {
                    pauses.pause(
                            userId,
                            "The tray %s is gone.".formatted(tray.name()),
                            RulePauses.NamedThing.TRAY,
                            List.of(tray.id()));
                    jdbc.sql("delete from tray where id = ? and user_id = ?")
                            .params(tray.id(), userId)
                            .update();
                });
    }

    /** Puts a tray one place up; the first stays where it is. */
    @Transactional
    public void up(long userId, long tray) {
        sequence.up(Sequence.Sequenced.TRAY, userId, tray);
    }
}
