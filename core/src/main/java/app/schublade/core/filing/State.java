package app.schublade.core.filing;

import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Everything about a message that filing can change.
 *
 * @param folder the one folder it lies in
 * @param category the id of its category, or null
 * @param labels the ids of its labels
 */
public record State(
        long folder,
        boolean unread,
        boolean flagged,
        @Nullable Long category,
        Set<Long> labels) {
    public State {
        labels = Set.copyOf(labels);
    }

    public State in(long otherFolder) {
        return new State(otherFolder, unread, flagged, category, labels);
    }

    public State unread(boolean value) {
        return new State(folder, value, flagged, category, labels);
    }

    public State flagged(boolean value) {
        return new State(folder, unread, value, category, labels);
    }

    public State categorised(@Nullable Long value) {
        return new State(folder, unread, flagged, value, labels);
    }

    public State labelled(Set<Long> value) {
        return new State(folder, unread, flagged, category, value);
    }

    State with(long label, boolean on) {
        Set<Long> changed = new TreeSet<>(labels);
        if (on) {
            changed.add(label);
        } else {
            changed.remove(label);
        }
        return labelled(changed);
    }
}
