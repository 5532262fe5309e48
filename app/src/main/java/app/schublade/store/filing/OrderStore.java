package app.schublade.store.filing;

import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** What mail servers must still be told. An order is taken out only when the server's answer is certain. */
@Repository
public class OrderStore {
    private final JdbcClient jdbc;

    public OrderStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** What is to be done on the server. */
    public enum OrderKind {
        MOVE,
        MARK,
        /** Into another folder of the account. */
        COPY,
        /** As a whole, because it is to be carried over to another account. */
        FETCH,
        /** To this account, from another one. */
        BRING,
        /** For good. */
        DELETE
    }

    /**
     * One order.
     *
     * @param folderId where to move to
     * @param flag the flag or keyword to mark with
     * @param begun whether a copy may have been made already
     * @param mailboxId where the message lies on the server, 0 if that is not known
     * @param otherId of an order to copy or to fetch the copy, of one to bring the original; null if it is gone
     * @param batchId the act that the order to bring belongs to, or null
     */
    public record ServerOrder(
            long id,
            long messageId,
            String identity,
            int size,
            OrderKind kind,
            long folderId,
            @Nullable String flag,
            boolean on,
            boolean begun,
            long mailboxId,
            long uid,
            @Nullable Long otherId,
            @Nullable Long batchId) {

        /** Whether one command can carry out both. */
        public boolean goesWith(ServerOrder other) {
            return kind == other.kind
                    && folderId == other.folderId
                    && java.util.Objects.equals(flag, other.flag)
                    && on == other.on
                    && mailboxId == other.mailboxId;
        }
    }

    /** An order that the server refused. */
    public record Refused(long id, String subject, String trouble) {}

    /**
     * The oldest orders of an account that can be carried out now. Those in a folder that cannot be opened wait; those for a stray wait until it is known where it lies,
     * or that it is gone; but a move that was begun may itself tell.
     */
    public List<ServerOrder> next(long accountId, int most) {
        return jdbc.sql("""
                        select o.*, h.internet_id, h.size, coalesce(c.mailbox_id, 0) as mailbox_id, coalesce(c.uid, 0) as uid
                        from server_order o join message_head h on h.message_id = o.message_id
                        left join server_copy c on c.message_id = o.message_id
                        where o.account_id = ? and o.trouble is null and (c.mailbox_id is not null or o.begun or o.kind = 'BRING')
                            and not exists (select from put_aside p
                                where p.mailbox_id = c.mailbox_id and p.name = '' and p.next_at > now())
                        order by o.id limit ?
                        """)
                .params(accountId, most)
                .query((row, number) -> new ServerOrder(
                        row.getLong("id"),
                        row.getLong("message_id"),
                        row.getString("internet_id"),
                        row.getInt("size"),
                        OrderKind.valueOf(row.getString("kind")),
                        row.getLong("folder_id"),
                        row.getString("flag"),
                        row.getBoolean("flag_on"),
                        row.getBoolean("begun"),
                        row.getLong("mailbox_id"),
                        row.getLong("uid"),
                        row.getObject("other_id", Long.class),
                        row.getObject("batch_id", Long.class)))
                .list();
    }

    public void done(Collection<Long> orders) {
        jdbc.sql("delete from server_order where id = any(?)")
                .param(orders.toArray(Long[]::new))
                .update();
    }

    /** The server said no, and would again: the orders are kept for the user to see and block nothing. */
    public void refused(Collection<Long> orders, String trouble) {
        jdbc.sql("update server_order set trouble = ? where id = any(?)")
                .params(trouble, orders.toArray(Long[]::new))
                .update();
    }

    /** From now on an interrupted try may have left a copy behind. */
    public void begun(Collection<Long> orders) {
        jdbc.sql("update server_order set begun = true where id = any(?)")
                .param(orders.toArray(Long[]::new))
                .update();
    }

    /**
     * The identities of messages that an interrupted order may have copied or moved already: what looks like them on the
     * server may be theirs, and is not taken for another message before the order is done.
     */
    public Set<String> identitiesBegun(long accountId) {
        return Set.copyOf(jdbc.sql("""
                        select h.internet_id from server_order o join message_head h on h.message_id = o.message_id
                        where o.account_id = ? and o.begun and o.trouble is null
                        """).param(accountId).query(String.class).list());
    }

    /** Their messages are not where they were known to be: the orders wait until they are found. */
    public void hold(Collection<Long> orders) {
        jdbc.sql("update server_order set begun = false where id = any(?)")
                .param(orders.toArray(Long[]::new))
                .update();
    }

