package app.schublade.store;

import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Which messages of POP3 accounts were fetched already. */
@Repository
public class PopStore {
    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final IntakeStore intake;

    public PopStore(JdbcClient jdbc, JdbcTemplate template, IntakeStore intake) {
        this.jdbc = jdbc;
        this.template = template;
        this.intake = intake;
    }

    public Set<String> fetched(long accountId) {
        return new HashSet<>(jdbc.sql("select uidl from pop_message where account_id = ?")
                .param(accountId)
                .query(String.class)
                .list());
    }

    /** Stores messages, and takes note of all that were fetched, those that are not wanted included. */
    @Transactional
    public void store(Account account, Mailbox inbox, List<Incoming> wanted, Collection<String> fetched) {
        intake.store(account, inbox, wanted);
        template.batchUpdate(
                "insert into pop_message (account_id, uidl) values (?, ?) on conflict do nothing",
                fetched.stream().map(id -> new Object[] {account.id(), id}).toList());
    }

    /** A number for the next message: POP3 has none that lasts. */
    public long nextNumber(Mailbox inbox) {
        return jdbc.sql("select coalesce(max(uid), 0) + 1 from server_copy where mailbox_id = ?")
                .param(inbox.id())
                .query(Long.class)
                .single();
    }
}
