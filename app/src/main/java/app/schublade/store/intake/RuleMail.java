package app.schublade.store.intake;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Verdict;
import app.schublade.core.format.MailWriter;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.format.ParsedMail;
import app.schublade.store.account.Account;
import app.schublade.store.outgoing.OutgoingStore;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Writes where rules want it, as mail arrives: answers, once a week to each sender (RFC 3834, section 2), and mail that is
 * passed on. It goes through the outgoing mail like all that the user writes, and can be taken back there for a minute.
 */
@Component
class RuleMail {
    private static final Duration GRACE = Duration.ofMinutes(1);
    /** Most servers take no larger mail than one that has this in it, in bytes. */
    private static final int MAX_PASSED_ON = 15_000_000;

    private final JdbcClient jdbc;
    private final OutgoingStore outgoing;

    RuleMail(JdbcClient jdbc, OutgoingStore outgoing) {
        this.jdbc = jdbc;
        this.outgoing = outgoing;
    }

    /** Does it for one message; returns what was done, in words, by the numbers of the rules. */
    Map<Integer, List<String>> write(Account account, long message, Incoming incoming) {
        Map<Integer, List<String>> done = new TreeMap<>();
        for (Verdict.Hit hit : incoming.hits(false)) {
            List<String> words = new ArrayList<>();
            for (Effect.Besides effect : hit.besides()) {
                if (effect instanceof Effect.Answer answer) {
                    answer(account, message, incoming.mail(), hit.rule().id(), answer)
                            .ifPresent(words::add);
                } else if (effect instanceof Effect.Forward forward) {
                    words.add(forward(account, message, incoming, forward));
                } else {
                    words.add("told of it" + (((Effect.Notify) effect).sound() ? " with a sound" : ""));
                }
            }
            if (!words.isEmpty()) {
                done.put(hit.number(), words);
            }
        }
        return done;
    }

    private Optional<String> answer(Account account, long message, ParsedMail mail, long rule, Effect.Answer answer) {
        return OutgoingMessage.automatic(mail, account.ownAddresses(), userName(account), answer.text())
                .filter(outline -> isFirst(rule, mail.from().key()))
                .map(outline -> {
                    send(account, outline, message, null);
                    return "answered";
                });
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

    private String forward(Account account, long message, Incoming incoming, Effect.Forward forward) {
        if (account.hosts().sending() == null) {
            return "not forwarded: %s has no server to send from".formatted(account.name());
        }
        if (!incoming.isWhole() || incoming.source().length > MAX_PASSED_ON) {
            return "not forwarded: it is larger than %,d MB".formatted(MAX_PASSED_ON / 1_000_000);
        }
        Optional<OutgoingMessage> outline = OutgoingMessage.forward(
                incoming.mail(),
                account.ownAddresses(),
                userName(account),
                MailWriter.addresses(forward.to()),
                incoming.source(),
                forward.attached(),
                forward.text());
        outline.ifPresent(one -> send(account, one, null, message));
        return outline.isEmpty() ? "not forwarded: it has come back in a circle" : "forwarded to " + forward.to();
    }

    private void send(Account account, OutgoingMessage outline, @Nullable Long answers, @Nullable Long forwards) {
        long id = outgoing.begin(account.userId(), account.id(), outline, answers);
        if (forwards != null && outline.enclosed() != null) {
            outgoing.enclose(id, forwards, outline.enclosed().attached());
        }
        outgoing.send(
                account.userId(), id, outline, Instant.now(), Instant.now().plus(GRACE));
    }
}
