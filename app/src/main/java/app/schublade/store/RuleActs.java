package app.schublade.store;

import app.schublade.core.filing.Verdict;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Repository;

/**
 * What the rules do to a message that has just been stored, beyond the state that it is stored in: the filing record, the
 * orders for its server, what is sent and told, copies.
 */
@Repository
class RuleActs {
    private final FilingStore filing;
    private final Copier copier;
    private final NotificationStore notifications;
    private final RuleMail ruleMail;

    RuleActs(FilingStore filing, Copier copier, NotificationStore notifications, RuleMail ruleMail) {
        this.filing = filing;
        this.copier = copier;
        this.notifications = notifications;
        this.ruleMail = ruleMail;
    }

    void act(Account account, long message, Incoming incoming) {
        List<Verdict.Hit> hits = incoming.hits(false);
        FilingStore.Outcome filed =
                filing.recordArrival(account, message, incoming, ruleMail.write(account, message, incoming));
        notifications.note(account.userId(), message, hits);
        hits.stream()
                .filter(hit -> !hit.copies().isEmpty())
                .findFirst()
                .ifPresent(copying -> copier.forRules(
                        account.userId(),
                        FilingStore.Cause.ARRIVAL,
                        "Copied by " + copying.rule().name(),
                        Map.of(message, hits),
                        filed));
    }
}
