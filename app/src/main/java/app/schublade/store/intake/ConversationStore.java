package app.schublade.store.intake;

import app.schublade.core.format.Reading;
import app.schublade.core.message.ConversationKeys;
import app.schublade.core.message.Conversations;
import app.schublade.store.account.AccountStore;
import app.schublade.store.base.BulkRows;
import app.schublade.store.base.MailChanged;
import app.schublade.store.noise.MutedStore;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Works out which messages belong to one conversation. */
@Repository
public class ConversationStore {
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final AccountStore accounts;
    private final MutedStore muted;
    private final ApplicationEventPublisher events;

    public ConversationStore(
            JdbcClient jdbc,
            JdbcTemplate template,
            AccountStore accounts,
            MutedStore muted,
            ApplicationEventPublisher events) {
        this.muted = muted;
        this.jdbc = jdbc;
        this.template = template;
        this.accounts = accounts;
        this.events = events;
    }

    /**
     * Finds the conversation of each new message, within the transaction that stores them.
     *
     * @param newcomers by the ids that they get
     */
    Map<Long, Long> place(long userId, Map<Long, Incoming> newcomers) {
        if (newcomers.isEmpty()) {
            return Map.of();
        }
        Set<String> own = ownAddresses(userId);
        Map<Long, ConversationKeys> keys = new LinkedHashMap<>();
        newcomers.forEach((id, one) -> {
            List<String> correspondents = correspondents(one.mail().from().key(), Reading.recipients(one.mail()));
            keys.put(
                    id,
                    ConversationKeys.of(
                            one.identity(), one.mail().references(), one.mail().subject(), correspondents, own));
        });
        oneAtATime(userId);
        return placeByKeys(userId, keys);
    }

    /**
     * Joins some of the account's messages that were stored before there were conversations, the oldest first. Returns how
     * many.
     */
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
        Set<String> own = ownAddresses(userId);
        oneAtATime(userId);
        Map<Long, ConversationKeys> unjoined = new LinkedHashMap<>();
        jdbc.sql("""
                        select m.id, h.internet_id, h.refs, h.subject, h.sender_address, coalesce(h.addressed_to, '{}') as addressed_to
                        from message m join message_head h on h.message_id = m.id
                        where m.account_id = ? and m.conversation_id is null order by m.id limit ?
                        """).params(accountId, most).query(row -> {
            unjoined.put(row.getLong("id"), keys(row, own));
        });
        if (!unjoined.isEmpty()) {
            update(userId, placeByKeys(userId, unjoined), """
                    update message m set conversation_id = v.new
                    from unnest(:from::bigint[], :to::bigint[]) as v (id, new)
                    where m.user_id = :user and m.id = v.id
                    """);
            events.publishEvent(new MailChanged(userId, Set.of()));
        }
        return unjoined.size();
    }

    private Set<String> ownAddresses(long userId) {
        Set<String> own = new HashSet<>();
        accounts.of(userId).forEach(one -> {
            own.add(one.ownAddresses().main());
            own.addAll(one.ownAddresses().aliases());
        });
        return own;
    }

    /** Until the end of the transaction, for each user: two accounts may bring the two halves of one conversation. */
    private void oneAtATime(long userId) {
        jdbc.sql("select pg_advisory_xact_lock(?)").param(userId).query().singleRow();
    }

    private Map<Long, Long> placeByKeys(long userId, Map<Long, ConversationKeys> messages) {
        Map<Long, Long> known = known(userId, messages.values());
        Conversations conversations = new Conversations(known);
        messages.forEach(conversations::join);
        merge(userId, conversations.merged());
        keep(userId, known, conversations.keys());
        return conversations.ofMessages();
    }

    private static List<String> correspondents(String sender, List<String> recipients) {
        return Stream.concat(Stream.of(sender), recipients.stream()).toList();
    }

    private static ConversationKeys keys(ResultSet row, Set<String> own) throws SQLException {
        List<String> correspondents = correspondents(row.getString("sender_address"), texts(row, "addressed_to"));
        return ConversationKeys.of(
                row.getString("internet_id"), texts(row, "refs"), row.getString("subject"), correspondents, own);
    }

    private static List<String> texts(ResultSet row, String column) throws SQLException {
        return Arrays.asList((String[]) row.getArray(column).getArray());
    }

    /** Looked up one by one: a plan made while the table was small, and read as a whole, would be kept while it grows. */
    private Map<Long, Long> known(long userId, Collection<ConversationKeys> keys) {
        Map<Long, Long> known = new HashMap<>();
        jdbc.sql("""
                        select k.key, k.conversation_id from unnest(?::bigint[]) as asked (key) cross join lateral
                            (select key, conversation_id from conversation_key where user_id = ? and key = asked.key limit 1) k
                        """)
                .params(
                        keys.stream()
                                .flatMap(one -> Stream.concat(one.ids().stream(), one.subjects().stream()))
                                .distinct()
                                .toArray(Long[]::new),
                        userId)
                .query(row -> {
                    known.put(row.getLong(1), row.getLong(2));
                });
        return known;
    }

    private void merge(long userId, Map<Long, Long> merged) {
        muted.merge(userId, merged);
        update(userId, merged, """
                update conversation_key k set conversation_id = v.new
                from unnest(:from::bigint[], :to::bigint[]) as v (old, new)
                where k.user_id = :user and k.conversation_id = v.old
                """);
        update(userId, merged, """
                update message m set conversation_id = v.new
                from unnest(:from::bigint[], :to::bigint[]) as v (old, new)
                where m.user_id = :user and m.conversation_id = v.old
                """);
    }

    private void keep(long userId, Map<Long, Long> known, Map<Long, Long> keys) {
        BulkRows added = new BulkRows("conversation_key", "user_id", "key", "conversation_id");
        Map<Long, Long> changed = new HashMap<>();
        keys.forEach((key, conversation) -> {
            Long before = known.get(key);
            if (before == null) {
                added.row().number(userId).number(key).number(conversation);
            } else if (!before.equals(conversation)) {
                changed.put(key, conversation);
            }
        });
        added.send(template);
        update(userId, changed, """
                update conversation_key k set conversation_id = v.new
                from unnest(:from::bigint[], :to::bigint[]) as v (key, new)
                where k.user_id = :user and k.key = v.key
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
