package app.schublade.store.filing;

import app.schublade.core.filing.Change;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * One message's change.
 *
 * @param hit null if it was no rule
 * @param besides what the rule did besides, in words
 */
public record Step(Moving moving, State after, Verdict.@Nullable Hit hit, List<String> besides) {
    public Step(Moving moving, State after, Verdict.@Nullable Hit hit) {
        this(moving, after, hit, List.of());
    }

    public Change change() {
        return new Change(moving.state(), after);
    }

    public boolean changesSomething() {
        return !change().isNothing();
    }

    public String ruleName() {
        return hit == null ? "" : hit.rule().name();
    }

    /**
     * What each rule in turn does to a message, without those that do nothing.
     *
     * @param besides what they did besides changing it, in words, by their numbers
     */
    public static List<Step> ofRules(Moving moving, List<Verdict.Hit> hits, Map<Integer, List<String>> besides) {
        List<Step> steps = new ArrayList<>();
        State state = moving.state();
        for (Verdict.Hit hit : hits) {
            List<String> done = besides.getOrDefault(hit.number(), List.of());
            Step step = new Step(new Moving(moving.id(), moving.accountId(), state), hit.on(state), hit, done);
            if (step.changesSomething() || !done.isEmpty()) {
                steps.add(step);
                state = step.after();
            }
        }
        return steps;
    }

    /** The messages' ids. */
    public static List<Long> ids(List<Step> steps) {
        return steps.stream().map(step -> step.moving().id()).toList();
    }
}
