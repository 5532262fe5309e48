package app.schublade.store;

import app.schublade.core.filing.Verdict;
import app.schublade.core.format.MailWriter;
import app.schublade.core.format.Outline;
import app.schublade.core.format.ParsedMail;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Answers new mail where rules want it: once a week to each sender (RFC 3834, section 2), through the outgoing mail like all
 * that the user writes, where it can be taken back for a minute.
 */
@Component
class RuleAnswers {
    private static final Duration GRACE = Duration.ofMinutes(1);

    private final JdbcClient jdbc;
    private final OutgoingStore outgoing;

    RuleAnswers(JdbcClient jdbc, OutgoingStore outgoing) {
        this.jdbc = jdbc;
        this.outgoing = outgoing;
    }

    void answer(Account account, long message, ParsedMail mail, List<Verdict.Hit> hits) {
        for (Verdict.Hit hit : hits) {
            for (String text : hit.answers()) {
                Outline.automatic(mail, account.ownAddresses(), userName(account), text)
                        .filter(outline -> isFirst(hit.rule().id(), mail.from().key()))
                        .ifPresent(outline -> send(account, message, outline));
            }
        }
    }

    private String userName(Account account) {
        return jdbc.sql("select name from app_user where id = ?")
                .param(account.userId())
                .query(String.class)
                .single();
    }

    /** Whether the rule has not answered this sender in the last days; from now on it has. */
    private boolean isFirst(long rule, String address) {
        return !jdbc.sql("""
                        insert into rule_answer (rule_id, address, at) values (?, ?, now())
                        on conflict (rule_id, address) do update set at = now()
                        where rule_answer.at < now() - interval '7 days' returning 1
                        """).params(rule, address).query(Integer.class).list().isEmpty();
    }

    private void send(Account account, long message, Outline outline) {
        OutgoingStore.Text text = new OutgoingStore.Text(
                account.id(),
                outline.from().email(),
                MailWriter.typed(outline.to()),
                "",
                outline.subject(),
                outline.text());
        long id = outgoing.begin(account.userId(), text, message, outline.inReplyTo(), outline.references());
        Instant now = Instant.now();
        String messageId = UUID.randomUUID() + "@" + outline.from().domain();
        outgoing.send(account.userId(), id, messageId, MailWriter.write(outline, messageId, now), now.plus(GRACE));
    }
}
