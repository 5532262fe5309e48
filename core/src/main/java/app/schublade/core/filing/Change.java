package app.schublade.core.filing;

import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;

/**
 * What one act did to one message. Undoing it puts back each aspect that it changed, unless that aspect was
 * changed again since: then it stays as it is.
 */
public record Change(State before, State after) {

    /** True if the act changed nothing. */
    public boolean isNothing() {
        return before.equals(after);
    }

    /** The state that results if this change is taken back from what is now. */
    public State undo(State now) {
        long folder = now.folder() == after.folder() ? before.folder() : now.folder();
        boolean unread = now.unread() == after.unread() ? before.unread() : now.unread();
        boolean flagged = now.flagged() == after.flagged() ? before.flagged() : now.flagged();
        Long category = Objects.equals(now.category(), after.category()) ? before.category() : now.category();
        return new State(folder, unread, flagged, category, undoLabels(now.labels()));
    }

    /** Whether something that the act changed was changed again since, so that undoing leaves it as it is now. */
    public boolean isOvertaken(State now) {
        return (before.folder() != after.folder() && now.folder() != after.folder())
                || (before.unread() != after.unread() && now.unread() != after.unread())
                || (before.flagged() != after.flagged() && now.flagged() != after.flagged())
                || (!Objects.equals(before.category(), after.category())
                        && !Objects.equals(now.category(), after.category()))
                || before.labels().stream()
                        .anyMatch(id ->
                                !after.labels().contains(id) && now.labels().contains(id))
                || after.labels().stream()
                        .anyMatch(id ->
                                !before.labels().contains(id) && !now.labels().contains(id));
    }

    private Set<Long> undoLabels(Set<Long> now) {
        Set<Long> labels = new TreeSet<>(now);
        after.labels().stream().filter(id -> !before.labels().contains(id)).forEach(labels::remove);
        before.labels().stream().filter(id -> !after.labels().contains(id)).forEach(labels::add);
        return labels;
    }
}
