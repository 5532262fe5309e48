package app.schublade.web.desk;

import app.schublade.core.problem.InputProblem;
import app.schublade.web.frame.Choice;
import app.schublade.web.frame.Dates;
import org.jspecify.annotations.Nullable;

/**
 * What a page asks to be done to messages.
 *
 * @param deed the name of what it is
 * @param place the id of the folder, label, category, tray, flag, account or routine; none of a category clears it
 * @param path the folder or label, if it is still to be made
 * @param on whether the label is put on or taken off; of the tickler, whether it comes back when its sender writes, too
 * @param due when it is due, or comes back from the tickler, as {@link Dates#when} reads it; empty to clear it
 */
record ActRequest(
        @Nullable String deed,
        @Nullable Long place,
        @Nullable String path,
        @Nullable Boolean on,
        @Nullable String due) {

    /** What can be asked for. */
    enum ActKind {
        READ,
        UNREAD,
        FLAG,
        UNFLAG,
        FLAG_AS,
        ARCHIVE,
        DELETE,
        FILE,
        LABEL,
        CATEGORY,
        DUE,
        /** Until a day; without one, back into the Inbox. */
        TICKLER,
        TRAY,
        COPY,
        /** All that a routine says. */
        ROUTINE,
        /** Over to another account. */
        CARRY,
        /** Out of the trash, and never back. */
        FOR_GOOD,
        /** Read because it was open for a while. */
        GLANCE;

        /** Whether messages are put where they are to stay. */
        boolean files() {
            return this == FILE || this == ARCHIVE;
        }

        /** Whether they lie elsewhere afterwards. */
        boolean isMove() {
            return files() || this == DELETE || this == CARRY;
        }
    }

    ActKind kind() {
        if (deed == null) {
            throw new InputProblem("No access was asked for.");
        }
        return Choice.of(ActKind.class, deed);
    }

    /** Whether it is put on rather than taken off. */
    boolean isOn() {
        return !Boolean.FALSE.equals(on);
    }
}
