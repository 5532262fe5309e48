package app.schublade.store.intake;

import app.schublade.store.account.Mailbox;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/**
 * Messages that their server lists and does not give. Each is put aside after a few tries, so that nothing waits behind
 * it, and is asked for again later.
 */
@Repository
public class AsideStore {
    /** So often a message is asked for at once: the connection may have been the reason. */
    private static final int TRIES_AT_ONCE = 3;

    /** The name under which a folder itself is put aside, because the connection breaks when it is opened. */
    public static final String FOLDER = "";

    private static final Duration FIRST_PAUSE = Duration.ofHours(1);
    private static final Duration LONGEST_PAUSE = Duration.ofDays(1);
    private static final int MOST_SHOWN = 50;

    private final JdbcClient jdbc;

    public AsideStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * A message that is put aside.
     *
     * @param folder path of its folder on the server
     * @param reason what the server said
     */
    public record Aside(String folder, String name, String reason, Instant since, Instant nextTry) {}

    /**
     * The server did not give a message.
     *
     * @param name its UID, or its unique id of POP3
     * @return whether it is put aside from now on
     */
    @Transactional
    public boolean failed(Mailbox mailbox, String name, String reason) {
        int tries = jdbc.sql("""
                        insert into put_aside (mailbox_id, name, reason) values (?, ?, ?)
                        on conflict (mailbox_id, name) do update set reason = excluded.reason, tries = put_aside.tries + 1
                        returning tries
                        """)
                .params(mailbox.id(), name, reason)
                .query(Integer.class)
                .single();
        if (tries < TRIES_AT_ONCE) {
            return false;
        }
        long seconds =
                Math.min(LONGEST_PAUSE.toSeconds(), FIRST_PAUSE.toSeconds() << Math.min(10, tries - TRIES_AT_ONCE));
        jdbc.sql("""
                        update put_aside set next_at = now() + make_interval(secs => ?) where mailbox_id = ? and name = ?
                        """).params(seconds, mailbox.id(), name).update();
        return true;
    }

    /** The names of the messages of a folder that are not to be asked for now. */
    public Set<String> waiting(Mailbox mailbox) {
        return jdbc
                .sql("select name from put_aside where mailbox_id = ? and next_at > now()")
                .param(mailbox.id())
                .query(String.class)
                .list()
                .stream()
                .collect(Collectors.toSet());
    }

    /** The names of all messages of a folder that were not given at the last try. */
    public Set<String> known(Mailbox mailbox) {
        return Set.copyOf(jdbc.sql("select name from put_aside where mailbox_id = ?")
                .param(mailbox.id())
                .query(String.class)
                .list());
    }

    /** The folders of an account that could not be opened at the last try. */
    public Set<Long> foldersKnown(long accountId) {
        return Set.copyOf(jdbc.sql("""
                        select p.mailbox_id from put_aside p join mailbox b on b.id = p.mailbox_id
                        where b.account_id = ? and p.name = ''
                        """).param(accountId).query(Long.class).list());
    }

    /** These were given after all, or are gone. */
    public void settled(Mailbox mailbox, Collection<String> names) {
        jdbc.sql("delete from put_aside where mailbox_id = ? and name = any(?)")
                .params(mailbox.id(), names.toArray(String[]::new))
                .update();
    }

    /** Asks for all of an account again at once. */
    public void again(long accountId) {
        jdbc.sql("""
                        update put_aside p set next_at = now() from mailbox b
                        where b.id = p.mailbox_id and b.account_id = ?
                        """).param(accountId).update();
    }

    /** What is put aside of an account, the latest first. */
    public List<Aside> of(long userId, long accountId) {
        return jdbc.sql("""
                        select b.server_name as folder, p.name, p.reason, p.since, p.next_at
                        from put_aside p join mailbox b on b.id = p.mailbox_id join account a on a.id = b.account_id
                        where a.user_id = ? and a.id = ? and p.next_at is not null order by p.since desc limit ?
                        """)
                .params(userId, accountId, MOST_SHOWN)
                .query((row, number) -> new Aside(
                        row.getString("folder"),
                        row.getString("name"),
                        row.getString("reason"),
                        row.getTimestamp("since").toInstant(),
                        row.getTimestamp("next_at").toInstant()))
                .list();
    }
}
