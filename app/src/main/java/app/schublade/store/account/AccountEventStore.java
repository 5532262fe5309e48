package app.schublade.store.account;

import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** What happened between Schublade and the servers of accounts: the last hundred events of each. */
@Repository
public class AccountEventStore {
    private static final int KEPT = 100;
    private static final int MAX_LENGTH = 500;

    private final JdbcClient jdbc;

    public AccountEventStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    public record AccountEvent(Instant at, String said) {}

    /** Adds an event; one that repeats the last one word for word is not written again. */
    public void add(long accountId, String said) {
        int added = jdbc.sql("""
                        insert into account_event (account_id, said) select a.id, :said from account a where a.id = :account
                        and :said is distinct from
                            (select e.said from account_event e where e.account_id = a.id order by e.id desc limit 1)
                        """)
                .param("account", accountId)
                .param("said", said.substring(0, Math.min(said.length(), MAX_LENGTH)))
                .update();
        if (added > 0) {
            jdbc.sql("""
                            delete from account_event where account_id = :account and id <= (
                                select id from account_event where account_id = :account order by id desc offset :kept limit 1)
                            """).param("account", accountId).param("kept", KEPT).update();
        }
    }

    /** The latest first. */
    public List<AccountEvent> of(long userId, long accountId) {
        return jdbc.sql("""
                        select e.at, e.said from account_event e join account a on a.id = e.account_id
                        where a.user_id = ? and a.id = ? order by e.id desc
                        """)
                .params(userId, accountId)
                .query((row, number) -> new AccountEvent(row.getTimestamp("at").toInstant(), row.getString("said")))
                .list();
    }
}
