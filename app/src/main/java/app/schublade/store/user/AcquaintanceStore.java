package app.schublade.store.user;

import app.schublade.core.format.ParsedMail;
import app.schublade.store.account.Account;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Whom the user knows, and what was sent: as the mail that is there tells. */
@Repository
public class AcquaintanceStore {
    private final JdbcClient jdbc;

    public AcquaintanceStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** What the mail that is there says about some new messages of an account. */
    public Acquaintance of(Account account, Collection<ParsedMail> news) {
        List<String> senders =
                news.stream().map(mail -> mail.from().key()).distinct().toList();
        List<String> references = news.stream()
                .flatMap(mail -> mail.references().stream())
                .distinct()
                .toList();
        return new Acquaintance(
                texts("""
                        select s from unnest(:texts::text[]) s where exists (
                            select from message_head h join account a on a.id = h.account_id
                            where h.sender_address = s and a.user_id = :user)
                        """, account.userId(), senders),
                texts("""
                        select h.internet_id from message_head h join account a on a.id = h.account_id
                        where h.internet_id = any(:texts) and a.user_id = :user and
                        """ + SENT, account.userId(), references),
                answered(account.userId(), references));
    }

    private Map<String, Set<String>> answered(long userId, List<String> ids) {
        Map<String, Set<String>> answered = new HashMap<>();
        if (!ids.isEmpty()) {
            jdbc.sql("""
                            select h.internet_id, h.refs from message_head h join account a on a.id = h.account_id
                            where h.internet_id = any(:ids) and a.user_id = :user and h.refs <> '{}'
                            """)
                    .param("ids", ids.toArray(String[]::new))
                    .param("user", userId)
                    .query((row, number) -> Map.entry(row.getString(1), Set.copyOf(Arrays.asList((String[])
                            row.getArray(2).getArray()))))
                    .list()
                    .forEach(entry -> answered.put(entry.getKey(), entry.getValue()));
        }
        return answered;
    }

    /** Mail in {@code h} was written by the user: from the address of an account {@code a}, or from an alias of it. */
    private static final String SENT = """
            (h.sender_address = lower(a.address) or exists (
                select from alias l where l.account_id = a.id and l.address = h.sender_address))
            """;

    private Set<String> texts(String sql, long userId, List<String> values) {
        return values.isEmpty()
                ? Set.of()
                : Set.copyOf(jdbc.sql(sql)
                        .param("user", userId)
                        .param("texts", values.toArray(String[]::new))
                        .query(String.class)
                        .list());
    }

    /**
     * Messages that were the first from their sender.
     *
     * @param alone the only message that is asked about, or null for all
     */
    public Set<Long> firsts(long userId, @Nullable Long alone) {
        return ids("""
                select distinct on (h.sender_address) m.id from message m join message_head h on h.message_id = m.id
                where m.user_id = :user and (:alone::bigint is null or h.sender_address =
                    (select sender_address from message_head where message_id = :alone))
                order by h.sender_address, m.received_at, m.id
                """, userId, alone);
    }

    /**
     * Messages that answer something that the user sent.
     *
     * @param alone the only message that is asked about, or null for all
     */
    public Set<Long> answers(long userId, @Nullable Long alone) {
        return ids("""
                with asked as (
                    select h.message_id, unnest(h.refs) r from message_head h join account a on a.id = h.account_id
                    where a.user_id = :user and (:alone::bigint is null or h.message_id = :alone)
                )
                select distinct asked.message_id from asked join message_head h on h.internet_id = asked.r
                    join account a on a.id = h.account_id
                where a.user_id = :user and
                """ + SENT, userId, alone);
    }

    private Set<Long> ids(String sql, long userId, @Nullable Long alone) {
        return Set.copyOf(jdbc.sql(sql)
                .param("user", userId)
                .param("alone", alone)
                .query(Long.class)
                .list());
    }
}
