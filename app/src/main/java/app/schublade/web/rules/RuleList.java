package app.schublade.web.rules;

import app.schublade.core.filing.RuleBook;
import app.schublade.store.rule.RuleOrderStore;
import app.schublade.store.rule.RulePauses;
import app.schublade.store.rule.RuleStore;
import app.schublade.web.frame.Dates;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** Puts together what the list of rules shows of each. */
@Component
class RuleList {
    private final RuleOrderStore order;
    private final RulePauses pauses;
    private final HealthCheck health;
    private final Dates dates;

    RuleList(RuleOrderStore order, RulePauses pauses, HealthCheck health, Dates dates) {
        this.order = order;
        this.pauses = pauses;
        this.health = health;
        this.dates = dates;
    }

    List<RuleCard> cards(long userId, RuleBook book, Map<Long, RuleStore.History> histories) {
        return RuleCard.of(
                book,
                health.of(userId, book, histories),
                histories,
                order.headings(userId),
                pauses.reasons(userId),
                finding -> health.leaveOut(userId, finding),
                dates);
    }
}
