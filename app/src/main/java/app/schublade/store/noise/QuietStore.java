package app.schublade.store.noise;

import app.schublade.core.triage.LookHours;
import app.schublade.store.base.MailChanged;
import app.schublade.store.base.UserLock;
import app.schublade.store.base.Zones;
import app.schublade.store.filing.MessageWriter;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** When users look at new mail, what waits in the Inbox until then, and of what they are notified. */
@Repository
public class QuietStore {
    private final JdbcClient jdbc;
    private final UserLock users;
    private final MessageWriter messages;
    private final Zones zones;
    private final Clock clock;
    private final ApplicationEventPublisher events;

    QuietStore(
            JdbcClient jdbc,
            UserLock users,
            MessageWriter messages,
            Zones zones,
            Clock clock,
            ApplicationEventPublisher events) {
        this.messages = messages;
        this.jdbc = jdbc;
        this.users = users;
        this.zones = zones;
        this.clock = clock;
        this.events = events;
    }

    /** Of whose new mail a user is notified, besides that of which a rule notifies. */
    public enum Notices {
        RULES("nobody in particular"),
        KEY_PEOPLE("key people"),
        KNOWN_PEOPLE("people I have written to"),
        EVERYBODY("everybody");

        private final String words;

        Notices(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /**
     * What a user wants to see and hear of new mail.
     *
     * @param lookedAt until when what had come by then is shown
     * @param searches the ids of saved searches whose new mail is told
     * @param labels the ids of labels whose new mail is told
     */
    public record Quiet(LookHours hours, Instant lookedAt, Notices notices, Set<Long> searches, Set<Long> labels) {
        static final Quiet OFF = new Quiet(LookHours.NONE, Instant.EPOCH, Notices.RULES, Set.of(), Set.of());

        public Quiet {
            searches = Set.copyOf(searches);
            labels = Set.copyOf(labels);
        }

        /** Whether anything besides rules notifies the user. */
        public boolean tellsOfSome() {
            return notices != Notices.RULES || !searches.isEmpty() || !labels.isEmpty();
        }
    }

    public Quiet of(long userId) {
        return jdbc.sql("select * from quiet where user_id = ?")
                .param(userId)
                .query(QuietStore::quiet)
                .optional()
                .orElse(Quiet.OFF);
    }

    /** When what is waiting is shown; empty if mail is shown as it comes. */
    public Optional<ZonedDateTime> nextLook(long userId) {
        LookHours hours = of(userId).hours();
        return hours.isEmpty() ? Optional.empty() : Optional.of(hours.next(now(userId)));
    }

    private ZonedDateTime now(long userId) {
        return clock.instant().atZone(zones.of(userId));
    }

    /** Keeps what a user wants; what was waiting is shown, and the first look is over. Searches and labels of others are left out. */
    @Transactional
    public void keep(
            long userId, LookHours hours, Notices notices, Collection<Long> searches, Collection<Long> labels) {
        jdbc.sql("""
                        insert into quiet (user_id, minutes, notices, searches, labels)
                        values (:user, :minutes, :notices,
                            array(select id from saved_search where user_id = :user and id = any(:searches)),
                            array(select id from label where user_id = :user and id = any(:labels)))
                        on conflict (user_id) do update set minutes = excluded.minutes, notices = excluded.notices,
                            searches = excluded.searches, labels = excluded.labels
                        """)
                .param("user", userId)
                .param("minutes", hours.minutes().toArray(Integer[]::new))
                .param("notices", notices.name())
                .param("searches", searches.toArray(Long[]::new))
                .param("labels", labels.toArray(Long[]::new))
                .update();
        look(userId);
    }

    /** Shows what is waiting. Returns how many messages that were. */
    @Transactional
    public int look(long userId) {
        users.alone(userId); // Or what comes at this moment would wait for the look after this one.
        jdbc.sql("update quiet set looked_at = ? where user_id = ?")
                .params(Timestamp.from(clock.instant()), userId)
                .update();
        int shown = messages.showWaiting(userId);
        events.publishEvent(new MailChanged(userId, Set.of()));
        return shown;
    }

    /** Users whose time has come to look. */
    public List<Long> due() {
        return jdbc
                .sql("select * from quiet where minutes <> '{}'")
                .query((row, number) -> isDue(row.getLong("user_id"), quiet(row, number))
                        ? Optional.of(row.getLong("user_id"))
                        : Optional.<Long>empty())
                .list()
                .stream()
                .flatMap(Optional::stream)
                .toList();
    }

    private boolean isDue(long userId, Quiet quiet) {
        return quiet.hours().last(now(userId)).toInstant().isAfter(quiet.lookedAt());
    }

    /** Those of some senders whose mail does not wait. */
    public Set<String> keyPeople(long userId, Collection<String> senders) {
        return Set.copyOf(jdbc.sql("""
                        select distinct s from unnest(:senders::text[]) s join key_person k
                            on k.user_id = :user and k.value in (s, split_part(s, '@', -1))
                        """)
                .param("senders", senders.toArray(String[]::new))
                .param("user", userId)
                .query(String.class)
                .list());
    }

    /** Whether the user has written to somebody. */
    public boolean hasWrittenTo(long userId, String address) {
        return jdbc.sql("""
                        select exists (select from message m join folder f on f.id = m.folder_id and f.use = 'SENT'
                            join message_head h on h.message_id = m.id
                            where m.user_id = :user and h.addressed_to @> array[cast(:address as text)])
                        """)
                .param("user", userId)
                .param("address", address)
                .query(Boolean.class)
                .single();
    }

    private static Set<Long> longs(ResultSet row, String column) throws SQLException {
        return Set.copyOf(Arrays.asList((Long[]) row.getArray(column).getArray()));
    }

    private static Quiet quiet(ResultSet row, int number) throws SQLException {
        return new Quiet(
                LookHours.ofMinutes(
                        Arrays.asList((Integer[]) row.getArray("minutes").getArray())),
                row.getTimestamp("looked_at").toInstant(),
                Notices.valueOf(row.getString("notices")),
                longs(row, "searches"),
                longs(row, "labels"));
    }
}
