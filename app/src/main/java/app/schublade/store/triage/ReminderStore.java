package app.schublade.store.triage;

import app.schublade.core.filing.DayTime;
import app.schublade.core.message.Address;
import app.schublade.store.base.MailChanged;
import app.schublade.store.base.Zones;
import app.schublade.store.user.NotificationStore;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What is due at a time of day: told of once when that has come, and shown until the user has seen to it. */
@Repository
public class ReminderStore {
    /** More than one round should hold wait for the next one. */
    private static final int MOST = 200;

    /** Flagged messages whose time was not told of yet. */
    private static final String UNTOLD = """
            from message m join folder f on f.id = m.folder_id and coalesce(f.use, '') not in ('TRASH', 'JUNK')
            where m.flagged and m.due_at is not null and not exists (select from reminder r
                where r.message_id = m.id and r.due_on = m.due_on and r.due_at = m.due_at)
            """;

    private final JdbcClient jdbc;
    private final NotificationStore notifications;
    private final Zones zones;
    private final ApplicationEventPublisher events;

    ReminderStore(JdbcClient jdbc, NotificationStore notifications, Zones zones, ApplicationEventPublisher events) {
        this.jdbc = jdbc;
        this.notifications = notifications;
        this.zones = zones;
        this.events = events;
    }

    public record Reminder(long id, long message, Address sender, String subject, DayTime due) {}

    /** A reminder that is to go to the user's own account. */
    public record ReminderMail(long userId, long account, Reminder reminder) {}

    /** The users of whom something may be due: when that day is where the sun rises first. */
    public List<Long> users() {
        return jdbc.sql("select distinct m.user_id " + UNTOLD + " and m.due_on <= ?")
                .param(zones.latestToday())
                .query(Long.class)
                .list();
    }

    /** Reminds the user of what is due by now and was not told of. Several processes may: each time is told of once. */
    @Transactional
    public int remind(long userId) {
        LocalDateTime now = zones.reached(userId);
        List<Long> told = jdbc.sql("""
                        insert into reminder (user_id, message_id, due_on, due_at, mailed)
                        select m.user_id, m.id, m.due_on, m.due_at,
                            (select reminders_at is null from app_user where id = m.user_id)
                        """ + UNTOLD + """
                         and m.user_id = ? and m.due_on <= ? and m.due_on + m.due_at <= ? limit ?
                        on conflict do nothing returning message_id
                        """)
                .params(userId, now.toLocalDate(), now, MOST)
                .query(Long.class)
                .list();
        told.forEach(message -> notifications.remind(userId, message));
        if (!told.isEmpty()) {
            events.publishEvent(new MailChanged(userId, Set.of()));
        }
        return told.size();
    }

    /** What the user was reminded of and has not seen to, the latest first: it is flagged and due at that time still. */
    public List<Reminder> open(long userId, int most) {
        return jdbc.sql("""
                        select r.id, m.id as message, m.due_on, m.due_at, h.sender_name, h.sender_address, h.subject
                        from reminder r join message m on m.id = r.message_id
                            and m.flagged and m.due_on = r.due_on and m.due_at = r.due_at
                        join folder f on f.id = m.folder_id and coalesce(f.use, '') not in ('TRASH', 'JUNK')
                        join message_head h on h.message_id = m.id
                        where r.user_id = ? and not r.closed order by r.due_on desc, r.due_at desc, r.id desc limit ?
                        """).params(userId, most).query(ReminderStore::reminder).list();
    }

    /** The user has seen it; the message stays flagged. */
    public void close(long userId, long id) {
        jdbc.sql("update reminder set closed = true where user_id = ? and id = ?")
                .params(userId, id)
                .update();
    }

    /** Those that are to be sent by mail. */
    public List<ReminderMail> toMail() {
        return jdbc.sql("""
                        select r.id, r.message_id as message, r.due_on, r.due_at, h.sender_name, h.sender_address, h.subject,
                            r.user_id, u.reminders_at
                        from reminder r join app_user u on u.id = r.user_id and u.reminders_at is not null
                        join message_head h on h.message_id = r.message_id
                        where not r.mailed order by r.id limit ?
                        """)
                .param(MOST)
                .query((row, number) ->
                        new ReminderMail(row.getLong("user_id"), row.getLong("reminders_at"), reminder(row, number)))
                .list();
    }

    /** Sends it once, whoever else looks at the same time; what fails is done the next time. */
    @Transactional
    public void once(ReminderMail mail, Runnable sending) {
        int claimed = jdbc.sql("update reminder set mailed = true where id = ? and not mailed")
                .param(mail.reminder().id())
                .update();
        if (claimed > 0) {
            sending.run();
        }
    }

    /** The account at which the user gets reminders by mail. */
    public Optional<Long> mailedTo(long userId) {
        return jdbc.sql("select reminders_at from app_user where id = ? and reminders_at is not null")
                .param(userId)
                .query(Long.class)
                .optional();
    }

    /** From now on reminders come by mail, too, at an account of the user; or no more. */
    public void mailTo(long userId, @Nullable Long account) {
        jdbc.sql("""
                        update app_user set reminders_at = (select id from account where user_id = :user and id = cast(:account as bigint))
                        where id = :user
                        """).param("user", userId).param("account", account).update();
    }

    private static Reminder reminder(ResultSet row, int number) throws SQLException {
        return new Reminder(
                row.getLong("id"),
                row.getLong("message"),
                new Address(row.getString("sender_name"), row.getString("sender_address")),
                row.getString("subject"),
                new DayTime(row.getObject("due_on", LocalDate.class), row.getObject("due_at", LocalTime.class)));
    }
}
