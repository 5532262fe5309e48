package app.schublade.store.intake;

import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.store.account.Account;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.filing.FilingRecord;
import app.schublade.store.filing.MessageCopier;
import app.schublade.store.filing.Moving;
import app.schublade.store.filing.OrderWriter;
import app.schublade.store.filing.Step;
import app.schublade.store.place.PlaceStore;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Repository;

/**
 * What the rules do to a message that has just been stored, beyond the state that it is stored in: the filing record, the
 * orders for its server, what is sent and told, copies.
 */
@Repository
class RuleActs {
    private final FilingRecord filings;
    private final OrderWriter orders;
    private final PlaceStore places;
    private final MessageCopier copier;
    private final Attention attention;
    private final RuleMail ruleMail;
    private final Hush hush;

    RuleActs(
            FilingRecord filings,
            OrderWriter orders,
            PlaceStore places,
            MessageCopier copier,
            Attention attention,
            RuleMail ruleMail,
            Hush hush) {
        this.hush = hush;
        this.filings = filings;
        this.orders = orders;
        this.places = places;
        this.copier = copier;
        this.attention = attention;
        this.ruleMail = ruleMail;
    }

    /** New messages as they are to be stored, once their conversations are known; the same ones if none of those is muted. */
    Map<Long, Incoming> hush(long userId, Map<Long, Incoming> messages, Map<Long, Long> conversations) {
        return hush.of(userId, messages, conversations);
    }

    /** Of messages that are about to be stored those that wait for the next look. */
    Set<Long> waiting(Account account, Map<Long, Incoming> messages) {
        return attention.waiting(account, messages);
    }

    /** Tells of messages that are stored. */
    void tell(long userId, Map<Long, Incoming> messages) {
        attention.tell(userId, messages);
    }

    void act(Account account, long message, Incoming incoming) {
        List<Verdict.Hit> hits = incoming.hits(false);
        ActOutcome filed = record(account, message, incoming, ruleMail.write(account, message, incoming));
        hits.stream()
                .filter(hit -> !hit.copies().isEmpty())
                .findFirst()
                .ifPresent(copying -> copier.forRules(
                        account.userId(),
                        Cause.ARRIVAL,
                        "Copied by " + copying.rule().name(),
                        Map.of(message, hits),
                        filed));
    }

    /**
     * The message is there already as the rules want it. What its server has done by itself is written down as done to a
     * message that was delivered to the Inbox, so that it can be taken back.
     *
     * @param besides what they did besides changing it, in words, by their numbers
     */
    private ActOutcome record(Account account, long message, Incoming incoming, Map<Integer, List<String>> besides) {
        Moving arrived = new Moving(message, account.id(), incoming.arrived());
        List<Verdict.Hit> served = incoming.hits(true);
        List<Step> recorded = new ArrayList<>();
        if (!served.isEmpty()) {
            State delivered = new State(places.inbox(account.userId()), true, false, null, Set.of())
                    .sorted(incoming.arrived().tray());
            recorded.addAll(Step.ofRules(new Moving(message, account.id(), delivered), served, Map.of()));
        }
        List<Step> own = Step.ofRules(arrived, incoming.hits(false), besides);
        recorded.addAll(own);
        if (recorded.isEmpty()) {
            return ActOutcome.NOTHING;
        }
        boolean filed = recorded.stream().anyMatch(Step::changesSomething);
        String title = (filed ? "Filed by " : "Seen by ") + recorded.get(0).ruleName();
        long batch = filings.openBatch(account.userId(), Cause.ARRIVAL, title);
        filings.write(batch, recorded);
        if (!own.isEmpty()) {
            orders.order(List.of(new Step(arrived, own.get(own.size() - 1).after(), null)));
        }
        return new ActOutcome(batch, title, List.of(message), 0);
    }
}
