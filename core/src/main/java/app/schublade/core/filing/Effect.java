package app.schublade.core.filing;

import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FlagRef;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.TrayRef;
import java.time.LocalDate;
import java.time.LocalDateTime;
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

    /** The state after all of these, in their order. */
    static State all(List<Effect> effects, State state) {
        State after = state;
        for (Effect effect : effects) {
            after = effect.on(after);
        }
        return after;
    }

    /** The same for a message that arrived on that day. */
    default Effect arriving(LocalDate day) {
        return this;
    }

    /** The same when the user does it on that day. */
    default Effect today(LocalDate day) {
        return arriving(day);
    }

    /** Whether it is for a day that must be asked for first. */
    default boolean asksForDay() {
        return false;
    }

    /** The same with the day that was asked for. */
    default Effect onDay(DayTime chosen) {
        return this;
    }

    /** Whether the message goes to another folder by it; of several such the first counts. */
    default boolean moves() {
        return false;
    }

    <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X;

    /** As the end of a sentence: {@code "file into Loans / Halden Foundation"}. */
    String sentence();

    /** When something must be done about a message that gets a category; null if the category says nothing of it. */
    private static @Nullable DueDate dueBy(CategoryRef category) {
        return category.dueDays() == null ? null : new DueDate.After(category.dueDays(), false);
    }

    /** Something that no rule can do, and so neither a row nor a form nor a script need know it. */
    sealed interface ByHand extends Effect {
        @Override
        default <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.byHand(this);
        }
    }

    /** Something that leaves the message as it is and makes another one of it. */
    sealed interface Copying extends Effect {
        @Override
        default State on(State state) {
            return state;
        }
    }

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

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.fileInto(this);
        }
    }

    /** Puts the message out of sight until a day, when it comes back into the Inbox. */
    record Tickle(FolderRef tickler, DueDate back) implements Effect {
        /** Of a message of which it is not known when it arrived, only a fixed date can be told. */
        @Override
        public State on(State state) {
            State away = state.in(tickler.id());
            return back instanceof DueDate.On fixed ? away.until(fixed.at()) : away;
        }

        @Override
        public Effect arriving(LocalDate day) {
            return new Tickle(tickler, new DueDate.On(back.after(day)));
        }

        @Override
        public boolean asksForDay() {
            return back instanceof DueDate.Asked;
        }

        @Override
        public Effect onDay(DayTime chosen) {
            return asksForDay() ? new Tickle(tickler, new DueDate.On(chosen)) : this;
        }

        @Override
        public boolean moves() {
            return true;
        }

        @Override
        public String sentence() {
            return "into the tickler, back " + back.words();
        }

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.tickle(this);
        }
    }

    /** Makes a copy in another folder; the message itself stays as it is. One that is there already is enough. */
    record CopyInto(FolderRef folder) implements Copying {
        @Override
        public String sentence() {
            return "copy into " + folder.path().shown();
        }

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.copyInto(this);
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

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.answer(this);
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

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.forward(this);
        }
    }

    /** Answers a message with a text, without opening the answer; it is for routines alone. */
    record AnswerAtOnce(String text) implements Besides {
        @Override
        public String sentence() {
            return new Answer(text).sentence() + " at once";
        }

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.answerAtOnce(this);
        }
    }

    /** Tells the user if nobody has answered what the same routine sends; it is for routines alone. */
    record AwaitAnswer(DueDate by) implements Besides {
        @Override
        public String sentence() {
            return "tell you if nobody has answered " + by.words();
        }

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.awaitAnswer(this);
        }
    }

    /** Tells the user of the message as it arrives. */
    record Notify(boolean sound) implements Besides {
        @Override
        public String sentence() {
            return sound ? "notify with a sound" : "notify";
        }

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.notify(this);
        }
    }

    /** Adds a label, or takes it off. */
    record SetLabel(LabelRef label, boolean on) implements Effect {
        @Override
        public State on(State state) {
            return state.with(label.id(), on);
        }

        @Override
        public String sentence() {
            return (on ? "label " : "take off label ") + label.path().shown();
        }

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.label(this);
        }
    }

    /** Sets the category, or clears it if it is null; one that says so flags the message too, with a due date. */
    record Categorise(
            @Nullable CategoryRef category, @Nullable DueDate due) implements Effect {
        public Categorise(@Nullable CategoryRef category) {
            this(category, category == null ? null : dueBy(category));
        }

        @Override
        public State on(State state) {
            State categorised = state.categorised(category == null ? null : category.id());
            return due == null ? categorised : due.flag(categorised);
        }

        @Override
        public Effect arriving(LocalDate day) {
            return due == null ? this : new Categorise(category, new DueDate.On(due.after(day)));
        }

        @Override
        public String sentence() {
            return category == null ? "clear the category" : "category " + category.name();
        }

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.categorise(this);
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

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.markRead(this);
        }
    }

    /** Sets or clears the flag. */
    record Flag(boolean on) implements Effect {
        @Override
        public State on(State state) {
            return state.flagged(on);
        }

        @Override
        public Effect today(LocalDate day) {
            return on ? this : new TickOff(day);
        }

        @Override
        public String sentence() {
            return on ? "flag" : "clear the flag";
        }

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.flag(this);
        }
    }

    /** Flags as one of the user's own flags; its due date stays. */
    record FlagAs(FlagRef flag) implements Effect {
        @Override
        public State on(State state) {
            return state.flaggedAs(flag.id());
        }

        @Override
        public String sentence() {
            return "flag as " + flag.name();
        }

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.flagAs(this);
        }
    }

    /** Flags, with a date until when something must be done. */
    record Due(DueDate due) implements Effect {
        @Override
        public State on(State state) {
            return due.flag(state);
        }

        @Override
        public Effect arriving(LocalDate day) {
            return new Due(new DueDate.On(due.after(day)));
        }

        @Override
        public boolean asksForDay() {
            return due instanceof DueDate.Asked;
        }

        @Override
        public Effect onDay(DayTime chosen) {
            return asksForDay() ? new Due(new DueDate.On(chosen)) : this;
        }

        @Override
        public String sentence() {
            return "flag, due " + due.words();
        }

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.due(this);
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

        @Override
        public <T, X extends Exception> T accept(EffectVisitor<T, X> visitor) throws X {
            return visitor.putInto(this);
        }
    }

    /** Puts one of several categories on, or takes it off; the others stay. */
    record TurnCategory(
            CategoryRef category,
            boolean on,
            List<Long> ranked,
            @Nullable DueDate due) implements ByHand {
        public TurnCategory {
            ranked = List.copyOf(ranked);
        }

        /** @param ranked the ids of all categories, the most important first */
        public TurnCategory(CategoryRef category, boolean on, List<Long> ranked) {
            this(category, on, ranked, on ? dueBy(category) : null);
        }

        @Override
        public State on(State state) {
            State turned = state.categorised(ranked.stream()
                    .filter(id -> id == category.id() ? on : state.categories().contains(id))
                    .toList());
            return due == null ? turned : due.flag(turned);
        }

        @Override
        public Effect arriving(LocalDate day) {
            return due == null ? this : new TurnCategory(category, on, ranked, new DueDate.On(due.after(day)));
        }

        @Override
        public String sentence() {
            return (on ? "category " : "take off category ") + category.name();
        }
    }

    /** Clears the flag, for what it asked for is done. */
    record TickOff(LocalDate day) implements ByHand {
        @Override
        public State on(State state) {
            return state.ticked(day);
        }

        @Override
        public String sentence() {
            return "clear the flag";
        }
    }

    /** Clears the date until when something must be done; the flag stays. */
    record ClearDue() implements ByHand {
        @Override
        public State on(State state) {
            return state.flagged() ? state.due(null) : state;
        }

        @Override
        public String sentence() {
            return "clear the due date";
        }
    }

    /** Brings the message back from the tickler into the Inbox at once; one that has come back is reminded of no more. */
    record BringBack(FolderRef tickler, FolderRef inbox) implements ByHand {
        @Override
        public State on(State state) {
            return state.folder() == tickler.id() ? state.in(inbox.id()) : state.until(null);
        }

        @Override
        public String sentence() {
            return "back from the tickler";
        }
    }

    /** Brings the message over to another account's server, into the same folder there; it stays here until that has it. */
    record CarryTo(InAccount.Ref account) implements ByHand, Copying {
        @Override
        public String sentence() {
            return "carry over to " + account.name();
        }
    }

    /** Brings the message back from the tickler when its time has come: into the Inbox, unread. */
    record ComeBack(FolderRef tickler, FolderRef inbox, LocalDateTime now) implements ByHand {
        @Override
        public State on(State state) {
            return state.back(tickler.id(), inbox.id(), now);
        }

        @Override
        public String sentence() {
            return "back from the tickler";
        }
    }

    /** Deletes a message that lies in the trash, here and on its server; nobody brings it back. */
    record DeleteForGood() implements ByHand {
        /** It lies where it is until its server has deleted it. */
        @Override
        public State on(State state) {
            return state;
        }

        @Override
        public String sentence() {
            return "delete for good";
        }
    }

    /** Does something for each kind of effect; a new kind does not compile until everybody who must know it does. */
    interface EffectVisitor<T, X extends Exception> {
        T fileInto(FileInto effect) throws X;

        T tickle(Tickle effect) throws X;

        T copyInto(CopyInto effect) throws X;

        T answer(Answer effect) throws X;

        T forward(Forward effect) throws X;

        T answerAtOnce(AnswerAtOnce effect) throws X;

        T awaitAnswer(AwaitAnswer effect) throws X;

        T notify(Notify effect) throws X;

        T label(SetLabel effect) throws X;

        T categorise(Categorise effect) throws X;

        T markRead(MarkRead effect) throws X;

        T flag(Flag effect) throws X;

        T flagAs(FlagAs effect) throws X;

        T due(Due effect) throws X;

        T putInto(PutInto effect) throws X;

        T byHand(ByHand effect) throws X;
    }
}