    /**
     * Those of some messages that have orders which are not carried out, refused ones included: what the server says of
     * them is not what the user wants.
     */
    public Set<Long> ahead(Collection<Long> messages) {
        return Set.copyOf(jdbc.sql("select distinct message_id from server_order where message_id = any(?)")
                .param(messages.toArray(Long[]::new))
                .query(Long.class)
                .list());
    }

    public List<Refused> refusedOf(long userId, long accountId, int most) {
        return jdbc.sql("""
                        select o.id, h.subject, o.trouble from server_order o join message_head h on h.message_id = o.message_id
                        join account a on a.id = o.account_id
                        where a.user_id = ? and a.id = ? and o.trouble is not null order by o.id desc limit ?
                        """)
                .params(userId, accountId, most)
                .query(Refused.class)
                .list();
    }

    /** Tries refused orders again. */
    public void retry(long userId, long accountId) {
        jdbc.sql("""
                        update server_order o set trouble = null from account a
                        where a.id = o.account_id and a.user_id = ? and a.id = ?
                        """).params(userId, accountId).update();
    }

    /** Messages whose move was refused and that are not on their way anywhere else, with the folder of the cabinet that shows where they still lie. */
    public Map<Long, Long> refusedMoves(long userId, long accountId) {
        Map<Long, Long> moves = new HashMap<>();
        jdbc.sql("""
                        select o.message_id, b.folder_id from server_order o join account a on a.id = o.account_id
                        join server_copy c on c.message_id = o.message_id join mailbox b on b.id = c.mailbox_id
                        where a.user_id = ? and a.id = ? and o.trouble is not null and o.kind = 'MOVE'
                            and not exists (select from server_order n
                                where n.message_id = o.message_id and n.kind = 'MOVE' and n.trouble is null)
                        """)
                .params(userId, accountId)
                .query((row, number) -> Map.entry(row.getLong(1), row.getLong(2)))
                .list()
                .forEach(move -> moves.put(move.getKey(), move.getValue()));
        return moves;
    }

    /** Copies that the server has refused to make. */
    public Set<Long> refusedCopies(long userId, long accountId) {
        return Set.copyOf(
                jdbc.sql("""
                        select m.id from server_order o join account a on a.id = o.account_id
                        join message m on m.id = case when o.kind = 'BRING' then o.message_id else o.other_id end
                        where a.user_id = ? and a.id = ? and o.trouble is not null and o.kind in ('COPY', 'FETCH', 'BRING')
                        """).params(userId, accountId).query(Long.class).list());
    }

    /** Copies that no server has made yet, and none can any more once the originals are gone. */
    Set<Long> uncopied(Collection<Long> originals) {
        return Set.copyOf(jdbc.sql("""
                        select m.id from server_order o join message m on m.id = o.other_id
                        where o.message_id = any(?) and o.kind in ('COPY', 'FETCH')
                        """)
                .param(originals.toArray(Long[]::new))
                .query(Long.class)
                .list());
    }

    /** Copies in other accounts for which an account's server has still to give the whole of the originals. */
    public Set<Long> toFetch(long accountId) {
        return Set.copyOf(jdbc.sql("""
                        select m.id from server_order o join message m on m.id = o.other_id
                        where o.account_id = ? and o.kind = 'FETCH'
                        """).param(accountId).query(Long.class).list());
    }

    /** How many orders of an act servers have not carried out yet, and how many they refused. */
    public record OrdersLeft(int waiting, int refused) {}

    public OrdersLeft left(long userId, long batch) {
        return jdbc.sql("""
                        select (count(*) filter (where o.trouble is null))::int as waiting,
                            (count(*) filter (where o.trouble is not null))::int as refused
                        from server_order o join account a on a.id = o.account_id where a.user_id = ? and o.batch_id = ?
                        """).params(userId, batch).query(OrdersLeft.class).single();
    }

    /** Gives refused orders up; what the server has is taken over at the next look. */
    public int giveUp(long userId, long accountId) {
        return jdbc.sql("""
                        delete from server_order o using account a
                        where a.id = o.account_id and a.user_id = ? and a.id = ? and o.trouble is not null
                        """).params(userId, accountId).update();
    }

    /** For accounts whose server can be told nothing. */
    public void dropAll(long accountId) {
        jdbc.sql("delete from server_order where account_id = ?")
                .param(accountId)
                .update();
    }
}
