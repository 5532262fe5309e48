package app.schublade.store.work;

import app.schublade.store.account.Account;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** How everything is doing, for whoever runs Schublade. */
@Repository
public class HealthStore {
    private static final Duration KNOWN_FOR = Duration.ofSeconds(10);

    private final JdbcClient jdbc;
    private @Nullable Health known;
    private Instant askedAt = Instant.EPOCH;

    public HealthStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * How everything is doing, over all users.
     *
     * @param accounts how many there are
     * @param troubled of how many no mail is fetched at present
     * @param orders how many changes the mail servers have not been told of yet
     * @param oldestOrder since when the first of them waits, in seconds; 0 if none does
     * @param toIndex messages that cannot be found by their words yet
     */
    public record Health(int accounts, int troubled, int orders, long oldestOrder, int toIndex) {}

    /**
     * As it was at most ten seconds ago: whoever asks often does not keep the database busy.
     *
     * @throws org.springframework.dao.DataAccessException if the database does not answer
     */
    public synchronized Health health() {
        if (known == null || askedAt.plus(KNOWN_FOR).isBefore(Instant.now())) {
            known = null;
            known = ask();
            askedAt = Instant.now();
        }
        return known;
    }

    private Health ask() {
        return jdbc.sql("""
                        select (select count(*) from account) as accounts,
                            (select count(*) from account where state = any(:trouble)
                                or lease_owner is null or lease_until < now()) as troubled,
                            (select count(*) from server_order where trouble is null) as orders,
                            (select coalesce(extract(epoch from now() - min(at)), 0) from server_order where trouble is null)
                                as oldest,
                            (select count(*) from (select from to_index limit 100000) unindexed) as to_index
                        """)
                .param(
                        "trouble",
                        Arrays.stream(Account.AccountState.values())
                                .filter(Account.AccountState::isTrouble)
                                .map(Enum::name)
                                .toArray(String[]::new))
                .query((row, number) -> new Health(
                        row.getInt("accounts"),
                        row.getInt("troubled"),
                        row.getInt("orders"),
                        row.getLong("oldest"),
                        row.getInt("to_index")))
                .single();
    }
}
