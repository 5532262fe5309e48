package app.schublade.store;

import app.schublade.core.filing.Change;
import app.schublade.core.message.Address;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Reads messages: a list's page, one message, all of them for a trial run. */
@Repository
public class MessageStore {
    /** A source that unpacks to more than this is cut off. */
    private static final int MAX_SOURCE = 64 * 1024 * 1024;

    static final String COLUMNS = """
            select m.id, m.account_id, m.folder_id, m.received_at, m.unread, m.flagged, m.attachments, m.category_id,
                array(select label_id from message_label where message_id = m.id) as labels,
                h.sender_name, h.sender_address, h.recipients, h.subject, h.snippet, h.alias, h.list_id, h.sent_to\s""";

    private static final String ROW = COLUMNS + "from message m join message_head h on h.message_id = m.id ";

    private final JdbcClient jdbc;

    public MessageStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** What a rule did to a message and was not undone. */
    public record Filed(
            long batch, @Nullable Long rule, String ruleName, List<String> reasons, Change change, Instant at) {}

    /** One page, newest first; cost does not grow with the place in the list (keyset paging). */
    @Transactional(readOnly = true)
    public List<ListRow> page(long userId, ListQuery query) {
        if (query.place() instanceof ListQuery.Found) {
            // A plan that fits the words: how many messages have them differs too much for one plan.
            jdbc.sql("select set_config('plan_cache_mode', 'force_custom_plan', true)")
                    .query()
                    .singleRow();
        }
        ListQuery.Cursor after = query.after();
        JdbcClient.StatementSpec statement = jdbc.sql(
                        ROW + where(query) + " order by m.received_at desc, m.id desc limit :limit")
                .param("user", userId)
                .param("limit", query.limit());
        if (query.account() != null) {
            statement = statement.param("account", query.account());
        }
        if (after != null) {
            statement = statement
                    .param("time", java.sql.Timestamp.from(after.received()))
                    .param("id", after.id());
        }
        return withPlace(statement, query.place()).query(MessageStore::row).list();
    }

    private static String where(ListQuery query) {
        StringBuilder where = new StringBuilder("where m.user_id = :user");
        where.append(condition(query.place()));
        where.append(query.account() == null ? "" : " and m.account_id = :account");
        where.append(query.unread() ? " and m.unread" : "");
        where.append(query.flagged() ? " and m.flagged" : "");
        where.append(query.files() ? " and m.attachments > 0" : "");
        where.append(query.after() == null ? "" : " and (m.received_at, m.id) < (:time, :id)");
        return where.toString();
    }

    private static String condition(ListQuery.Place place) {
        if (place instanceof ListQuery.InFolder) {
            return " and m.folder_id = :folder";
        }
        if (place instanceof ListQuery.WithLabel) {
            return " and m.id in (select message_id from message_label where label_id = :label)";
        }
        if (place instanceof ListQuery.Flagged) {
            return " and m.flagged";
        }
        return " and m.id in (select message_id from message_search where words @@ websearch_to_tsquery('simple', :words))";
    }

    private static JdbcClient.StatementSpec withPlace(JdbcClient.StatementSpec statement, ListQuery.Place place) {
        if (place instanceof ListQuery.InFolder in) {
            return statement.param("folder", in.folder());
        }
        if (place instanceof ListQuery.WithLabel with) {
            return statement.param("label", with.label());
        }
        return place instanceof ListQuery.Found found ? statement.param("words", found.words()) : statement;
    }

    public Optional<ListRow> row(long userId, long id) {
        return jdbc.sql(ROW + "where m.user_id = ? and m.id = ?")
                .params(userId, id)
                .query(MessageStore::row)
                .optional();
    }

    static ListRow row(ResultSet row, int number) throws SQLException {
        return new ListRow(
                row.getLong("id"),
                row.getLong("account_id"),
                row.getLong("folder_id"),
                row.getTimestamp("received_at").toInstant(),
                row.getBoolean("unread"),
                row.getBoolean("flagged"),
                row.getInt("attachments"),
                row.getObject("category_id", Long.class),
                Arrays.asList((Long[]) row.getArray("labels").getArray()),
                new Address(row.getString("sender_name"), row.getString("sender_address")),
                row.getString("recipients"),
                row.getString("subject"),
                row.getString("snippet"),
                row.getString("alias"),
                row.getString("list_id"));
    }

    /** The source as it was fetched. */
    public Optional<byte[]> source(long userId, long id) {
        return jdbc.sql("""
                        select s.gzip from message_source s join message m on m.id = s.message_id
                        where m.user_id = ? and m.id = ?
                        """).params(userId, id).query(byte[].class).optional().map(MessageStore::unpack);
    }

    static byte[] unpack(byte[] gzip) {
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
                        new Change(FilingStore.state(row, "_before"), FilingStore.state(row, "_after")),
                        row.getTimestamp("at").toInstant()))
                .list();
    }
}
