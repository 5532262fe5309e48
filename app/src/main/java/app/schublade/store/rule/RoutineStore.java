package app.schublade.store.rule;

import app.schublade.core.filing.DueDate;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Routine;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.base.Sequence;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** A user's routines, in their order. */
@Repository
public class RoutineStore {
    private static final int MOST = 50;
    private static final int WORKING_DAYS = 5;
    private static final int DAYS_LATER = 3;

    private final JdbcClient jdbc;
    private final PlaceStore places;
    private final Sequence sequence;

    RoutineStore(JdbcClient jdbc, PlaceStore places, Sequence sequence) {
        this.jdbc = jdbc;
        this.sequence = sequence;
        this.places = places;
    }

    /** In their order; whoever asks for the first time is given some to begin with. */
    @Transactional
    public List<Routine> of(long userId) {
        if (jdbc.sql("update app_user set has_routines = true where id = ? and not has_routines")
                        .param(userId)
                        .update()
                > 0) {
            giveThoseToBeginWith(userId);
        }
        Map<Long, List<Effect>> steps = new HashMap<>();
        Map<Long, List<String>> gone = new HashMap<>();
        readSteps(userId, steps, gone);
        return jdbc.sql("select id, name from routine where user_id = ? order by position, id")
                .param(userId)
                .query((row, number) -> {
                    long id = row.getLong("id");
                    return new Routine(
                            id,
                            row.getString("name"),
                            steps.getOrDefault(id, List.of()),
                            gone.getOrDefault(id, List.of()));
                })
                .list();
    }

    public Optional<Routine> of(long userId, long id) {
        return of(userId).stream().filter(one -> one.id() == id).findFirst();
    }

    private void readSteps(long userId, Map<Long, List<Effect>> steps, Map<Long, List<String>> gone) {
        Places known = places.of(userId, null);
        jdbc.sql("""
                        select s.*, f.path as folder_path from routine_step s join routine r on r.id = s.routine_id
                            left join folder f on f.id = s.folder_id and f.user_id = r.user_id and f.deleted_at is null
                        where r.user_id = ? order by s.routine_id, s.position
                        """).param(userId).query(row -> {
            long routine = row.getLong("routine_id");
            if (isThere(row, known)) {
                steps.computeIfAbsent(routine, id -> new ArrayList<>()).add(EffectRow.read(row, known));
            } else {
                gone.computeIfAbsent(routine, id -> new ArrayList<>()).add(row.getString("place_name"));
            }
        });
    }

    private static boolean isThere(ResultSet row, Places known) throws SQLException {
        Long label = row.getObject("label_id", Long.class);
        Long category = row.getObject("category_id", Long.class);
        Long tray = row.getObject("tray_id", Long.class);
        Long flag = row.getObject("flag_id", Long.class);
        return (row.getObject("folder_id") == null || row.getString("folder_path") != null)
                && (label == null || known.label(label).isPresent())
                && (category == null || known.category(category).isPresent())
                && (tray == null || known.tray(tray).isPresent())
                && (flag == null || known.flag(flag).isPresent());
    }

    /**
     * Adds a routine after all others if its id is 0, or replaces the one with its id. Places in it must exist.
     *
     * @throws InputProblem with a sentence for the user if another one has its name, or there are too many
     */
    @Transactional
    public long save(long userId, Routine routine) {
        try {
            long id = routine.id() == 0 ? insert(userId, routine) : update(userId, routine);
            for (int i = 0; i < routine.steps().size(); i++) {
                EffectRow.of(routine.steps().get(i)).insertInto(jdbc, "routine_step", "routine_id", id, i);
            }
            jdbc.sql("""
                            update routine_step s set place_name = coalesce(
                                (select 'the folder ' || replace(path, '/', ' / ') from folder where id = s.folder_id),
                                (select 'the label ' || replace(path, '/', ' / ') from label where id = s.label_id),
                                (select 'the category ' || name from category where id = s.category_id),
                                (select 'the tray ' || name from tray where id = s.tray_id),
                                (select 'the flag ' || name from flag where id = s.flag_id), '')
                            where routine_id = ?
                            """).param(id).update();
            return id;
        } catch (DuplicateKeyException e) {
            throw new InputProblem("There is a routine “%s” already.".formatted(routine.name()), e);
        }
    }

    private long insert(long userId, Routine routine) {
        int count = jdbc.sql("select count(*) from routine where user_id = ?")
                .param(userId)
                .query(Integer.class)
                .single();
        if (count >= MOST) {
            throw new InputProblem("%d routines are the limit; delete one first.".formatted(MOST));
        }
        return jdbc.sql("""
                        insert into routine (user_id, position, name) values (:user,
                            (select coalesce(max(position), 0) + 1 from routine where user_id = :user), :name) returning id
                        """)
                .param("user", userId)
                .param("name", routine.name())
                .query(Long.class)
                .single();
    }

    private long update(long userId, Routine routine) {
        int found = jdbc.sql("update routine set name = ? where id = ? and user_id = ?")
                .params(routine.name(), routine.id(), userId)
                .update();
        if (found == 0) {
            throw new InputProblem("This routine is gone; it was deleted in another window.");
        }
        jdbc.sql("delete from routine_step where routine_id = ?")
                .param(routine.id())
                .update();
        return routine.id();
    }

    public void delete(long userId, long id) {
        jdbc.sql("delete from routine where user_id = ? and id = ?")
                .params(userId, id)
                .update();
    }

    /** Puts it before the one that stands before it. */
    @Transactional
    public void up(long userId, long id) {
        sequence.up(Sequence.Sequenced.ROUTINE, userId, id);
    }

    /** Puts it before another one, or after all of them if there is no such one. */
    @Transactional
    public void putBefore(long userId, long id, long other) {
        sequence.putBefore(Sequence.Sequenced.ROUTINE, userId, id, other);
    }

    /** Those that one begins with, as far as there is none of the same name. */
    @Transactional
    public void giveThoseToBeginWith(long userId) {
        List<String> there = jdbc.sql("select lower(name) from routine where user_id = ?")
                .param(userId)
                .query(String.class)
                .list();
        Effect archive = new Effect.FileInto(places.shared(userId, SpecialUse.ARCHIVE));
        Effect read = new Effect.MarkRead(true);
        FolderRef tickler = places.shared(userId, SpecialUse.TICKLER);
        List<Routine> all = List.of(
                routine("To do today", new Effect.Due(new DueDate.After(0, false)), read),
                routine("To do", new Effect.Flag(true), read),
                routine("Waiting", new Effect.Due(new DueDate.After(WORKING_DAYS, true)), read, archive),
                routine("Read later", new Effect.Tickle(tickler, new DueDate.After(DAYS_LATER, false))),
                routine("Done", new Effect.Flag(false), read, archive),
                routine("Thank and file", new Effect.Answer("Thank you."), read, archive));
        all.stream()
                .filter(one -> !there.contains(one.name().toLowerCase(Locale.ROOT)))
                .forEach(one -> save(userId, one));
    }

    private static Routine routine(String name, Effect... steps) {
        return new Routine(0, name, List.of(steps), List.of());
    }
}
