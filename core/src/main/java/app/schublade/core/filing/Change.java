package app.schublade.core.filing;

import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * What one act did to one message. Undoing it puts back each aspect that it changed, unless that aspect was
 * changed again since: then it stays as it is.
 */
public record Change(State before, State after) {
    /** What a message has exactly one of. */
    private static final List<Function<State, @Nullable Object>> SINGLE = List.of(
            State::folder,
            State::unread,
            State::flagged,
            State::flag,
            State::due,
            State::category,
            State::tray,
            State::until,
            State::done);

    /** What a message can have several of. */
    private static final List<Function<State, Set<Long>>> MANY = List.of(State::also, State::labels);

    /** True if the act changed nothing. */
    public boolean isNothing() {
        return before.equals(after);
    }

    /** The state that results if this change is taken back from what is now. */
    public State undo(State now) {
        return new State(
                undo(State::folder, now),
                undo(State::unread, now),
                undo(State::flagged, now),
                undo(State::flag, now),
                undo(State::due, now),
                undo(State::category, now),
                undoSet(State::also, now),
                undoSet(State::labels, now),
                undo(State::tray, now),
                undo(State::until, now),
                undo(State::done, now));
    }

    private <T extends @Nullable Object> T undo(Function<State, T> aspect, State now) {
        return Objects.equals(aspect.apply(now), aspect.apply(after)) ? aspect.apply(before) : aspect.apply(now);
    }

    /** Whether something that the act changed was changed again since, so that undoing leaves it as it is now. */
    public boolean isOvertaken(State now) {
        return SINGLE.stream().anyMatch(aspect -> isOvertaken(aspect, now))
                || MANY.stream().anyMatch(aspect -> isOvertakenSet(aspect, now));
    }

    private boolean isOvertakenSet(Function<State, Set<Long>> aspect, State now) {
        Set<Long> then = aspect.apply(after);
        Set<Long> once = aspect.apply(before);
        Set<Long> there = aspect.apply(now);
        return once.stream().anyMatch(id -> !then.contains(id) && there.contains(id))
                || then.stream().anyMatch(id -> !once.contains(id) && !there.contains(id));
    }

    private boolean isOvertaken(Function<State, @Nullable Object> aspect, State now) {
        Object then = aspect.apply(after);
        return !Objects.equals(aspect.apply(before), then) && !Objects.equals(aspect.apply(now), then);
    }

    private Set<Long> undoSet(Function<State, Set<Long>> aspect, State now) {
        Set<Long> then = aspect.apply(after);
        Set<Long> once = aspect.apply(before);
        Set<Long> all = new TreeSet<>(aspect.apply(now));
        then.stream().filter(id -> !once.contains(id)).forEach(all::remove);
        once.stream().filter(id -> !then.contains(id)).forEach(all::add);
        return all;
    }
}
