package app.schublade.store.message;

import app.schublade.core.place.SpecialUse;
import app.schublade.core.query.Filter;
import app.schublade.core.query.Query;
import app.schublade.store.account.Account;
import app.schublade.store.base.Sql;
import app.schublade.store.base.Zones;
import app.schublade.store.place.Places;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Reads lists: a page of one, its figures, all that are in it. */
@Repository
public class ListStore {
    private static final String OUT_OF_SIGHT = SpecialUse.JUNK.name() + "," + SpecialUse.TRASH.name();

    /** A list of fewer messages is sorted in no time. */
    private static final int LONG = 10_000;

    private final JdbcClient jdbc;
    private final Zones zones;

    public ListStore(JdbcClient jdbc, Zones zones) {
        this.jdbc = jdbc;
        this.zones = zones;
    }

    /**
     * A row of a list.
     *
     * @param messages how many messages it stands for: more than one if it is a conversation
     * @param unread whether one of those that are in the list is unread
     */
    public record ListLine(ListRow row, int messages, boolean unread, List<String> keys) {
        public ListQuery.Cursor cursor() {
            return new ListQuery.Cursor(keys, row.received(), row.id());
        }
    }

    /**
     * In which order things stand that messages are grouped by: their ids from top to bottom.
     *
     * @param categories from the first rank to the last
     */
    public record Ranks(
            List<Long> labels, List<Long> categories, List<Long> trays, List<Long> flags, List<Long> accounts) {
        /** For lists that are in order of time alone. */
        public static final Ranks NONE = new Ranks(List.of(), List.of(), List.of(), List.of(), List.of());

        public static Ranks of(Places places, List<Account> accounts) {
            return new Ranks(
                    places.labelOrder(),
                    places.categories().stream().map(Places.Category::id).toList(),
                    places.trays().stream().map(Places.Tray::id).toList(),
                    places.flags().stream().map(Places.OwnFlag::id).toList(),
                    accounts.stream().map(Account::id).toList());
        }
    }

    /** One page; its cost does not grow with its place in the list, if that is told by what stands before it. */
    @Transactional(readOnly = true)
    public List<ListLine> page(long userId, Ranks ranks, ListQuery query) {
        List<ListGroups.ListGroup> groups = ListGroups.of(query, ranks);
        boolean whole = ListGroups.areFarApart(query) && isShort(userId, query);
        return page(userId, ranks, query, whole ? List.of() : groups);
    }

    /** @param groups those of the list, to be read one after the other; none to read it as a whole */
    List<ListLine> page(long userId, Ranks ranks, ListQuery query, List<ListGroups.ListGroup> groups) {
        ListOrder order = new ListOrder(query);
        ListQuery.Cursor after = order.fits(query.after()) ? query.after() : null;
        QuerySql.Selection where = where(userId, query.messages());
        if (groups.isEmpty()) {
            return read(userId, ranks, query, order, where, new ListPart(after, null, query.limit()));
        }
        List<ListLine> page = new ArrayList<>();
        for (ListGroups.ListGroup group : groups) {
            int place = after == null ? 1 : group.compareTo(after.keys().get(0));
            if (place >= 0 && page.size() < query.limit()) {
                ListQuery.Cursor within = place == 0 ? after : null;
                ListPart part = new ListPart(within, group, query.limit() - page.size());
                page.addAll(read(userId, ranks, query, order, where, part));
            }
        }
        return page;
    }

    private boolean isShort(long userId, ListQuery query) {
        QuerySql.Selection where = where(userId, query.messages());
        return Sql.of("select count(*) from (select")
                        .plus(from(where, false))
                        .plus(" limit :most) first")
                        .on(jdbc)
                        .param("user", userId)
                        .param("most", LONG)
                        .query(Integer.class)
                        .single()
                < LONG;
    }

    /**
     * A part of a page.
     *
     * @param after behind what it begins, or null for the beginning
     * @param group the one that it is of, or null if the list is read as a whole
     */
    private record ListPart(ListQuery.@Nullable Cursor after, ListGroups.@Nullable ListGroup group, int limit) {}

