package app.schublade.store.work;

import java.time.Duration;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/**
 * Which process serves which account. A process that does not say for {@link #TERM} that it is alive loses its accounts
 * to the others. Should two serve one account for a moment, the store still takes in every message once.
 */
@Repository
public class LeaseStore {
    public static final Duration TERM = Duration.ofSeconds(20);

    private static final String UNTIL = "now() + make_interval(secs => :term)";

    private final JdbcClient jdbc;

    public LeaseStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Says that a process is alive, and holds on to its accounts. Returns them, with the version of each. */
    @Transactional
    public Map<Long, Integer> renew(String process) {
        jdbc.sql("""
                        insert into process (name, seen_at) values (?, now())
                        on conflict (name) do update set seen_at = excluded.seen_at
                        """).param(process).update();
        jdbc.sql("delete from process where seen_at < now() - interval '1 day'").update();
        return versions(
                "update account set lease_until = " + UNTIL + " where lease_owner = :process", process, Map.of());
    }

    /** How many accounts this process should serve, so that all processes serve about as many. */
    public int share() {
        return jdbc.sql("""
                        select ceil((select count(*) from account)::numeric / greatest(1, (select count(*) from process
                            where seen_at > now() - make_interval(secs => ?))))
                        """).param(TERM.toSeconds()).query(Integer.class).single();
    }

    /** Takes over accounts that nobody serves, except some. */
    public Map<Long, Integer> takeOver(String process, int most, Collection<Long> except) {
        return versions(
                "update account set lease_owner = :process, lease_until = " + UNTIL + """
                         where id in (select id from account
                            where (lease_owner is null or lease_until < now()) and id <> all(:except)
                            order by id limit :most for update skip locked)
                        """,
                process,
                Map.of("most", most, "except", except.toArray(Long[]::new)));
    }

    /** Takes over one account, if nobody else serves it. */
    public boolean takeOver(String process, long account) {
        return !versions(
                        "update account set lease_owner = :process, lease_until = " + UNTIL + """
                         where id = :account and (lease_owner is null or lease_owner = :process or lease_until < now())
                        """,
                        process,
                        Map.of("account", account))
                .isEmpty();
    }

    private Map<Long, Integer> versions(String update, String process, Map<String, Object> parameters) {
        return jdbc
                .sql(update + " returning id, version")
                .param("process", process)
                .param("term", TERM.toSeconds())
                .params(parameters)
                .query((row, number) -> Map.entry(row.getLong("id"), row.getInt("version")))
                .list()
                .stream()
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }

    public void release(String process, Collection<Long> accounts) {
        jdbc.sql("update account set lease_owner = null where lease_owner = ? and id = any(?)")
                .params(List.of(process, accounts.toArray(Long[]::new)))
                .update();
    }

    /** The process ends: everything it serves is free at once. */
    @Transactional
    public void leave(String process) {
        jdbc.sql("update account set lease_owner = null where lease_owner = ?")
                .param(process)
                .update();
        jdbc.sql("delete from process where name = ?").param(process).update();
    }
}
