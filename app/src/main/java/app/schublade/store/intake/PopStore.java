package app.schublade.store.intake;

import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Which messages of POP3 accounts are known, by the unique ids that their servers give them (UIDL). */
@Repository
public class PopStore {
    private final JdbcClient jdbc;
    private final IntakeStore intake;

    public PopStore(JdbcClient jdbc, IntakeStore intake) {
        this.jdbc = jdbc;
        this.intake = intake;
    }

    /**
     * A message that is known.
     *
     * @param messageId null if it was not wanted, has been deleted here, or was fetched by an older version that did not note it
     * @param size in bytes, as the server told it; null if that was not noted
     * @param identity what the message is recognised by; null where there is no message
     * @param whole whether all of it is stored here
     * @param wanted false for what is older than the user wants to import
     * @param removed whether the server was told to remove it
     */
    public record KnownMessage(
            @Nullable Long messageId,
            @Nullable Integer size,
            @Nullable String identity,
            boolean whole,
            boolean wanted,
            boolean removed) {

        /** Whether a message of the server is this one, as far as can be told. */
        public boolean is(String otherIdentity, int otherSize) {
            return otherIdentity.equals(identity) && size != null && size == otherSize;
        }
    }

    /**
     * A message of a server.
     *
     * @param number under which it was given to the store, if it is wanted
     * @param size in bytes, as the server tells it
     */
    public record ListedMessage(String id, long number, int size, boolean wanted) {}

    public Map<String, KnownMessage> known(long accountId) {
        Map<String, KnownMessage> known = new LinkedHashMap<>();
        jdbc.sql("""
                        select p.uidl, p.message_id, p.size, h.internet_id, coalesce(s.whole, false) as whole, p.wanted,
                            p.removed_at is not null as removed
                        from pop_message p left join message_head h on h.message_id = p.message_id
                        left join message_source s on s.message_id = p.message_id
                        where p.account_id = ?
                        """)
                .param(accountId)
                .query((row, number) -> Map.entry(
                        row.getString("uidl"),
                        new KnownMessage(
                                row.getObject("message_id", Long.class),
                                row.getObject("size", Integer.class),
                                row.getString("internet_id"),
                                row.getBoolean("whole"),
                                row.getBoolean("wanted"),
                                row.getBoolean("removed"))))
                .list()
                .forEach(entry -> known.put(entry.getKey(), entry.getValue()));
        return known;
    }

    /** Stores those of some messages that are wanted, and takes note of all. */
    @Transactional
    public void store(
            Account account, Mailbox inbox, List<Incoming> wanted, Collection<ListedMessage> listed, long next) {
        intake.store(account, inbox, wanted);
        jdbc.sql("""
                        insert into pop_message (account_id, uidl, message_id, size, wanted)
                        select :account, l.id, c.message_id, l.size, l.wanted
                        from unnest(:ids::text[], :numbers::bigint[], :sizes::int[], :wanted::boolean[]) as l (id, number, size, wanted)
                        left join server_copy c on c.mailbox_id = :mailbox and c.uid = l.number
                        on conflict (account_id, uidl) do update set message_id = excluded.message_id, size = excluded.size,
                            wanted = excluded.wanted, removed_at = null
                        """)
                .param("account", account.id())
                .param("mailbox", inbox.id())
                .param("ids", listed.stream().map(ListedMessage::id).toArray(String[]::new))
                .param("numbers", listed.stream().map(ListedMessage::number).toArray(Long[]::new))
                .param("sizes", listed.stream().map(ListedMessage::size).toArray(Integer[]::new))
                .param("wanted", listed.stream().map(ListedMessage::wanted).toArray(Boolean[]::new))
                .update();
        jdbc.sql("update mailbox set next_number = ? where id = ?")
                .params(next, inbox.id())
                .update();
    }

    /**
     * Finds the message that a server's message is, though it is listed under an id that is not known: one of this identity
     * and size whose own id is no longer listed, or was never noted. It goes by the new id from now on.
     *
     * @param size in bytes, as the server tells it
     * @param vanished ids that are known and no longer listed
     */
    @Transactional
    public boolean recognise(long accountId, String id, String identity, int size, Collection<String> vanished) {
        Optional<Long> message = jdbc.sql("""
                        select h.message_id from message_head h left join pop_message p on p.message_id = h.message_id
                        where h.account_id = :account and h.internet_id = :identity and coalesce(p.size, h.size) = :size
                            and (p.uidl is null or p.uidl = any(:vanished))
                        order by p.uidl is null, h.message_id limit 1
                        """)
                .param("account", accountId)
                .param("identity", identity)
                .param("size", size)
                .param("vanished", vanished.toArray(String[]::new))
                .query(Long.class)
                .optional();
        message.ifPresent(one -> {
            jdbc.sql("delete from pop_message where account_id = ? and message_id = ?")
                    .params(accountId, one)
                    .update();
            jdbc.sql("""
                            insert into pop_message (account_id, uidl, message_id, size) values (?, ?, ?, ?)
                            on conflict (account_id, uidl) do update set message_id = excluded.message_id, size = excluded.size,
                                removed_at = null
                            """).params(accountId, id, one, size).update();
        });
        return message.isPresent();
    }

    /** The server is about to be told to remove messages. */
    public void removing(long accountId, Collection<String> ids) {
        jdbc.sql("update pop_message set removed_at = now() where account_id = ? and uidl = any(?)")
                .params(accountId, ids.toArray(String[]::new))
                .update();
    }

    /** What these ids stood for is gone from the server, or is something else now. */
    public void forget(long accountId, Collection<String> ids) {
        jdbc.sql("delete from pop_message where account_id = ? and uidl = any(?)")
                .params(accountId, ids.toArray(String[]::new))
                .update();
    }

    /** A number for the next message: POP3 has none that lasts. One that has been used is not used again. */
    public long nextNumber(Mailbox inbox) {
        return jdbc.sql("""
                        select coalesce(b.next_number, greatest(b.new_from_uid,
                            (select coalesce(max(c.uid), 0) + 1 from server_copy c where c.mailbox_id = b.id)))
                        from mailbox b where b.id = ?
                        """).param(inbox.id()).query(Long.class).single();
    }
}
