package app.schublade.store;

import app.schublade.core.message.ConversationKeys;
import app.schublade.core.message.Conversations;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Works out which messages belong to one conversation, soon after they are stored. */
@Repository
public class ConversationStore {
    private final JdbcClient jdbc;
    private final AccountStore accounts;
    private final ApplicationEventPublisher events;

    public ConversationStore(JdbcClient jdbc, AccountStore accounts, ApplicationEventPublisher events) {
        this.jdbc = jdbc;
        this.accounts = accounts;
        this.events = events;
    }

    private record Unjoined(long id, ConversationKeys keys) {}

    /** Joins some of the account's messages that belong to no conversation yet, the oldest first. Returns how many. */
    @Transactional
    public int join(long accountId, int most) {
        // Asked all the time, and mostly there is nothing: then nobody is locked out.
        boolean nothing = jdbc.sql(
                        "select not exists (select from message where account_id = ? and conversation_id is null)")
                .param(accountId)
                .query(Boolean.class)
                .single();
        if (nothing) {
            return 0;
        }
        long userId = jdbc.sql("select user_id from account where id = ?")
                .param(accountId)
                .query(Long.class)
                .single();
        Set<String> own = new HashSet<>();
        accounts.of(userId).forEach(one -> {
            own.add(one.ownAddresses().main());
            own.addAll(one.ownAddresses().aliases());
        });
        // One at a time for each user: two accounts may bring the two halves of one conversation.
        jdbc.sql("select pg_advisory_xact_lock(?)").param(userId).query().singleRow();
        List<Unjoined> unjoined = jdbc.sql("""
                        select m.id, h.internet_id, h.refs, h.subject, h.sender_address, coalesce(h.addressed_to, '{}') as addressed_to
                        from message m join message_head h on h.message_id = m.id
                        where m.account_id = ? and m.conversation_id is null order by m.id limit ?
                        """)
                .params(accountId, most)
                .query((row, number) -> new Unjoined(row.getLong("id"), keys(row, own)))
                .list();
        if (!unjoined.isEmpty()) {
            Conversations conversations = new Conversations(known(userId, unjoined));
            unjoined.forEach(one -> conversations.join(one.id(), one.keys()));
            store(userId, conversations);
            events.publishEvent(new MailChanged(userId, Set.of()));
        }
        return unjoined.size();
    }

    private static ConversationKeys keys(ResultSet row, Set<String> own) throws SQLException {
        List<String> correspondents = new ArrayList<>();
        correspondents.add(row.getString("sender_address"));
        correspondents.addAll(texts(row, "addressed_to"));
        return ConversationKeys.of(
                row.getString("internet_id"), texts(row, "refs"), row.getString("subject"), correspondents, own);
    }

    private static List<String> texts(ResultSet row, String column) throws SQLException {
        return Arrays.asList((String[]) row.getArray(column).getArray());
    }

    private Map<Long, Long> known(long userId, List<Unjoined> unjoined) {
        Map<Long, Long> known = new HashMap<>();
        jdbc.sql("select key, conversation_id from conversation_key where user_id = ? and key = any(?)")
                .params(
                        userId,
                        unjoined.stream()
                                .flatMap(
                                        one -> Stream.concat(one.keys().ids().stream(), one.keys().subjects().stream()))
                                .distinct()
                                .toArray(Long[]::new))
                .query((row, number) -> Map.entry(row.getLong(1), row.getLong(2)))
                .list()
                .forEach(entry -> known.put(entry.getKey(), entry.getValue()));
        return known;
    }

    private void store(long userId, Conversations conversations) {
        update(userId, conversations.merged(), """
                update conversation_key k set conversation_id = v.new
                from unnest(:from::bigint[], :to::bigint[]) as v (old, new)
                where k.user_id = :user and k.conversation_id = v.old
                """);
        update(userId, conversations.merged(), """
                update message m set conversation_id = v.new
                from unnest(:from::bigint[], :to::bigint[]) as v (old, new)
                where m.user_id = :user and m.conversation_id = v.old
                """);
        update(userId, conversations.keys(), """
                insert into conversation_key (user_id, key, conversation_id)
                select :user, v.key, v.conversation from unnest(:from::bigint[], :to::bigint[]) as v (key, conversation)
                on conflict (user_id, key) do update set conversation_id = excluded.conversation_id
                """);
        update(userId, conversations.ofMessages(), """
                update message m set conversation_id = v.conversation
                from unnest(:from::bigint[], :to::bigint[]) as v (id, conversation)
                where m.user_id = :user and m.id = v.id
                """);
    }

    private void update(long userId, Map<Long, Long> pairs, String sql) {
        if (!pairs.isEmpty()) {
            jdbc.sql(sql)
                    .param("user", userId)
                    .param("from", array(pairs.keySet()))
                    .param("to", array(pairs.values()))
                    .update();
        }
    }

    private static Long[] array(Collection<Long> values) {
        return values.toArray(Long[]::new);
    }
}