    private List<ListLine> read(
            long userId, Ranks ranks, ListQuery query, ListOrder order, QuerySql.Selection where, ListPart part) {
        ListQuery.Cursor after = part.after();
        ListGroups.ListGroup group = part.group();
        boolean conversations = query.arrangement().conversations();
        ZoneId zone = zones.of(userId);
        Sql chosen = Sql.of("select m.*" + order.columns())
                .plus(from(where, order.needsHead()))
                .plus(group == null ? Sql.of("") : Sql.of(" and ").plus(group.condition()))
                .plus(after == null ? "" : " and " + (group == null ? order.after() : order.afterInGroup()))
                .plus(conversations ? newestOfConversation(userId, query) : Sql.of(""))
                .plus(" order by " + (group == null ? order.orderOfMessages() : order.orderInGroup())
                        + " limit :limit offset :skip");
        Sql sql = Sql.of(MessageStore.COLUMNS
                        + order.names().stream().map(name -> ", m." + name).collect(Collectors.joining()))
                .plus(conversations ? conversation(userId, query) : Sql.of(""))
                .plus(" from (")
                .plus(chosen)
                .plus(") m join message_head h on h.message_id = m.id order by " + order.orderBy("m"));
        JdbcClient.StatementSpec statement = sql.on(jdbc)
                .param("user", userId)
                .param("limit", part.limit())
                .param("skip", query.skip())
                .param("zone", zone.getId())
                .param("labels", ranks.labels().toArray(Long[]::new))
                .param("categories", ranks.categories().toArray(Long[]::new))
                .param("trays", ranks.trays().toArray(Long[]::new))
                .param("flags", ranks.flags().toArray(Long[]::new))
                .param("accounts", ranks.accounts().toArray(Long[]::new));
        if (after != null) {
            statement =
                    statement.param("time", Timestamp.from(after.received())).param("id", after.id());
            for (int i = 0; i < after.keys().size(); i++) {
                statement = statement.param("key" + i, after.keys().get(i));
            }
        }
        return statement.query((row, number) -> line(row, order, conversations)).list();
    }

    /** As a condition over messages m; if they must have words, the plan will fit those words. */
    private QuerySql.Selection where(long userId, Query query) {
        QuerySql.Selection where = QuerySql.where(jdbc, userId, query, zones.of(userId), "m", "h");
        if (where.asksWords()) {
            QuerySql.Selection.forThisPlan(jdbc);
        }
        return where;
    }

    private static ListLine line(ResultSet row, ListOrder order, boolean conversations) throws SQLException {
        List<String> keys = new ArrayList<>();
        for (String name : order.names()) {
            keys.add(row.getString(name));
        }
        ListRow message = MessageStore.row(row, 0);
        return new ListLine(
                message,
                conversations ? Math.max(1, row.getInt("messages")) : 1,
                conversations ? row.getBoolean("any_unread") : message.unread(),
                keys);
    }

    /**
     * How many messages are in a list.
     *
     * @param narrowed how many would be left with each filter, besides those that it has
     */
    public record ListFigures(int size, Map<Filter, Integer> narrowed) {}

    @Transactional(readOnly = true)
    public ListFigures figures(long userId, ListQuery query) {
        Sql figures = Sql.of("select count(*) as size");
        for (Filter filter : Filter.values()) {
            figures = figures.plus(", count(*) filter (where ")
                    .plus(QuerySql.where(jdbc, userId, filter.query(), zones.of(userId), "m", "h", filter.name())
                            .condition())
                    .plus(") as " + filter.name());
        }
        return figures.plus(from(where(userId, query.messages()), true))
                .on(jdbc)
                .param("user", userId)
                .query((row, number) -> {
                    Map<Filter, Integer> narrowed = new EnumMap<>(Filter.class);
                    for (Filter filter : Filter.values()) {
                        narrowed.put(filter, row.getInt(filter.name()));
                    }
                    return new ListFigures(row.getInt("size"), narrowed);
                })
                .single();
    }

