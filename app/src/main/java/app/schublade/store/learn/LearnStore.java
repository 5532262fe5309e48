package app.schublade.store.learn;

import java.nio.ByteBuffer;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What was filed and is to be learnt, and what was learnt. */
@Repository
public class LearnStore {
    /** A folder that the user made, or the archive; in the others nothing is filed. */
    private static final String FILING = "f.deleted_at is null and (f.use is null or f.use = 'ARCHIVE')";

    private final JdbcClient jdbc;

    LearnStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** What a lesson is about. */
    public enum LessonKind {
        FOLDER,
        LABEL
    }

    /**
     * A message was put somewhere, or taken away from there.
     *
     * @param id the later, the larger
     * @param there whether it was put there
     */
    public record Lesson(long id, long message, LessonKind kind, long place, boolean there) {}

    /** A lesson that was not written down yet. */
    public record NewLesson(long message, LessonKind kind, long place, boolean there) {}

    /** Writes down what is to be learnt, in this order. */
    public void teach(List<NewLesson> lessons) {
        if (lessons.isEmpty()) {
            return;
        }
        jdbc.sql("""
                        insert into to_learn (user_id, message_id, kind, place_id, there)
                        select m.user_id, l.message, l.kind, l.place, l.there
                        from unnest(:messages::bigint[], :kinds::text[], :places::bigint[], :there::boolean[])
                            with ordinality as l (message, kind, place, there, number)
                        join message m on m.id = l.message order by l.number
                        """)
                .param("messages", lessons.stream().map(NewLesson::message).toArray(Long[]::new))
                .param(
                        "kinds",
                        lessons.stream().map(lesson -> lesson.kind().name()).toArray(String[]::new))
                .param("places", lessons.stream().map(NewLesson::place).toArray(Long[]::new))
                .param("there", lessons.stream().map(NewLesson::there).toArray(Boolean[]::new))
                .update();
    }

    /** What was learnt up to a lesson. */
    public record Learnt(long lastLesson, ByteBuffer gzip) {}

    public Optional<Learnt> learnt(long userId) {
        return jdbc.sql("select last_lesson, gzip from learnt where user_id = ?")
                .param(userId)
                .query((row, number) -> new Learnt(row.getLong(1), ByteBuffer.wrap(row.getBytes(2))))
                .optional();
    }

    /** Keeps what was learnt; its lessons are needed no more. */
    @Transactional
    public void keep(long userId, Learnt learnt) {
        jdbc.sql("""
                        insert into learnt (user_id, last_lesson, gzip) values (?, ?, ?)
                        on conflict (user_id) do update set last_lesson = excluded.last_lesson, gzip = excluded.gzip
                        """).params(userId, learnt.lastLesson(), learnt.gzip().array()).update();
        jdbc.sql("delete from to_learn where user_id = ? and id <= ?")
                .params(userId, learnt.lastLesson())
                .update();
    }

    /** The number of the last lesson that there is. */
    public long lastLesson(long userId) {
        return jdbc.sql("select coalesce(max(id), 0) from to_learn where user_id = ?")
                .param(userId)
                .query(Long.class)
                .single();
    }

    /** What was filed after a lesson, the oldest first. */
    public List<Lesson> after(long userId, long lesson, int most) {
        return jdbc.sql("""
                        select l.id, l.message_id, l.kind, l.place_id, l.there from to_learn l
                        where l.user_id = ? and l.id > ? order by l.id limit ?
                        """)
                .params(userId, lesson, most)
                .query(LearnStore::lesson)
                .list();
    }

    /** What lies in folders and has labels now: of the messages that came last, the oldest first. */
    public List<Lesson> now(long userId, int most) {
        return jdbc.sql("""
                        with last as (
                            select m.id, m.folder_id, m.received_at, f.use is null or f.use = 'ARCHIVE' as filed
                            from message m join folder f on f.id = m.folder_id
                            where m.user_id = :user and ((\
                        """ + FILING + """
                        ) or exists (select 1 from message_label l where l.message_id = m.id))
                            order by m.received_at desc, m.id desc limit :most)
                        select 0::bigint as id, l.message_id, l.kind, l.place_id, true as there from (
                            select id as message_id, 'FOLDER' as kind, folder_id as place_id, received_at from last where filed
                            union all
                            select last.id, 'LABEL', label_id, received_at from last join message_label on message_id = last.id) l
                        order by l.received_at, l.message_id
                        """)
                .param("user", userId)
                .param("most", most)
                .query(LearnStore::lesson)
                .list();
    }

    /** Folders that something can be filed to. */
    public List<Long> folders(long userId) {
        return jdbc.sql("select f.id from folder f where f.user_id = ? and " + FILING)
                .param(userId)
                .query(Long.class)
                .list();
    }

    private static Lesson lesson(ResultSet row, int number) throws SQLException {
        return new Lesson(
                row.getLong("id"),
                row.getLong("message_id"),
                LessonKind.valueOf(row.getString("kind")),
                row.getLong("place_id"),
                row.getBoolean("there"));
    }
}
