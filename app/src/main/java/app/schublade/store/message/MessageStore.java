package app.schublade.store.message;

import app.schublade.core.filing.Change;
import app.schublade.core.message.Address;
import app.schublade.core.message.Handled;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.sql.Types;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Reads one message: its row, its source, what rules did to it. */
@Repository
public class MessageStore {
    /** A source that unpacks to more than this is cut off. */
    private static final int MAX_SOURCE = 64 * 1024 * 1024;

    static final String COLUMNS = "select m.id, m.account_id, m.received_at, m.attachments, m.conversation_id, "
            + "m.answered, m.answered_at, m.forwarded, m.forwarded_at, "
            + StateColumn.SELECTED + """
            , h.sender_name, h.sender_address, h.recipients, h.subject, h.snippet, h.size, h.alias, h.list_id, h.sent_to,
                least(coalesce(h.sent_at, m.received_at), m.received_at) as written_at\s""";

    private static final String ROW = COLUMNS + "from message m join message_head h on h.message_id = m.id ";

    private final JdbcClient jdbc;

    public MessageStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * What a rule did to a message and was not undone.
     *
     * @param besides what it did that did not change the message, in words
     */
    public record Filed(
            long batch,
            @Nullable Long rule,
            String ruleName,
            List<String> reasons,
            Change change,
            List<String> besides,
            Instant at) {}

    public Optional<ListRow> row(long userId, long id) {
        return jdbc.sql(ROW + "where m.user_id = ? and m.id = ?")
                .params(userId, id)
                .query(MessageStore::row)
                .optional();
    }

    /** Message-IDs that tell the conversation of a message: of the first one that is known of, and of the latest. */
    public List<String> conversationIds(long userId, ListRow of, int most) {
        return jdbc.sql("""
                        with those as (select h.internet_id, h.refs, m.received_at, m.id from message m
                            join message_head h on h.message_id = m.id
                            where m.user_id = :user and (m.id = :id or m.conversation_id = :conversation))
                        select id from (
                            (select coalesce(refs[1], internet_id) as id, 0 as place from those order by received_at, those.id limit 1)
                            union all
                            (select internet_id, row_number() over (order by received_at desc, those.id desc) from those)) one
                        group by id order by min(place) limit :most
                        """)
                .param("user", userId)
                .param("id", of.id())
                .param("conversation", of.conversation(), Types.BIGINT)
                .param("most", most)
                .query(String.class)
                .list();
    }

    /**
     * The other messages of a message's conversation, the latest first; what is still being written is none, nor
     * what waits for the next look.
     */
    public List<ListRow> conversation(long userId, ListRow of, int most) {
        if (of.conversation() == null) {
            return List.of();
        }
        return jdbc.sql(ROW + """
                        where m.user_id = ? and m.conversation_id = ? and m.id <> ? and not m.held
                            and m.folder_id not in (select id from folder where user_id = ? and use = 'DRAFTS')
                        order by m.received_at desc, m.id desc limit ?
                        """)
                .params(userId, of.conversation(), of.id(), userId, most)
                .query(MessageStore::row)
                .list();
    }

    /** The beginnings of the texts of some messages, by their ids. */
    public Map<Long, String> texts(long userId, Collection<Long> messages, int length) {
        Map<Long, String> texts = new HashMap<>();
        jdbc.sql("""
                        select t.message_id, left(t.body, ?) as body from message_text t join message m on m.id = t.message_id
                        where m.user_id = ? and m.id = any(?)
                        """).params(length, userId, messages.toArray(Long[]::new)).query((ResultSet row) -> {
            texts.put(row.getLong("message_id"), row.getString("body"));
        });
        return texts;
    }

    static ListRow row(ResultSet row, int number) throws SQLException {
        return new ListRow(
                row.getLong("id"),
                row.getLong("account_id"),
                row.getTimestamp("received_at").toInstant(),
                row.getTimestamp("written_at").toInstant(),
                StateColumn.read(row),
                row.getInt("attachments"),
                row.getObject("conversation_id", Long.class),
                new Address(row.getString("sender_name"), row.getString("sender_address")),
                row.getString("recipients"),
                row.getString("subject"),
                row.getString("snippet"),
                row.getInt("size"),
                row.getString("alias"),
                row.getString("list_id"),
                new Handled(
                        row.getBoolean("answered"),
                        time(row, "answered_at"),
                        row.getBoolean("forwarded"),
                        time(row, "forwarded_at")));
    }

    private static @Nullable Instant time(ResultSet row, String column) throws SQLException {
        Timestamp time = row.getTimestamp(column);
        return time == null ? null : time.toInstant();
    }

