package app.schublade.core.filing;

import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.TrayRef;
import java.time.LocalDate;
import java.util.List;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * One thing to be done to a message, whoever wants it: a rule, a key, a drag, an undo.
 *
 * <p>Effects are intentions: doing one twice is the same as doing it once.
 */
public sealed interface Effect {

    /** The state after this effect. */
    State on(State state);

    /** The same for a message that arrived on that day. */
    default Effect arriving(LocalDate day) {
        return this;
    }

    /** Whether the message goes to another folder by it; of several such the first counts. */
    default boolean moves() {
        return false;
    }

    /** As the end of a sentence: {@code "file into Loans / Halden Foundation"}. */
    String sentence();

    /** Something that changes nothing at the message. It is for mail as it arrives, not in a run over what is there. */
    sealed interface Besides extends Effect {
        @Override
        default State on(State state) {
            return state;
        }
    }

    /** Moves the message into a folder. */
    record FileInto(FolderRef folder) implements Effect {
        @Override
        public State on(State state) {
            return state.in(folder.id());
        }

        @Override
        public boolean moves() {
            return true;
        }

        @Override
        public String sentence() {
            return "file into " + folder.path().shown();
        }
    }

    /** Puts the message out of sight until a day, when it comes back into the Inbox. */
    record Tickle(FolderRef tickler, DueDate back) implements Effect {
        /** Of a message of which it is not known when it arrived, only a fixed date can be told. */
        @Override
        public State on(State state) {
            State away = state.in(tickler.id());
            return back instanceof DueDate.On fixed ? away.until(fixed.date()) : away;
        }

        @Override
        public Effect arriving(LocalDate day) {
            return new Tickle(tickler, new DueDate.On(back.after(day)));
        }

        @Override
        public boolean moves() {
            return true;
        }

        @Override
        public String sentence() {
            return "into the tickler, back " + back.words();
        }
    }

    /** Makes a copy in another folder; the message itself stays as it is. One that is there already is enough. */
    record CopyInto(FolderRef folder) implements Effect {
        @Override
        public State on(State state) {
            return state;
        }

        @Override
        public String sentence() {
            return "copy into " + folder.path().shown();
        }
    }

    /** Answers the sender of new mail, once a week. */
    record Answer(String text) implements Besides {
        private static final int SHOWN = 60;

        @Override
        public String sentence() {
            String line = text.replaceAll("\\s+", " ").strip();
            return "answer “%s”".formatted(line.length() <= SHOWN ? line : line.substring(0, SHOWN) + "…");
        }
    }

    /**
     * Passes new mail on.
     *
     * @param to addresses as people write them, commas between
     * @param attached whether it is attached as it came; else its text stands in the new message, its files with it
     * @param text what is written above it; can be empty
     */
    record Forward(String to, boolean attached, String text) implements Besides {
        private static final Pattern ADDRESS = Pattern.compile("[^\\s<>,;]+@[^\\s<>,;]+");

        /** The addresses without names. */
        public List<String> addresses() {
            return ADDRESS.matcher(to).results().map(MatchResult::group).toList();
        }

        @Override
        public String sentence() {
            return "forward to " + to + (attached ? " as an attachment" : "");
        }
    }

    /** Tells the user of the message as it arrives. */
    record Notify(boolean sound) implements Besides {
        @Override
        public String sentence() {
            return sound ? "notify with a sound" : "notify";
        }
    }

    /** Adds a label, or takes it off. */
    record Label(LabelRef label, boolean on) implements Effect {
        @Override
        public State on(State state) {
            return state.with(label.id(), on);
        }

        @Override
        public String sentence() {
            return (on ? "label " : "take off label ") + label.path().shown();
        }
    }

    /** Sets the category, or clears it if it is null. */
    record Categorise(@Nullable CategoryRef category) implements Effect {
        @Override
        public State on(State state) {
            return state.categorised(category == null ? null : category.id());
        }

        @Override
        public String sentence() {
            return category == null ? "clear the category" : "category " + category.name();
        }
    }

    /** Marks as read or unread. */
    record MarkRead(boolean read) implements Effect {
        @Override
        public State on(State state) {
            return state.unread(!read);
        }

        @Override
        public String sentence() {
            return read ? "mark as read" : "mark as unread";
        }
    }

    /** Sets or clears the flag. */
    record Flag(boolean on) implements Effect {
        @Override
        public State on(State state) {
            return state.flagged(on);
        }

        @Override
        public String sentence() {
            return on ? "flag" : "clear the flag";
        }
    }

    /** Flags, with a date until when something must be done. */
    record Due(DueDate due) implements Effect {
        /** Of a message of which it is not known when it arrived, only a fixed date can be told. */
        @Override
        public State on(State state) {
            return due instanceof DueDate.On fixed ? state.due(fixed.date()) : state.flagged(true);
        }

        @Override
        public Effect arriving(LocalDate day) {
            return new Due(new DueDate.On(due.after(day)));
        }

        @Override
        public String sentence() {
            return "flag, due " + due.words();
        }
    }

    /** Puts the message into a tray of the Inbox. */
    record PutInto(TrayRef tray) implements Effect {
        @Override
        public State on(State state) {
            return state.sorted(tray.id());
        }

        @Override
        public String sentence() {
            return "put into the tray " + tray.name();
        }
    }
}
