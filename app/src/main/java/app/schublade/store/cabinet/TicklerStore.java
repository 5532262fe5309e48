package app.schublade.store.cabinet;

import app.schublade.core.filing.DueDate;
import app.schublade.core.filing.Effect;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.base.Zones;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.place.PlaceStore;
import java.time.LocalDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What lies in the tickler until its day. */
@Repository
public class TicklerStore {
    /** More than one act should hold wait for the next round. */
    private static final int MOST = 5000;

    /** What is put off until somebody writes who has written since. */
    private static final String WRITTEN = """
            from waits_for w join message m on m.id = w.message_id and m.until_on = w.until_on
                join folder f on f.id = m.folder_id and f.use = 'TICKLER'
            where exists (select from message_head h join message n on n.id = h.message_id
                    join folder nf on nf.id = n.folder_id
                where h.sender_address = w.address and n.user_id = w.user_id and n.id > w.after_message
                    and n.received_at > w.at - interval '1 hour' and coalesce(nf.use, '') not in ('JUNK', 'TRASH', 'SENT', 'DRAFTS'))
            """;

    private final JdbcClient jdbc;
    private final PlaceStore places;
    private final FilingStore filing;
    private final Zones zones;

    public TicklerStore(JdbcClient jdbc, PlaceStore places, FilingStore filing, Zones zones) {
        this.jdbc = jdbc;
        this.places = places;
        this.filing = filing;
        this.zones = zones;
    }

    /** The users of whom something may be to come back: when it is day where the sun rises first. */
    public List<Long> users() {
        return jdbc.sql("""
                        select distinct m.user_id from message m join folder f on f.id = m.folder_id and f.use = 'TICKLER'
                        where m.until_on <= ?
                        """).param(zones.latestToday()).query(Long.class).list();
    }

    /** Whether these messages, which are in the tickler, come back before their day if their senders write again. */
    @Transactional
    public void waitForSenders(long userId, List<Long> messages, boolean wanted) {
        Long[] all = messages.toArray(Long[]::new);
        jdbc.sql("delete from waits_for where user_id = ? and message_id = any(?)")
                .params(userId, all)
                .update();
        if (wanted) {
            jdbc.sql("""
                            insert into waits_for (message_id, user_id, address, until_on, after_message)
                            select m.id, m.user_id, h.sender_address, m.until_on,
                                (select max(id) from message where user_id = m.user_id)
                            from message m join message_head h on h.message_id = m.id
                                join folder f on f.id = m.folder_id and f.use = 'TICKLER'
                            where m.user_id = ? and m.id = any(?) and m.until_on is not null and h.sender_address <> ''
                            """).params(userId, all).update();
        }
    }

    /** The users to whom somebody has written whose older mail was put off until then. */
    public List<Long> written() {
        return jdbc.sql("select distinct w.user_id " + WRITTEN)
                .query(Long.class)
                .list();
    }

    /** Brings back into the user's Inbox what was put off until somebody writes who has written since. */
    @Transactional
    public ActOutcome bringBackWritten(long userId) {
        List<Long> written = jdbc.sql("select w.message_id " + WRITTEN + " and w.user_id = ? limit ?")
                .params(userId, MOST)
                .query(Long.class)
                .list();
        LocalDateTime now = zones.reached(userId);
        FolderRef tickler = places.shared(userId, SpecialUse.TICKLER);
        Effect due = new Effect.Tickle(tickler, new DueDate.On(now.toLocalDate()));
        Effect back = new Effect.ComeBack(tickler, places.shared(userId, SpecialUse.INBOX), now);
        return filing.act(
                userId, Cause.TICKLER, "Back from the tickler: they wrote", written, state -> back.on(due.on(state)));
    }

    /** Brings back into the user's Inbox what was to come back by now. */
    @Transactional
    public ActOutcome bringBack(long userId) {
        LocalDateTime now = zones.reached(userId);
        FolderRef tickler = places.shared(userId, SpecialUse.TICKLER);
        List<Long> due = jdbc.sql("""
                        select id from message where user_id = ? and folder_id = ?
                            and until_on <= ? and until_on + coalesce(until_at, time '00:00') <= ? limit ?
                        """)
                .params(userId, tickler.id(), now.toLocalDate(), now, MOST)
                .query(Long.class)
                .list();
        Effect back = new Effect.ComeBack(tickler, places.shared(userId, SpecialUse.INBOX), now);
        return filing.act(userId, Cause.TICKLER, "Back from the tickler", due, back::on);
    }

    /** How many that have come back lie in the Inbox still. */
    public int back(long userId, @Nullable Long accountId) {
        return jdbc.sql("""
                        select count(*) from message m join folder f on f.id = m.folder_id and f.use = 'INBOX'
                        where m.user_id = :user and m.until_on is not null
                            and (:account::bigint is null or m.account_id = :account)
                        """)
                .param("user", userId)
                .param("account", accountId)
                .query(Integer.class)
                .single();
    }
}
