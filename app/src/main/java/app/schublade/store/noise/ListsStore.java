package app.schublade.store.noise;

import app.schublade.core.message.Address;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Mailing lists: how much each sends and how much of it is read, and which of them the user left. */
@Repository
public class ListsStore {
    private static final Duration LOOKED_AT = Duration.ofDays(90);
    /** After that a list that was left should have stopped. */
    private static final Duration PATIENCE = Duration.ofDays(10);

    private static final int MOST = 200;

    /** By what a list is known: its List-Id (RFC 2919), else its sender. */
    private static final String NAME = "coalesce(h.list_id, h.sender_address)";

    private final JdbcClient jdbc;
    private final Clock clock;

    ListsStore(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * A mailing list.
     *
     * @param name its identifier, or the address of its sender
     * @param sender of its last message
     * @param oneSender whether all of it comes from that sender, as newsletters do
     * @param last its last message
     * @param messages of the last three months
     * @param read how many of those were read
     * @param left when and how the user left it, or null
     */
    public record MailingList(
            String name,
            Address sender,
            boolean oneSender,
            long last,
            Instant lastAt,
            int messages,
            int read,
            @Nullable LeftList left) {
        /** Whether it writes on although it was left some time ago. */
        public boolean isPersistent() {
            return left != null && lastAt.isAfter(left.at().plus(PATIENCE));
        }

        /** How many of a hundred of its messages were read. */
        public int share() {
            return Math.round(100f * read / Math.max(1, messages));
        }
    }

    /** @param told how it was asked for, and what came of it */
    public record LeftList(Instant at, String told) {}

    /** Those that send most first. */
    public List<MailingList> of(long userId) {
        return jdbc.sql("select l.*, h.sender_name, h.sender_address, left_list.at, left_list.told from (select " + NAME
                        + """
                         as name, count(*)::int as messages, min(h.sender_address) = max(h.sender_address) as one_sender,
                                count(*) filter (where not m.unread)::int as read,
                                max(m.received_at) as last_at, (array_agg(m.id order by m.received_at desc, m.id desc))[1] as last
                            from message m join message_head h on h.message_id = m.id join folder f on f.id = m.folder_id
                            where m.user_id = :user and m.received_at > :since and coalesce(f.use, '') not in ('SENT', 'DRAFTS', 'JUNK')
                                and (h.list_id is not null or 'LIST' = any(h.traits)) group by 1) l
                            join message_head h on h.message_id = l.last
                            left join left_list on left_list.user_id = :user and left_list.list = l.name
                        order by l.messages desc, l.name limit :most
                        """)
                .param("user", userId)
                .param("since", Timestamp.from(clock.instant().minus(LOOKED_AT)))
                .param("most", MOST)
                .query((row, number) -> new MailingList(
                        row.getString("name"),
                        new Address(row.getString("sender_name"), row.getString("sender_address")),
                        row.getBoolean("one_sender"),
                        row.getLong("last"),
                        row.getTimestamp("last_at").toInstant(),
                        row.getInt("messages"),
                        row.getInt("read"),
                        row.getTimestamp("at") == null
                                ? null
                                : new LeftList(row.getTimestamp("at").toInstant(), row.getString("told"))))
                .list();
    }

    /** How many lists write on although they were left some time ago. */
    public int persistent(long userId) {
        return jdbc.sql("""
                        select count(*)::int from left_list l where l.user_id = :user and exists (
                            select from message m join message_head h on h.message_id = m.id join folder f on f.id = m.folder_id
                            where m.user_id = l.user_id and coalesce(f.use, '') not in ('JUNK', 'TRASH')
                                and (h.list_id = l.list or h.list_id is null and h.sender_address = l.list)
                                and m.received_at > l.at + make_interval(days => :days))
                        """)
                .param("user", userId)
                .param("days", (int) PATIENCE.toDays())
                .query(Integer.class)
                .single();
    }

    /** By what the list of a message is known. */
    public Optional<String> name(long userId, long message) {
        return jdbc.sql("select " + NAME + " from message m join message_head h on h.message_id = m.id"
                        + " where m.user_id = ? and m.id = ?")
                .params(userId, message)
                .query(String.class)
                .optional();
    }

    /** The identifiers of the lists that are called so, whatever domain they are of. */
    public List<String> called(long userId, String name) {
        return jdbc.sql("""
                        select distinct h.list_id from message_head h join message m on m.id = h.message_id
                        where m.user_id = :user and (h.list_id = lower(:name) or split_part(h.list_id, '.', 1) = lower(:name))
                        order by 1 limit :most
                        """)
                .param("user", userId)
                .param("name", name)
                .param("most", MOST)
                .query(String.class)
                .list();
    }

    public void left(long userId, String list, String told) {
        jdbc.sql("""
                        insert into left_list (user_id, list, at, told) values (:user, :list, :at, :told)
                        on conflict (user_id, list) do update set at = :at, told = :told
                        """)
                .param("user", userId)
                .param("list", list)
                .param("at", Timestamp.from(clock.instant()))
                .param("told", told)
                .update();
    }
}
