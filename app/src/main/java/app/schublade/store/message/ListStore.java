package app.schublade.store.message;

import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.base.Zones;
import app.schublade.store.message.ListQuery.Filter;
import app.schublade.store.place.Places;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Reads lists: a page of one, its figures, all that are in it. */
@Repository
public class ListStore {
    private static final String OUT_OF_SIGHT = SpecialUse.JUNK.name() + "," + SpecialUse.TRASH.name();

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
    public record Ranks(List<Long> labels, List<Long> categories, List<Long> trays, List<Long> accounts) {
        /** For lists that are in order of time alone. */
        public static final Ranks NONE = new Ranks(List.of(), List.of(), List.of(), List.of());

        public static Ranks of(Places places, List<Account> accounts) {
            return new Ranks(
                    places.labelOrder(),
                    places.categories().stream().map(Places.Category::id).toList(),
                    places.trays().stream().map(Places.Tray::id).toList(),
                    accounts.stream().map(Account::id).toList());
        }
    }

    /** One page; its cost does not grow with its place in the list. */
    @Transactional(readOnly = true)
    public List<ListLine> page(long userId, Ranks ranks, ListQuery query) {
        fitPlan(query);
        ListOrder order = new ListOrder(query);
        boolean continued = order.fits(query.after());
        String chosen = "select m.*" + order.columns() + from(query, order.needsHead()) + where(query, "m", "h")
                + (continued ? " and " + order.after() : "")
                + (query.arrangement().conversations() ? newestOfConversation(query) : "")
                + " order by " + order.orderOfMessages() + " limit :limit";
        String sql = MessageStore.COLUMNS
                + order.names().stream().map(name -> ", m." + name).collect(Collectors.joining())
                + (query.arrangement().conversations() ? conversation(query) : "")
                + " from (" + chosen + ") m join message_head h on h.message_id = m.id order by " + order.orderBy("m");
        JdbcClient.StatementSpec statement = bind(jdbc.sql(sql), userId, query)
                .param("limit", query.limit())
                .param("zone", zones.of(userId).getId())
                .param("labels", ranks.labels().toArray(Long[]::new))
                .param("categories", ranks.categories().toArray(Long[]::new))
                .param("trays", ranks.trays().toArray(Long[]::new))
                .param("accounts", ranks.accounts().toArray(Long[]::new));
        ListQuery.Cursor after = query.after();
        if (continued && after != null) {
            statement =
                    statement.param("time", Timestamp.from(after.received())).param("id", after.id());
            for (int i = 0; i < after.keys().size(); i++) {
                statement = statement.param("key" + i, after.keys().get(i));
            }
        }
        return statement
                .query((row, number) -> line(row, order, query.arrangement().conversations()))
                .list();
    }

    /** A plan that fits the words: how many messages have them differs too much for one plan. */
    private void fitPlan(ListQuery query) {
        if (query.place() instanceof ListQuery.Found) {
            jdbc.sql("select set_config('plan_cache_mode', 'force_custom_plan', true)")
                    .query()
                    .singleRow();
        }
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
        fitPlan(query);
        String sql = "select count(*) as size"
                + Arrays.stream(Filter.values())
                        .map(filter ->
                                ", count(*) filter (where " + condition(filter, "m", "h") + ") as " + filter.name())
                        .collect(Collectors.joining())
                + from(query, true) + where(query, "m", "h");
        return bind(jdbc.sql(sql), userId, query)
                .query((row, number) -> {
                    Map<Filter, Integer> narrowed = new EnumMap<>(Filter.class);
                    for (Filter filter : Filter.values()) {
                        narrowed.put(filter, row.getInt(filter.name()));
                    }
                    return new ListFigures(row.getInt("size"), narrowed);
                })
                .single();
    }

