package app.schublade.core.filing;

import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Everything about a message that filing can change.
 *
 * @param folder the one folder it lies in
 * @param due when something must be done about it, if it is flagged; or null
 * @param category the id of its category, or null; of several that of the highest rank
 * @param also the ids of its other categories
 * @param labels the ids of its labels
 * @param tray the id of its division of the Inbox, or null; kept while it lies elsewhere
 */
public record State(
        long folder,
        boolean unread,
        boolean flagged,
        @Nullable LocalDate due,
        @Nullable Long category,
        Set<Long> also,
        Set<Long> labels,
        @Nullable Long tray) {
    public State {
        also = Set.copyOf(also);
        labels = Set.copyOf(labels);
    }

    /** Of a message that has neither a due date nor a tray. */
    public State(long folder, boolean unread, boolean flagged, @Nullable Long category, Set<Long> labels) {
        this(folder, unread, flagged, null, category, Set.of(), labels, null);
    }

    public State in(long otherFolder) {
        return new State(otherFolder, unread, flagged, due, category, also, labels, tray);
    }

    public State unread(boolean value) {
        return new State(folder, value, flagged, due, category, also, labels, tray);
    }

    /** Flagged without a date, or not flagged. */
    public State flagged(boolean value) {
        return new State(folder, unread, value, value ? due : null, category, also, labels, tray);
    }

    /** Flagged, with the date until when something must be done. */
    public State due(@Nullable LocalDate value) {
        return new State(folder, unread, true, value, category, also, labels, tray);
    }

    /** With this category alone, or with none. */
    public State categorised(@Nullable Long value) {
        return new State(folder, unread, flagged, due, value, Set.of(), labels, tray);
    }

    /** With these categories alone, the one of the highest rank first. */
    public State categorised(List<Long> ranked) {
        return ranked.isEmpty()
                ? categorised((Long) null)
                : new State(
                        folder,
                        unread,
                        flagged,
                        due,
                        ranked.get(0),
                        Set.copyOf(ranked.subList(1, ranked.size())),
                        labels,
                        tray);
    }

    /** The ids of all its categories. */
    public Set<Long> categories() {
        Set<Long> all = new TreeSet<>(also);
        if (category != null) {
            all.add(category);
        }
        return all;
    }

    public State labelled(Set<Long> value) {
        return new State(folder, unread, flagged, due, category, also, value, tray);
    }

    public State sorted(@Nullable Long value) {
        return new State(folder, unread, flagged, due, category, also, labels, value);
    }

    /** With a label, or without it. */
    public State with(long label, boolean on) {
        Set<Long> changed = new TreeSet<>(labels);
        if (on) {
            changed.add(label);
        } else {
            changed.remove(label);
        }
        return labelled(changed);
    }
}
