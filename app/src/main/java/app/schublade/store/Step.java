package app.schublade.store;

import app.schublade.core.filing.Change;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One message's change.
 *
 * @param hit null if it was no rule
 * @param besides what the rule did besides, in words
 */
record Step(Moving moving, State after, Verdict.@Nullable Hit hit, List<String> besides) {
    Step(Moving moving, State after, Verdict.@Nullable Hit hit) {
        this(moving, after, hit, List.of());
    }

    Change change() {
        return new Change(moving.state(), after);
    }

    boolean changesSomething() {
        return !change().isNothing();
    }

    String ruleName() {
        return hit == null ? "" : hit.rule().name();
    }

    /** The messages' ids. */
    static List<Long> ids(List<Step> steps) {
        return steps.stream().map(step -> step.moving().id()).toList();
    }
}
