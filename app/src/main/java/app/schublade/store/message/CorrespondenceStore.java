package app.schublade.store.message;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What there is of a user's mail with one person: to be seen at a glance, so only the latest of everything. */
@Repository
public class CorrespondenceStore {
    private static final int LATEST = 5;

    /** The messages from an address, and where they lie. */
    private static final String FROM = """
            from message m join message_head h on h.message_id = m.id join folder f on f.id = m.folder_id
            where m.user_id = :user and h.sender_address = :address and coalesce(f.use, '') not in ('DRAFTS', 'TRASH', 'JUNK')
            """;

    private static final String TO = """
            from message m join message_head h on h.message_id = m.id join folder f on f.id = m.folder_id
            where m.user_id = :user and f.use = 'SENT' and h.addressed_to && array[cast(:address as text)]
            """;

    private final JdbcClient jdbc;

    CorrespondenceStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * The mail with somebody.
     *
     * @param name that the address was last written from with; empty if it had none
     * @param since when the first message from there came; null if none did
     * @param last the latest messages from there and to there
     * @param files the latest that came from there
     * @param folders where most of what came from there lies
     * @param labels most of it has
     * @param rules that did something with it
     */
    public record Correspondence(
            String name,
            int received,
            int sent,
            @Nullable Instant since,
            List<LetterInShort> last,
            List<FileFrom> files,
            List<Share> folders,
            List<Share> labels,
            List<Share> rules) {}

    /** A message. */
    public record LetterInShort(long id, String subject, Instant at, boolean mine) {}

    /** A file, and the message that it came with. */
    public record FileFrom(long message, String name, Instant at) {}

    /** How many messages a folder, a label or a rule has of them. */
    public record Share(long id, int messages) {}

    private record Sums(String name, int received, @Nullable Instant since) {}

    /** @param address in lower case */
    @Transactional(readOnly = true)
    public Correspondence with(long userId, String address) {
        Sums sums = asked(userId, address, """
                        select coalesce((array_agg(h.sender_name order by m.received_at desc))[1], '') as name,
                            count(*)::int as received, min(m.received_at) as since
                        """ + FROM)
                .query((row, number) -> new Sums(
                        row.getString("name"),
                        row.getInt("received"),
                        row.getTimestamp("since") == null
                                ? null
                                : row.getTimestamp("since").toInstant()))
                .single();
        int sent = asked(userId, address, "select count(*)::int " + TO)
                .query(Integer.class)
                .single();
        List<LetterInShort> last = asked(userId, address, """
                        (select m.id, h.subject, m.received_at as at, false as mine %s order by m.received_at desc limit :most)
                        union all (select m.id, h.subject, m.received_at, true %s order by m.received_at desc limit :most)
                        order by at desc limit :most
                        """.formatted(FROM, TO))
                .query((row, number) -> new LetterInShort(
                        row.getLong("id"),
                        row.getString("subject"),
                        row.getTimestamp("at").toInstant(),
                        row.getBoolean("mine")))
                .list();
        List<FileFrom> files = asked(userId, address, """
                        select l.id, a ->> 'name' as name, l.received_at from (select m.id, m.received_at, h.attached %s
                            and h.attached <> '[]' order by m.received_at desc limit :most) l,
                            jsonb_array_elements(l.attached) a
                        order by l.received_at desc limit :most
                        """.formatted(FROM))
                .query((row, number) -> new FileFrom(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getTimestamp("received_at").toInstant()))
                .list();
        return new Correspondence(
                sums.name(),
                sums.received(),
                sent,
                sums.since(),
                last,
                files,
                shares(userId, address, "select m.folder_id as id, count(*)::int as messages %s group by 1"),
                shares(
                        userId,
                        address,
                        "select l.label_id as id, count(*)::int as messages from message_label l where l.message_id in (select m.id %s) group by 1"),
                shares(userId, address, """
                        select r.rule_id as id, count(distinct r.message_id)::int as messages from filing_record r
                        where r.rule_id is not null and r.undone_at is null and r.message_id in (select m.id %s) group by 1
                        """));
    }

    private List<Share> shares(long userId, String address, String sql) {
        return asked(userId, address, sql.formatted(FROM) + " order by 2 desc, 1 limit :most")
                .query(Share.class)
                .list();
    }

    private JdbcClient.StatementSpec asked(long userId, String address, String sql) {
        return jdbc.sql(sql).param("user", userId).param("address", address).param("most", LATEST);
    }
}
