package app.schublade.store.user;

import app.schublade.core.message.Address;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** New mail, and what is due, of which the user is to be told. */
@Repository
public class NotificationStore {
    /** What nobody was there to hear is forgotten. */
    private static final String OLD = "interval '1 day'";

    private final JdbcClient jdbc;

    public NotificationStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * @param id the later, the larger
     * @param due whether it is a reminder, and not of new mail
     */
    public record Notification(long id, long message, Address sender, String subject, boolean sound, boolean due) {}

    /** The user is to be told of a message that has just arrived. */
    public void note(long userId, long message, boolean sound) {
        note(userId, message, sound, false);
    }

    /** The user is to be told that a message is due. */
    public void remind(long userId, long message) {
        note(userId, message, false, true);
    }

    private void note(long userId, long message, boolean sound, boolean due) {
        jdbc.sql("delete from notification where user_id = ? and at < now() - " + OLD)
                .param(userId)
                .update();
        jdbc.sql("insert into notification (user_id, message_id, sound, due) values (?, ?, ?, ?)")
                .params(userId, message, sound, due)
                .update();
    }

    /** The last one so far; 0 if there is none. */
    public long last(long userId) {
        return jdbc.sql("select coalesce(max(id), 0) from notification where user_id = ?")
                .param(userId)
                .query(Long.class)
                .single();
    }

    /** Those after one, the oldest first. */
    public List<Notification> after(long userId, long id, int most) {
        return jdbc.sql("""
                        select n.id, n.message_id, h.sender_name, h.sender_address, h.subject, n.sound, n.due
                        from notification n join message_head h on h.message_id = n.message_id
                        where n.user_id = ? and n.id > ? order by n.id limit ?
                        """)
                .params(userId, id, most)
                .query((row, number) -> new Notification(
                        row.getLong("id"),
                        row.getLong("message_id"),
                        new Address(row.getString("sender_name"), row.getString("sender_address")),
                        row.getString("subject"),
                        row.getBoolean("sound"),
                        row.getBoolean("due")))
                .list();
    }
}
