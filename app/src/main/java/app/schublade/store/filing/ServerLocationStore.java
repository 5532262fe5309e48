package app.schublade.store.filing;

import app.schublade.core.filing.State;
import app.schublade.store.message.StateColumn;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Which message lies where on the servers. One that is in no folder that is known is a stray. */
@Repository
public class ServerLocationStore {
    private final JdbcClient jdbc;

    public ServerLocationStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** A message on a server: where it is known to lie and how it is marked here. */
    public record Copy(long messageId, long uid, State state) {}

    /** The UIDs of a folder's messages that are known here, ascending. */
    public long[] uids(long mailboxId) {
        try (Stream<Long> uids = jdbc
                .sql("select uid from server_copy where mailbox_id = ? order by uid")
                .param(mailboxId)
                .query(Long.class)
                .stream()) {
            return uids.mapToLong(Long::longValue).toArray();
        }
    }

    /** The messages of a folder on the server whose UIDs lie between two, both included, by UID. */
    public Map<Long, Copy> copies(long mailboxId, long firstUid, long lastUid) {
        return copies("c.uid between ? and ?", mailboxId, firstUid, lastUid);
    }

    /** Those of a folder's messages on the server that have one of these UIDs, by UID. */
    public Map<Long, Copy> copies(long mailboxId, Collection<Long> uids) {
        return copies("c.uid = any(?)", mailboxId, (Object) uids.toArray(Long[]::new));
    }

    private Map<Long, Copy> copies(String condition, Object... values) {
        Map<Long, Copy> copies = new HashMap<>();
        jdbc.sql("""
                        select c.uid, m.id, %s
                        from server_copy c join message m on m.id = c.message_id where c.mailbox_id = ? and\s""".formatted(StateColumn.SELECTED) + condition)
                .params(values)
                .query((row, number) -> new Copy(row.getLong("id"), row.getLong("uid"), StateColumn.read(row)))
                .list()
                .forEach(copy -> copies.put(copy.uid(), copy));
        return copies;
    }

    /** A message is no longer where it was known to be; it may turn up in another folder. */
    public void vanished(long message) {
        jdbc.sql("update server_copy set mailbox_id = null where message_id = ?")
                .param(message)
                .update();
    }

    /** Messages that are no longer in their folder; they may turn up in another one. */
    public void vanished(long mailboxId, long[] uids) {
        if (uids.length > 0) {
            jdbc.sql("update server_copy set mailbox_id = null where mailbox_id = ? and uid = any(?)")
                    .params(mailboxId, uids)
                    .update();
        }
    }

    /** Messages between two UIDs, both included, are no longer in their folder. Returns how many were known. */
    public int vanished(long mailboxId, long firstUid, long lastUid) {
        return jdbc.sql("update server_copy set mailbox_id = null where mailbox_id = ? and uid between ? and ?")
                .params(mailboxId, firstUid, lastUid)
                .update();
    }

    /** Messages of the account of which it is not known where they lie. */
    public List<Long> strays(long accountId) {
        return jdbc.sql("select message_id from server_copy where account_id = ? and mailbox_id is null")
                .param(accountId)
                .query(Long.class)
                .list();
    }

    public boolean hasStrays(long accountId) {
        return jdbc.sql("select exists (select from server_copy where account_id = ? and mailbox_id is null)")
                .param(accountId)
                .query(Boolean.class)
                .single();
    }

    /** Notes where a message lies now. A message that was known to have this UID before is a stray then. */
    @Transactional
    public void locate(long messageId, long mailboxId, long uid) {
        jdbc.sql("update server_copy set mailbox_id = null where mailbox_id = ? and uid = ? and message_id <> ?")
                .params(mailboxId, uid, messageId)
                .update();
        jdbc.sql("""
                        insert into server_copy (message_id, account_id, mailbox_id, uid)
                        select id, account_id, :mailbox, :uid from message where id = :message
                        on conflict (message_id) do update set mailbox_id = :mailbox, uid = :uid
                        """)
                .param("mailbox", mailboxId)
                .param("uid", uid)
                .param("message", messageId)
                .update();
    }

    /** How many of a folder's messages are known here. */
    public int count(long mailboxId) {
        return jdbc.sql("select count(*) from server_copy where mailbox_id = ?")
                .param(mailboxId)
                .query(Integer.class)
                .single();
    }

    /** Some of a folder's messages, to know the folder by: identity by UID. */
    public Map<Long, String> sample(long mailboxId, int most) {
        Map<Long, String> sample = new HashMap<>();
        jdbc.sql("""
                        select c.uid, h.internet_id from server_copy c join message_head h on h.message_id = c.message_id
                        where c.mailbox_id = ? order by c.uid desc limit ?
                        """)
                .params(mailboxId, most)
                .query((row, number) -> Map.entry(row.getLong(1), row.getString(2)))
                .list()
                .forEach(entry -> sample.put(entry.getKey(), entry.getValue()));
        return sample;
    }

    public boolean isKnown(long mailboxId, long uid) {
        return jdbc.sql("select exists (select from server_copy where mailbox_id = ? and uid = ?)")
                .params(mailboxId, uid)
                .query(Boolean.class)
                .single();
    }
}
