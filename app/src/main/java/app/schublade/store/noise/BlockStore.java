package app.schublade.store.noise;

import app.schublade.core.filing.BuiltIn;
import app.schublade.core.message.BlockedSenders;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Whose mail goes to the trash as it arrives. */
@Repository
public class BlockStore {
    /** A message {@code m} with its head {@code h} from an address or a domain, or one below it: {@code :value}. */
    private static final String FROM = """
            (h.sender_address = :value or position('@' in :value) = 0 and (h.sender_address like '%@' || :pattern
                or h.sender_address like '%@%.' || :pattern))
            """;

    private final JdbcClient jdbc;

    BlockStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** @param messages how many of the last thirty days went to the trash */
    public record BlockedSender(String value, Instant at, int messages) {}

    public BlockedSenders of(long userId) {
        return new BlockedSenders(new HashSet<>(jdbc.sql("select value from blocked where user_id = ?")
                .param(userId)
                .query(String.class)
                .list()));
    }

    /** With what was kept away, the last one first. */
    public List<BlockedSender> list(long userId) {
        return jdbc.sql("""
                        select b.value, b.at, (select count(*) from filing_record r join batch t on t.id = r.batch_id
                            where t.user_id = b.user_id and t.at > now() - interval '30 days' and r.undone_at is null
                                and r.rule_name = :name and r.reasons[1] = 'from ' || b.value || ', which you blocked') as messages
                        from blocked b where b.user_id = :user order by b.at desc, b.value
                        """)
                .param("name", BuiltIn.BLOCKED_SENDER.shown())
                .param("user", userId)
                .query((row, number) -> new BlockedSender(
                        row.getString("value"), row.getTimestamp("at").toInstant(), row.getInt("messages")))
                .list();
    }

    /** @param value see {@link app.schublade.core.message.People#value} */
    public void block(long userId, String value) {
        jdbc.sql("insert into blocked (user_id, value) values (?, ?) on conflict do nothing")
                .params(userId, value)
                .update();
    }

    public void unblock(long userId, String value) {
        jdbc.sql("delete from blocked where user_id = ? and value = ?")
                .params(userId, value)
                .update();
    }

    /** Messages in the Inbox that come from there. */
    public List<Long> inInbox(long userId, String value) {
        return jdbc.sql("""
                        select m.id from message m join folder f on f.id = m.folder_id and f.use = 'INBOX'
                            join message_head h on h.message_id = m.id
                        where m.user_id = :user and
                        """ + FROM + " order by m.id")
                .param("user", userId)
                .param("value", value)
                .param("pattern", value.replaceAll("[\\\\%_]", "\\\\$0"))
                .query(Long.class)
                .list();
    }
}
