package app.schublade.store.intake;

import app.schublade.core.format.MimeReader;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.filing.MessageWriter;
import app.schublade.store.message.MessageStore;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Messages that were kept as they came, because they could not be read, or not be stored as they were read. */
@Repository
public class KeptStore {
    private static final int MOST_SHOWN = 50;

    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final IntakeStore intake;
    private final MessageWriter writer;

    public KeptStore(JdbcClient jdbc, JdbcTemplate template, IntakeStore intake, MessageWriter writer) {
        this.writer = writer;
        this.jdbc = jdbc;
        this.template = template;
        this.intake = intake;
    }

    /** A message that was kept as it came. */
    public record Kept(long id, Instant received, String reason) {}

    /** Stores a message as it came; how it was read so far is of no use. */
    @Transactional
    public void keep(Account account, Mailbox mailbox, Incoming asItCame, String reason) {
        intake.store(account, mailbox, List.of(asItCame));
        jdbc.sql("""
                        insert into kept_as_it_came (message_id, reason, reader)
                        select message_id, ?, ? from server_copy where mailbox_id = ? and uid = ?
                        on conflict (message_id) do update set reason = excluded.reason, reader = excluded.reader
                        """)
                .params(reason, MimeReader.VERSION, mailbox.id(), asItCame.uid())
                .update();
    }

    /** Why a message could not be read; empty if it could. */
    public Optional<String> reason(long messageId) {
        return jdbc.sql("select reason from kept_as_it_came where message_id = ?")
                .param(messageId)
                .query(String.class)
                .optional();
    }

    public List<Kept> of(long userId, long accountId) {
        return jdbc.sql("""
                        select k.message_id as id, m.received_at, k.reason from kept_as_it_came k join message m on m.id = k.message_id
                        where m.user_id = ? and m.account_id = ? order by m.id desc limit ?
                        """)
                .params(userId, accountId, MOST_SHOWN)
                .query((row, number) -> new Kept(
                        row.getLong("id"), row.getTimestamp("received_at").toInstant(), row.getString("reason")))
                .list();
    }

    /** Those of an account that an older version of the reader could not read. */
    public List<Long> toRead(long accountId, int most) {
        return jdbc.sql("""
                        select k.message_id from kept_as_it_came k join message m on m.id = k.message_id
                        where m.account_id = ? and k.reader < ? order by k.message_id limit ?
                        """)
                .params(accountId, MimeReader.VERSION, most)
                .query(Long.class)
                .list();
    }

    /**
     * A message as it came.
     *
     * @param size of the whole, in bytes
     * @param source of it, or of its beginning
     */
    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    public record Source(int size, byte[] source) {}

    public Optional<Source> source(long messageId) {
        return jdbc.sql("""
                        select h.size, s.gzip from message_source s join message_head h on h.message_id = s.message_id
                        where s.message_id = ?
                        """)
                .param(messageId)
                .query((row, number) -> new Source(row.getInt("size"), MessageStore.unpack(row.getBytes("gzip"))))
                .optional();
    }

    /** A message is readable now: what is shown and found of it takes the place of what stood there. It stays where it lies. */
    @Transactional
    public void read(Account account, long messageId, Incoming read) {
        for (String table : List.of("message_head", "message_text", "to_index", "kept_as_it_came")) {
            jdbc.sql("delete from " + table + " where message_id = ?")
                    .param(messageId)
                    .update();
        }
        NewRows.content(account, messageId, read).forEach(rows -> rows.send(template));
        writer.attachments(messageId, read.mail().attachments().size());
    }

    /** It still cannot be read. */
    public void stillUnread(long messageId, String reason) {
        jdbc.sql("update kept_as_it_came set reason = ?, reader = ? where message_id = ?")
                .params(reason, MimeReader.VERSION, messageId)
                .update();
    }
}
