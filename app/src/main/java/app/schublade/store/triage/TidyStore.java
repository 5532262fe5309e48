package app.schublade.store.triage;

import app.schublade.core.message.Address;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** What lies in the Inbox and is done with: read, of some age, and nothing about it is open. */
@Repository
public class TidyStore {
    /** Of messages {@code m}: those that are done with, unless something of their conversation is open. */
    private static final String DONE = """
             from message m join folder f on f.id = m.folder_id and f.use = 'INBOX' join message_head h on h.message_id = m.id
            where m.user_id = :user and m.received_at < :before and not m.unread and not m.flagged and m.due_on is null
                and m.category_id is null and not exists (
                    select from awaited w join message asked on asked.id = w.message_id
                    where w.user_id = m.user_id and w.closed_at is null
                        and (asked.id = m.id or asked.conversation_id = m.conversation_id))\s""";

    private final JdbcClient jdbc;

    TidyStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * When one likes to tidy up.
     *
     * @param day on which the day sheet offers it, or null
     * @param after so many days what was read may leave the Inbox
     */
    public record TidyHabit(@Nullable DayOfWeek day, int after) {
        /** What was received before may leave the Inbox. */
        public Instant before(Instant now) {
            return now.minus(Duration.ofDays(after));
        }
    }

    /** A message that may leave the Inbox. */
    public record DoneMessage(long id, @Nullable Long conversation, Address sender, String subject, Instant received) {}

    public TidyHabit habit(long userId) {
        return jdbc.sql("select tidy_day, tidy_after from app_user where id = ?")
                .param(userId)
                .query((row, number) -> new TidyHabit(
                        Optional.ofNullable(row.getObject("tidy_day", Integer.class))
                                .map(DayOfWeek::of)
                                .orElse(null),
                        row.getInt("tidy_after")))
                .single();
    }

    public void keep(long userId, TidyHabit habit) {
        jdbc.sql("update app_user set tidy_day = :day, tidy_after = :after where id = :user")
                .param("day", habit.day() == null ? null : habit.day().getValue())
                .param("after", habit.after())
                .param("user", userId)
                .update();
    }

    public int count(long userId, Instant before) {
        return jdbc.sql("select count(*)" + DONE)
                .param("user", userId)
                .param("before", before.atOffset(ZoneOffset.UTC))
                .query(Integer.class)
                .single();
    }

    /** The newest of them. */
    public List<DoneMessage> newest(long userId, Instant before, int most) {
        return jdbc.sql("select m.id, m.conversation_id, h.sender_name, h.sender_address, h.subject, m.received_at"
                        + DONE + "order by m.received_at desc, m.id desc limit :most")
                .param("user", userId)
                .param("before", before.atOffset(ZoneOffset.UTC))
                .param("most", most)
                .query(TidyStore::message)
                .list();
    }

    private static DoneMessage message(ResultSet row, int number) throws SQLException {
        return new DoneMessage(
                row.getLong("id"),
                row.getObject("conversation_id", Long.class),
                new Address(row.getString("sender_name"), row.getString("sender_address")),
                row.getString("subject"),
                row.getTimestamp("received_at").toInstant());
    }

    /** Those of some messages that may still go: in another window one of them may have been flagged, or filed. */
    public List<Long> still(long userId, Instant before, Collection<Long> messages) {
        return jdbc.sql("select m.id" + DONE + "and m.id = any(:messages) order by m.id")
                .param("user", userId)
                .param("before", before.atOffset(ZoneOffset.UTC))
                .param("messages", messages.toArray(Long[]::new))
                .query(Long.class)
                .list();
    }
}
