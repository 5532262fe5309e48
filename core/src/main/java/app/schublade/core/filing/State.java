package app.schublade.core.filing;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Everything about a message that filing can change.
 *
 * @param folder the one folder it lies in
 * @param flag the id of the user's own flag that it is flagged as, or null; null if it is not flagged
 * @param due when something must be done about it, if it is flagged; or null
 * @param category the id of its category, or null; of several that of the highest rank
 * @param also the ids of its other categories
 * @param labels the ids of its labels
 * @param tray the id of its division of the Inbox, or null; kept while it lies elsewhere
 * @param until when it comes back from the tickler, or came back from there into the Inbox; or null
 * @param done the day on which its flag was ticked off, or null; null while it is flagged
 */
public record State(
        long folder,
        boolean unread,
        boolean flagged,
        @Nullable Long flag,
        @Nullable DayTime due,
        @Nullable Long category,
        Set<Long> also,
        Set<Long> labels,
        @Nullable Long tray,
        @Nullable DayTime until,
        @Nullable LocalDate done) {
    public State {
        flag = flagged ? flag : null;
        done = flagged ? null : done;
        also = Set.copyOf(also);
        labels = Set.copyOf(labels);
    }

    /** Of a message that has neither a due date nor a tray. */
    public State(long folder, boolean unread, boolean flagged, @Nullable Long category, Set<Long> labels) {
        this(folder, unread, flagged, null, null, category, Set.of(), labels, null, null, null);
    }

    /** In another folder, and with that no more in the tickler. */
    public State in(long otherFolder) {
        return otherFolder == folder
                ? this
                : new State(otherFolder, unread, flagged, flag, due, category, also, labels, tray, null, done);
    }

    /** With the time when it comes back from the tickler. */
    public State until(@Nullable DayTime value) {
        return new State(folder, unread, flagged, flag, due, category, also, labels, tray, value, done);
    }

    /** Back from the tickler in the Inbox, unread; one that is not in the tickler until then stays as it is. */
    public State back(long tickler, long inbox, LocalDateTime now) {
        return folder == tickler && until != null && until.hasCome(now)
                ? in(inbox).until(until).unread(true)
                : this;
    }

    public State unread(boolean value) {
        return new State(folder, value, flagged, flag, due, category, also, labels, tray, until, done);
    }

    /** Flagged as one of the user's own flags, or plainly if that is null. */
    public State flaggedAs(@Nullable Long own) {
        return new State(folder, unread, true, own, due, category, also, labels, tray, until, done);
    }

    /** Flagged, as it was if it was; or not flagged. */
    public State flagged(boolean value) {
        return new State(
                folder,
                unread,
                value,
                value ? flag : null,
                value ? due : null,
                category,
                also,
                labels,
                tray,
                until,
                done);
    }

    /** What was to be done about it is done: its flag is off, and it is known since when. Nothing if it was not flagged. */
    public State ticked(LocalDate day) {
        return flagged ? new State(folder, unread, false, null, null, category, also, labels, tray, until, day) : this;
    }

    /** Flagged, with the date until when something must be done. */
    public State due(@Nullable DayTime value) {
        return new State(folder, unread, true, flag, value, category, also, labels, tray, until, done);
    }

    /** With this category alone, or with none. */
    public State categorised(@Nullable Long value) {
        return new State(folder, unread, flagged, flag, due, value, Set.of(), labels, tray, until, done);
    }

    /** With these categories alone, the one of the highest rank first. */
    public State categorised(List<Long> ranked) {
        return ranked.isEmpty()
                ? categorised((Long) null)
                : new State(
                        folder,
                        unread,
                        flagged,
                        flag,
                        due,
                        ranked.get(0),
                        Set.copyOf(ranked.subList(1, ranked.size())),
                        labels,
                        tray,
                        until,
                        done);
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
        return new State(folder, unread, flagged, flag, due, category, also, value, tray, until, done);
    }

    public State sorted(@Nullable Long value) {
        return new State(folder, unread, flagged, flag, due, category, also, labels, value, until, done);
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