    /** All that are meant, the latest first. */
    @Transactional(readOnly = true)
    public List<Long> all(long userId, Query query) {
        return Sql.of("select m.id")
                .plus(from(where(userId, query), false))
                .plus(" order by m.id desc")
                .on(jdbc)
                .param("user", userId)
                .query(Long.class)
                .list();
    }

    /** Those of these messages that lie in other folders than these. */
    public List<Long> outside(long userId, List<Long> messages, Set<SpecialUse> folders) {
        return jdbc.sql("""
                        select m.id from message m join folder f on f.id = m.folder_id
                        where m.user_id = ? and m.id = any(?) and coalesce(f.use, '') <> all(?) order by m.id desc
                        """)
                .params(
                        userId,
                        messages.toArray(Long[]::new),
                        folders.stream().map(Enum::name).toArray(String[]::new))
                .query(Long.class)
                .list();
    }

    /** Those that are meant and belong to the conversations of these messages; the messages themselves among them. */
    @Transactional(readOnly = true)
    public List<Long> withConversations(long userId, Query query, List<Long> messages) {
        return Sql.of("select m.id")
                .plus(from(where(userId, query), false))
                .plus("""
                         and (m.id = any(:messages) or m.conversation_id in
                            (select conversation_id from message where id = any(:messages) and user_id = :user))
                        """)
                .on(jdbc)
                .param("user", userId)
                .param("messages", messages.toArray(Long[]::new))
                .query(Long.class)
                .list();
    }

    /** All messages of the conversation of a message, wherever they lie, the latest first; none that waits for the next look. */
    @Transactional(readOnly = true)
    public List<ListLine> conversationOf(long userId, long message, int most) {
        return jdbc.sql(
                        "select conversation_id from message where user_id = ? and id = ? and conversation_id is not null")
                .params(userId, message)
                .query(Long.class)
                .optional()
                .map(id -> conversation(userId, id, most))
                .orElse(List.of());
    }

    private List<ListLine> conversation(long userId, long conversation, int most) {
        return jdbc
                .sql(MessageStore.COLUMNS + """
                         from message m join message_head h on h.message_id = m.id
                        where m.user_id = ? and m.conversation_id = ? and not m.held order by m.received_at desc, m.id desc limit ?
                        """)
                .params(userId, conversation, most)
                .query((row, number) -> MessageStore.row(row, 0))
                .list()
                .stream()
                .map(row -> new ListLine(row, 1, row.unread(), List.of()))
                .toList();
    }

    private static Sql from(QuerySql.Selection where, boolean head) {
        return Sql.of(" from message m"
                        + (head || where.asksHead() ? " join message_head h on h.message_id = m.id" : "")
                        + " where m.user_id = :user and ")
                .plus(where.condition());
    }

    /** A conversation stands in the list where its newest message does that is in the list. */
    private Sql newestOfConversation(long userId, ListQuery query) {
        return Sql.of(" and not exists (")
                .plus(ofConversation(userId, query.messages(), "n"))
                .plus(" and (n.received_at, n.id) > (m.received_at, m.id))");
    }

    private Sql conversation(long userId, ListQuery query) {
        return Sql.of("""
                , (select count(*) from message x join folder f on f.id = x.folder_id
                    where x.conversation_id = m.conversation_id and x.user_id = :user and not x.held
                        and coalesce(f.use, '') <> all(string_to_array('%s', ','))) as messages,
                (m.unread or exists (""".formatted(OUT_OF_SIGHT))
                .plus(ofConversation(userId, query.place(), "o"))
                .plus(" and o.unread)) as any_unread");
    }

    /** The messages of the conversation of m that are meant. */
    private Sql ofConversation(long userId, Query query, String alias) {
        QuerySql.Selection where = QuerySql.where(jdbc, userId, query, zones.of(userId), alias, alias + "h");
        String head = where.asksHead() ? " join message_head %1$sh on %1$sh.message_id = %1$s.id" : "";
        return Sql.of(("select from message %1$s" + head
                                + " where %1$s.user_id = :user and %1$s.conversation_id = m.conversation_id and ")
                        .formatted(alias))
                .plus(where.condition());
    }
}
