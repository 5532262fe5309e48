package app.schublade.store.filing;

import java.util.Collection;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Which messages the user has answered or passed on. That only comes to be so: no undo makes it otherwise. */
@Repository
public class HandledStore {
    /** Of a message that was answered, on servers (RFC 3501, section 2.3.2). */
    private static final String ANSWERED = "\\Answered";
    /** Of one that was passed on (RFC 5788). */
    public static final String FORWARDED = "$Forwarded";

    private final JdbcClient jdbc;

    public HandledStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Messages were answered just now. Their servers are told. */
    @Transactional
    public void answered(Collection<Long> messages) {
        jdbc.sql("update message set answered = true, answered_at = now() where id = any(?)")
                .param(ids(messages))
                .update();
        tell(messages, ANSWERED);
    }

    /** Messages were passed on just now. Their servers are told. */
    @Transactional
    public void forwarded(Collection<Long> messages) {
        jdbc.sql("update message set forwarded = true, forwarded_at = now() where id = any(?)")
                .param(ids(messages))
                .update();
        tell(messages, FORWARDED);
    }

    private void tell(Collection<Long> messages, String flag) {
        jdbc.sql("""
                        insert into server_order (account_id, message_id, kind, flag, flag_on)
                        select m.account_id, m.id, 'MARK', ?, true from message m
                        join account a on a.id = m.account_id and a.protocol = 'IMAP'
                        where m.id = any(?)
                        """).params(flag, ids(messages)).update();
    }

    /** Servers say so of messages; another mail program will have done it. */
    @Transactional
    public void elsewhere(List<Long> answered, List<Long> forwarded) {
        if (!answered.isEmpty()) {
            jdbc.sql("update message set answered = true where id = any(?) and not answered")
                    .param(ids(answered))
                    .update();
        }
        if (!forwarded.isEmpty()) {
            jdbc.sql("update message set forwarded = true where id = any(?) and not forwarded")
                    .param(ids(forwarded))
                    .update();
        }
    }

    private static Long[] ids(Collection<Long> messages) {
        return messages.stream().distinct().sorted().toArray(Long[]::new);
    }
}
