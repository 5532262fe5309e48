package app.schublade.core.filing;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Why a rule acts on a message, or does not.
 *
 * @param number the rule's place in the book, from 1
 * @param acts whether it changes anything about the message
 * @param says that in words: {@code "does not act: not everything under When holds"}
 * @param checks every condition and every exception, in their order
 */
public record Explanation(int number, Rule rule, boolean acts, String says, List<Check> checks) {
    public Explanation {
        checks = List.copyOf(checks);
    }

    /**
     * One line of the rule.
     *
     * @param words what held, or what was asked for if it did not hold
     */
    public record Check(String words, boolean holds, boolean exception) {}

    /** @param hit what the book's verdict says of the rule; null if it did not come to act */
    static Explanation of(Rule rule, int number, RuleInput matter, Verdict.@Nullable Hit hit, int stoppedBy) {
        List<Check> checks = new ArrayList<>();
        rule.when().forEach(condition -> checks.add(check(condition, matter, false)));
        rule.unless().forEach(condition -> checks.add(check(condition, matter, true)));
        return new Explanation(
                number, rule, hit != null && !hit.effects().isEmpty(), says(rule, hit, stoppedBy, checks), checks);
    }

    private static Check check(Condition condition, RuleInput matter, boolean exception) {
        String held = condition.heldBy(matter);
        return new Check(held == null ? condition.sentence() : held, held != null, exception);
    }

    private static String says(Rule rule, Verdict.@Nullable Hit hit, int stoppedBy, List<Check> checks) {
        if (hit != null) {
            return hit.outranked().isEmpty() ? "acts" : "acts, but an earlier rule has chosen the folder";
        }
        if (!rule.on()) {
            return "is off";
        }
        if (rule.when().isEmpty()) {
            return "does not act: it has no condition";
        }
        if (checks.stream().anyMatch(check -> !check.exception() && !check.holds())) {
            return "does not act: not everything under When holds";
        }
        if (checks.stream().anyMatch(check -> check.exception() && check.holds())) {
            return "does not act: an exception holds";
        }
        return "is not asked: rule %d says “no later rules”".formatted(stoppedBy);
    }
}