    /** All that are in the list, the latest first. */
    @Transactional(readOnly = true)
    public List<Long> all(long userId, ListQuery query) {
        fitPlan(query);
        return bind(
                        jdbc.sql("select m.id" + from(query, false) + where(query, "m", "h") + " order by m.id desc"),
                        userId,
                        query)
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

    /** Those of a list that belong to the conversations of these messages; the messages themselves among them. */
    @Transactional(readOnly = true)
    public List<Long> withConversations(long userId, ListQuery query, List<Long> messages) {
        return bind(jdbc.sql("select m.id" + from(query, false) + where(query, "m", "h") + """
                                 and (m.id = any(:messages) or m.conversation_id in
                                    (select conversation_id from message where id = any(:messages) and user_id = :user))
                                """), userId, query)
                .param("messages", messages.toArray(Long[]::new))
                .query(Long.class)
                .list();
    }

    /** All messages of the conversation of a message, wherever they lie; the latest first. */
    @Transactional(readOnly = true)
    public List<ListLine> conversationOf(long userId, long message, int most) {
        return jdbc.sql(
                        "select conversation_id from message where user_id = ? and id = ? and conversation_id is not null")
                .params(userId, message)
                .query(Long.class)
                .optional()
                .map(id -> page(userId, Ranks.NONE, ListQuery.newest(new ListQuery.Conversation(id), most)))
                .orElse(List.of());
    }

    private static boolean asksHead(ListQuery query) {
        return query.filters().contains(Filter.TO_ME) || query.filters().contains(Filter.KEY_PEOPLE);
    }

    private static String from(ListQuery query, boolean head) {
        return " from message m" + (head || asksHead(query) ? " join message_head h on h.message_id = m.id" : "");
    }

    /** @param head the alias of the message's head, which some filters ask */
    private static String where(ListQuery query, String alias, String head) {
        StringBuilder where = new StringBuilder(" where " + alias + ".user_id = :user");
        where.append(" and ").append(condition(query.place(), alias));
        where.append(query.account() == null ? "" : " and " + alias + ".account_id = :account");
        query.filters().stream()
                .sorted()
                .forEach(filter -> where.append(" and ").append(condition(filter, alias, head)));
        return where.toString();
    }

    /** A conversation stands in the list where its newest message does that is in the list. */
    private static String newestOfConversation(ListQuery query) {
        return " and not exists (select from message n"
                + (asksHead(query) ? " join message_head nh on nh.message_id = n.id" : "")
                + where(query, "n", "nh")
                + " and n.conversation_id = m.conversation_id and (n.received_at, n.id) > (m.received_at, m.id))";
    }

    private static String conversation(ListQuery query) {
        return """
                , (select count(*) from message x join folder f on f.id = x.folder_id
                    where x.conversation_id = m.conversation_id and x.user_id = :user
                        and coalesce(f.use, '') <> all(string_to_array('%s', ','))) as messages,
                (m.unread or exists (select from message n%s and n.conversation_id = m.conversation_id and n.unread))
                    as any_unread""".formatted(OUT_OF_SIGHT, where(withoutFilters(query), "n", "nh"));
    }

    private static ListQuery withoutFilters(ListQuery query) {
        return new ListQuery(query.place(), query.account(), Set.of(), query.arrangement(), null, 1);
    }

    private static String condition(Filter filter, String alias, String head) {
        return switch (filter) {
            case UNREAD -> alias + ".unread";
            case FLAGGED -> alias + ".flagged";
            case FILES -> alias + ".attachments > 0";
            case TO_ME -> head + ".traits @> array['TO_ME']";
            case KEY_PEOPLE -> """
                    exists (select from key_person k where k.user_id = :user
                        and k.value in (%1$s.sender_address, split_part(%1$s.sender_address, '@', 2)))""".formatted(head);
        };
    }

    private static String condition(ListQuery.Place place, String alias) {
        if (place instanceof ListQuery.InFolder) {
            return alias + ".folder_id = :folder";
        }
        if (place instanceof ListQuery.InTray) {
            return alias + ".folder_id = :folder and " + alias + ".tray_id = :tray";
        }
        if (place instanceof ListQuery.WithLabel) {
            return alias + ".id in (select message_id from message_label where label_id = any(:wanted))";
        }
        if (place instanceof ListQuery.Conversation) {
            return alias + ".conversation_id = :conversation";
        }
        if (place instanceof ListQuery.InTickler) {
            return "(" + alias + ".folder_id = :folder or " + alias + ".until_on is not null)";
        }
        if (place instanceof ListQuery.Flagged) {
            return alias + ".flagged";
        }
        return alias
                + ".id in (select message_id from message_search where words @@ websearch_to_tsquery('simple', :words))";
    }

    private static JdbcClient.StatementSpec bind(JdbcClient.StatementSpec statement, long userId, ListQuery query) {
        JdbcClient.StatementSpec bound = statement.param("user", userId);
        if (query.account() != null) {
            bound = bound.param("account", query.account());
        }
        ListQuery.Place place = query.place();
        if (place instanceof ListQuery.InFolder in) {
            return bound.param("folder", in.folder());
        }
        if (place instanceof ListQuery.InTray in) {
            return bound.param("folder", in.inbox()).param("tray", in.tray());
        }
        if (place instanceof ListQuery.InTickler in) {
            return bound.param("folder", in.folder());
        }
        if (place instanceof ListQuery.WithLabel with) {
            return bound.param("wanted", with.labels().toArray(Long[]::new));
        }
        if (place instanceof ListQuery.Conversation one) {
            return bound.param("conversation", one.id());
        }
        return place instanceof ListQuery.Found found ? bound.param("words", found.words()) : bound;
    }
}
