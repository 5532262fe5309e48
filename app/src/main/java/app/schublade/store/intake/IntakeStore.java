package app.schublade.store.intake;

import app.schublade.core.filing.State;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.base.MailChanged;
import app.schublade.store.base.UserLock;
import app.schublade.store.filing.CountStore;
import app.schublade.store.filing.MessageWriter;
import java.util.Collection;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/**
 * How messages come in, and go when their server no longer has them. A batch is one transaction: messages, what the
 * rules did to them, the filing record and the orders for the server.
 */
@Repository
public class IntakeStore {
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final ConversationStore conversations;
    private final RuleActs rules;
    private final CountStore counters;
    private final UserLock users;
    private final ApplicationEventPublisher events;

    public IntakeStore(
            JdbcClient jdbc,
            JdbcTemplate template,
            ConversationStore conversations,
            RuleActs rules,
            CountStore counters,
            UserLock users,
            ApplicationEventPublisher events) {
        this.jdbc = jdbc;
        this.template = template;
        this.conversations = conversations;
        this.rules = rules;
        this.counters = counters;
        this.users = users;
        this.events = events;
    }

    /** Stores messages of one folder of a server. Those whose UID is known already are passed over. */
    @Transactional
    public int store(Account account, Mailbox mailbox, Collection<Incoming> incoming) {
        users.shared(account.userId());
        Set<Long> known = known(mailbox, incoming);
        Map<Long, Incoming> messages = number(
                incoming.stream().filter(one -> !known.contains(one.uid())).toList());
        if (messages.isEmpty()) {
            return 0;
        }
        NewRows rows = new NewRows(account, mailbox, messages); // Before anybody has to wait for this.
        Map<Long, Long> placed = conversations.place(account.userId(), messages);
        Map<Long, Incoming> hushed = rules.hush(account.userId(), messages, placed);
        Set<Long> waiting = rules.waiting(account, hushed);
        (hushed.equals(messages) ? rows : new NewRows(account, mailbox, hushed)).send(template, placed, waiting);
        count(account, hushed.values());
        hushed.forEach((id, one) -> rules.act(account, id, one));
        Map<Long, Incoming> heard = new LinkedHashMap<>(messages);
        heard.values().retainAll(hushed.values()); // Not those of muted conversations.
        rules.tell(account.userId(), heard);
        events.publishEvent(new MailChanged(account.userId(), Set.of(account.id())));
        return hushed.size();
    }

    /** Looked up one by one: a plan made while the table was small, and read as a whole, would be kept while it grows. */
    private Set<Long> known(Mailbox mailbox, Collection<Incoming> incoming) {
        return jdbc
                .sql("""
                        select c.uid from unnest(?::bigint[]) as asked (uid) cross join lateral
                            (select uid from server_copy where mailbox_id = ? and uid = asked.uid limit 1) c
                        """)
                .params(incoming.stream().map(Incoming::uid).toArray(Long[]::new), mailbox.id())
                .query(Long.class)
                .list()
                .stream()
                .collect(Collectors.toSet());
    }

    private Map<Long, Incoming> number(List<Incoming> incoming) {
        Iterator<Long> ids = MessageWriter.newIds(jdbc, incoming.size());
        Map<Long, Incoming> numbered = new LinkedHashMap<>();
        incoming.forEach(one -> numbered.put(ids.next(), one));
        return numbered;
    }

    private void count(Account account, Collection<Incoming> messages) {
        Map<Long, int[]> counts = new TreeMap<>();
        Map<Long, Integer> unreadWithLabel = new TreeMap<>();
        for (Incoming one : messages) {
            State state = one.filed();
            int[] count = counts.computeIfAbsent(state.folder(), folder -> new int[2]);
            count[0]++;
            if (state.unread()) {
                count[1]++;
                state.labels().forEach(label -> unreadWithLabel.merge(label, 1, Integer::sum));
            }
        }
        counts.forEach((folder, count) -> counters.count(folder, account.id(), count[0], count[1]));
        unreadWithLabel.forEach((label, unread) -> counters.countLabel(label, account.id(), unread));
    }

    /** Messages of the account with this identity and size of which it is not known where they lie. */
    public List<Long> straysLike(long accountId, String identity, int size) {
        return jdbc.sql("""
                        select h.message_id from message_head h join server_copy c on c.message_id = h.message_id
                        where h.account_id = ? and h.internet_id = ? and h.size = ? and c.mailbox_id is null
                        order by h.message_id
                        """).params(accountId, identity, size).query(Long.class).list();
    }

    /** Whether a message with this identity and size is known to lie in another folder of the account. */
    public boolean liesElsewhere(Mailbox mailbox, String identity, int size) {
        return jdbc.sql("""
                        select exists (select from message_head h join server_copy c on c.message_id = h.message_id
                        where h.account_id = ? and h.internet_id = ? and h.size = ? and c.mailbox_id <> ?)
                        """)
                .params(mailbox.accountId(), identity, size, mailbox.id())
                .query(Boolean.class)
                .single();
    }
}
