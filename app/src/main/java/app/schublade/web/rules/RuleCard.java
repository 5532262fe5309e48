package app.schublade.web.rules;

import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.RuleHealth;
import app.schublade.store.rule.RuleStore;
import app.schublade.web.frame.Dates;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * A rule in the list.
 *
 * @param number its place, from 1
 * @param lately on how many messages it has acted in the last 30 days
 * @param acted in words, how often it has acted and when for the last time
 * @param paused why it was switched off by itself, or null
 * @param finding what is wrong with it, if anything is
 * @param heading what stands above it, or null
 * @param obstacle the id of the rule that stands in its way, 0 if none does
 * @param leaveOut an exception that would mend what was found, or null
 */
public record RuleCard(
        Rule rule,
        int number,
        int lately,
        String acted,
        @Nullable String heading,
        @Nullable String paused,
        RuleHealth.@Nullable Finding finding,
        long obstacle,
        HealthCheck.@Nullable LeaveOut leaveOut) {
    static List<RuleCard> of(
            RuleBook book,
            List<RuleHealth.Finding> findings,
            Map<Long, RuleStore.History> histories,
            Map<Long, String> headings,
            Map<Long, String> pauses,
            Function<RuleHealth.Finding, HealthCheck.@Nullable LeaveOut> leaveOut,
            Dates dates) {
        List<RuleCard> cards = new ArrayList<>();
        for (Rule rule : book.rules()) {
            RuleStore.History history = histories.get(rule.id());
            RuleHealth.Finding finding = findings.stream()
                    .filter(one -> one.rule().id() == rule.id())
                    .findFirst()
                    .orElse(null);
            long obstacle = finding != null && finding.isAboutAnother()
                    ? book.rules().get(finding.number() - 1).id()
                    : 0;
            cards.add(new RuleCard(
                    rule,
                    cards.size() + 1,
                    history == null ? 0 : history.lately(),
                    acted(history, dates),
                    headings.get(rule.id()),
                    pauses.get(rule.id()),
                    finding,
                    obstacle,
                    finding == null ? null : leaveOut.apply(finding)));
        }
        return cards;
    }

    private static String acted(RuleStore.@Nullable History history, Dates dates) {
        Instant last = history == null ? null : history.last();
        return history == null || last == null
                ? "has never acted yet"
                : "%,d in 30 days, %,d in all, last %s"
                        .formatted(history.lately(), history.acted(), dates.spoken(last));
    }

    /** Whether there is nothing better than to switch it off. */
    public boolean isOnlyToBeSwitchedOff() {
        return finding != null && !finding.wantsToBeFirst() && !couldArchive() && leaveOut == null;
    }

    /** Whether archiving instead of deleting would mend it. */
    public boolean couldArchive() {
        return finding != null && finding.kind() == RuleHealth.FindingKind.DELETES_UNREAD;
    }
}