    /**
     * What the sheet says of a message besides.
     *
     * @param trayReason why it was put into its tray as it came; null if it was not, or was moved by hand since
     * @param muted whether its conversation is muted
     * @param draft the id of the answer to it that is being written, or null
     * @param pictures whether its sender's pictures are fetched from outside
     * @param waits whether it comes back from the tickler when its sender writes
     * @param oldestFirst whether its reader wants the others of its conversation in the order in which they came
     */
    public record SheetFacts(
            @Nullable String trayReason,
            boolean muted,
            @Nullable Long draft,
            boolean pictures,
            boolean waits,
            boolean oldestFirst) {}

    public SheetFacts sheetFacts(long userId, long id) {
        return jdbc.sql("""
                        select case when not exists (
                                select from filing_record r where r.message_id = m.id and r.undone_at is null
                                    and r.tray_before is distinct from r.tray_after) then h.tray_reason end as tray_reason,
                            exists (select from muted u
                                where u.user_id = m.user_id and u.conversation_id = m.conversation_id) as muted,
                            (select max(o.id) from outgoing o
                                where o.user_id = m.user_id and o.answers = m.id and o.state in ('DRAFT', 'REFUSED')) as draft,
                            exists (select from pictures_from p
                                where p.user_id = m.user_id and p.address = h.sender_address) as pictures,
                            exists (select from waits_for w
                                where w.message_id = m.id and w.until_on = m.until_on) as waits,
                            exists (select from habits b where b.user_id = m.user_id and b.oldest_first) as oldest_first
                        from message m left join message_head h on h.message_id = m.id
                        where m.user_id = ? and m.id = ?
                        """)
                .params(userId, id)
                .query((row, number) -> new SheetFacts(
                        row.getString("tray_reason"),
                        row.getBoolean("muted"),
                        row.getObject("draft", Long.class),
                        row.getBoolean("pictures"),
                        row.getBoolean("waits"),
                        row.getBoolean("oldest_first")))
                .optional()
                .orElse(new SheetFacts(null, false, null, false, false, false));
    }

    /** The source as it was fetched. */
    public Optional<byte[]> source(long userId, long id) {
        return jdbc.sql("""
                        select s.gzip from message_source s join message m on m.id = s.message_id
                        where m.user_id = ? and m.id = ?
                        """).params(userId, id).query(byte[].class).optional().map(MessageStore::unpack);
    }

    /**
     * Where the rest is of a message of which only the beginning is here.
     *
     * @param size of the whole, in bytes
     * @param here how much of it is stored
     * @param mailbox the name of its folder on the server; null if it is not known where it lies, or its server gives no more
     */
    public record MissingPart(
            long accountId,
            int size,
            long here,
            @Nullable String mailbox,
            @Nullable Long uidValidity,
            long uid) {}

    /** Empty if all of the message is here. */
    public Optional<MissingPart> rest(long userId, long id) {
        return jdbc.sql("""
                        select m.account_id, h.size, s.gzip, case when a.protocol = 'IMAP' then b.server_name end as mailbox,
                            b.uid_validity, coalesce(c.uid, 0) as uid
                        from message m join message_head h on h.message_id = m.id join message_source s on s.message_id = m.id
                        join account a on a.id = m.account_id
                        left join server_copy c on c.message_id = m.id left join mailbox b on b.id = c.mailbox_id
                        where m.user_id = ? and m.id = ? and not s.whole
                        """)
                .params(userId, id)
                .query((row, number) -> new MissingPart(
                        row.getLong("account_id"),
                        row.getInt("size"),
                        unpack(row.getBytes("gzip")).length,
                        row.getString("mailbox"),
                        row.getObject("uid_validity", Long.class),
                        row.getLong("uid")))
                .optional();
    }

    public static byte[] unpack(byte[] gzip) {
        try (InputStream in = new GZIPInputStream(new ByteArrayInputStream(gzip))) {
            return in.readNBytes(MAX_SOURCE);
        } catch (IOException e) {
            throw new UncheckedIOException("A stored message is damaged.", e);
        }
    }

    /** What rules did to a message, the latest first. */
    public List<Filed> filed(long userId, long id) {
        return jdbc.sql("""
                        select r.*, b.at
                        from filing_record r join batch b on b.id = r.batch_id
                        where b.user_id = ? and r.message_id = ? and r.rule_name is not null and r.undone_at is null
                        order by r.id desc
                        """)
                .params(userId, id)
                .query((row, number) -> new Filed(
                        row.getLong("batch_id"),
                        row.getObject("rule_id", Long.class),
                        row.getString("rule_name"),
                        Arrays.asList((String[]) row.getArray("reasons").getArray()),
                        new Change(StateColumn.readBefore(row), StateColumn.readAfter(row)),
                        Arrays.asList((String[]) row.getArray("besides").getArray()),
                        row.getTimestamp("at").toInstant()))
                .list();
    }
}
