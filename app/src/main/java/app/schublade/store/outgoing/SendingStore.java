package app.schublade.store.outgoing;

import app.schublade.store.filing.HandledStore;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What is on its way: claimed by one process when it is due, handed in, and its copy put into Sent. */
@Repository
public class SendingStore {
    /** How long a process may take to hand a message in before another one tries. */
    private static final Duration CLAIM = Duration.ofMinutes(5);

    private final JdbcClient jdbc;
    private final HandledStore handled;
    private final Clock clock;

    public SendingStore(JdbcClient jdbc, HandledStore handled, Clock clock) {
        this.jdbc = jdbc;
        this.handled = handled;
        this.clock = clock;
    }

    /**
     * Claims the next message that is due, for this process alone.
     *
     * @param except accounts whose messages have to wait
     */
    @Transactional
    public Optional<Outgoing> claim(Collection<Long> except) {
        return jdbc.sql("""
                        update outgoing set due_at = ?, claimed = true where id = (
                            select id from outgoing where state in ('WAITING', 'SENT') and due_at <= ?
                                and account_id <> all(?)
                            order by due_at limit 1 for update skip locked)
                        returning *
                        """)
                .params(after(CLAIM), after(Duration.ZERO), except.toArray(Long[]::new))
                .query(OutgoingStore::outgoing)
                .optional();
    }

    /** A message as it is handed in (RFC 5322); empty before it is to be sent. */
    public Optional<byte[]> source(long id) {
        return jdbc.sql("select source from outgoing where id = ? and source is not null")
                .param(id)
                .query(byte[].class)
                .optional();
    }

    /** It was sent, and its copy stays here: its server keeps none. */
    public void keptHere(long id) {
        jdbc.sql("update outgoing set due_at = null where id = ?").param(id).update();
    }

    /** The server has it; what is left is its copy. What a person answered or passed on with it is so from now on. */
    @Transactional
    public void handedIn(long id) {
        jdbc.sql("update outgoing set state = 'SENT', tries = 0, trouble = null where id = ?")
                .param(id)
                .update();
        handled.answered(ids("select answers from outgoing where id = ? and touched and answers is not null", id));
        handled.forwarded(ids("select unnest(passes_on) from outgoing where id = ?", id));
    }

    /**
     * What the folder is called on the account's server that what is answered lies in, if its writer wants answers there, too:
     * one of the user's own folders alone.
     */
    public Optional<String> folderBeside(long id) {
        return jdbc.sql("""
                        select b.server_name from outgoing o
                            join habits h on h.user_id = o.user_id and h.copy_beside
                            join message m on m.id = o.answers and m.account_id = o.account_id
                            join folder f on f.id = m.folder_id and f.use is null
                            join mailbox b on b.folder_id = f.id and b.account_id = o.account_id
                        where o.id = ?
                        """).param(id).query(String.class).optional();
    }

    private List<Long> ids(String sql, long id) {
        return jdbc.sql(sql).param(id).query(Long.class).list();
    }

    /** Its copy lies in Sent, or nobody keeps one. */
    @Transactional
    public void done(long id) {
        jdbc.sql("delete from outgoing_file where outgoing_id = ?").param(id).update();
        jdbc.sql("delete from outgoing where id = ?").param(id).update();
    }

    public void later(long id, String trouble, Duration pause) {
        jdbc.sql("""
                        update outgoing set tries = tries + 1, trouble = ?, claimed = false, due_at = ? where id = ?
                        """).params(trouble, after(pause), id).update();
    }

    private OffsetDateTime after(Duration pause) {
        return clock.instant().plus(pause).atOffset(ZoneOffset.UTC);
    }

    public void refused(long id, String trouble) {
        jdbc.sql("update outgoing set state = 'REFUSED', due_at = null, trouble = ?, changed_at = now() where id = ?")
                .params(trouble, id)
                .update();
    }
}
