package app.schublade.web.rules;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Term;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.web.frame.Choice;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A rule as it is being edited: lines of a kind and a text, complete or not.
 *
 * @param id 0 for a new one
 */
public record RuleForm(
        long id,
        String name,
        boolean on,
        List<ConditionLine> when,
        List<ConditionLine> unless,
        List<ActionLine> then,
        boolean last) {

    /** A new rule with nothing in it. */
    static final RuleForm EMPTY = new RuleForm(0, "", true, List.of(), List.of(), List.of(), false).filing();

    /** The same, ready for a folder to be named. */
    RuleForm filing() {
        return new RuleForm(id, name, on, when, unless, List.of(new ActionLine(RuleAction.FILE, "")), last);
    }

    /** How many lines a rule may have in each of its parts. */
    static final int MAX_LINES = 40;

    static final int MAX_TEXT = 2000;
    /** A message lies in one folder. */
    private static final Set<RuleAction> TARGETS =
            EnumSet.of(RuleAction.FILE, RuleAction.ARCHIVE, RuleAction.DELETE, RuleAction.TICKLER);

    /** What a rule can do. Whatever it answers leaves at once; an answer to that is awaited only where somebody is there. */
    static final Set<RuleAction> OF_RULES =
            EnumSet.complementOf(EnumSet.of(RuleAction.ANSWER_AT_ONCE, RuleAction.AWAIT));

    /** How a new line is written in a field of one line. */
    static final String NEW_LINE = " // ";

    /** What can be done. */
    public enum RuleAction {
        FILE("file into", "Folder / folder in it"),
        COPY("copy into", "Folder / folder in it"),
        ARCHIVE("archive", ""),
        DELETE("move to the trash", ""),
        LABEL("label", "Label / label in it"),
        UNLABEL("take off label", "Label / label in it"),
        CATEGORY("category", "its name"),
        CLEAR_CATEGORY("clear the category", ""),
        READ("mark as read", ""),
        UNREAD("mark as unread", ""),
        FLAG("flag", ""),
        FLAG_AS("flag as", "one of your flags"),
        UNFLAG("clear the flag", ""),
        DUE("flag, due", "3 days, 5 working days, 2026-12-01"),
        TRAY("put into tray", "its name"),
        TICKLER("into the tickler, back", "3 days, 5 working days, 2026-12-01"),
        FORWARD("forward to", "addresses // what is written above it"),
        FORWARD_ATTACHED("forward attached to", "addresses // what is written above it"),
        ANSWER("answer", "the text; // begins a new line"),
        ANSWER_AT_ONCE("answer at once", "the text; // begins a new line"),
        AWAIT("tell me if nobody has answered after", "5 working days"),
        NOTIFY("notify", ""),
        NOTIFY_ALOUD("notify with a sound", "");

        private final String words;
        private final String hint;

        RuleAction(String words, String hint) {
            this.words = words;
            this.hint = hint;
        }

        public String words() {
            return words;
        }

        public String hint() {
            return hint;
        }

        public boolean needsText() {
            return !hint.isEmpty();
        }

        /** The id of the list that proposes texts for it, or null. */
        public @Nullable String proposals() {
            return switch (this) {
                case FILE, LABEL, CATEGORY, TRAY, FLAG_AS -> "known-" + name().toLowerCase(Locale.ROOT);
                case COPY -> "known-file";
                case UNLABEL -> "known-label";
                case FORWARD, FORWARD_ATTACHED -> "known-people";
                case ARCHIVE,
                        DELETE,
                        CLEAR_CATEGORY,
                        READ,
                        UNREAD,
                        FLAG,
                        ANSWER_AT_ONCE,
                        AWAIT,
                        UNFLAG,
                        DUE,
                        TICKLER,
                        ANSWER,
                        NOTIFY,
                        NOTIFY_ALOUD -> null;
            };
        }
    }

    /** One thing to be done. */
    public record ActionLine(RuleAction deed, String text) {
        boolean isBlank() {
            return deed.needsText() && text.isBlank();
        }
    }

    public RuleForm {
        when = List.copyOf(when);
        unless = List.copyOf(unless);
        then = List.copyOf(then);
    }

    /** A rule that is there, to be changed. */
    static RuleForm of(Rule rule, Term.Names names) {
        return new RuleForm(
                rule.id(),
                rule.name(),
                rule.on(),
                ConditionLine.of(rule.when(), names),
                ConditionLine.of(rule.unless(), names),
                actions(rule.then()),
                rule.last());
    }

    /** Effects as lines of a form. */
    static List<ActionLine> actions(List<Effect> effects) {
        return effects.stream().map(effect -> effect.accept(LINES)).toList();
    }

    /** Says each effect as a line of the form. */
    private static final Effect.EffectVisitor<ActionLine, RuntimeException> LINES = new Effect.EffectVisitor<>() {
        @Override
        public ActionLine fileInto(Effect.FileInto file) {
            FolderPath path = file.folder().path();
            return path.equals(SpecialUse.ARCHIVE.path())
                    ? new ActionLine(RuleAction.ARCHIVE, "")
                    : path.equals(SpecialUse.TRASH.path())
                            ? new ActionLine(RuleAction.DELETE, "")
                            : new ActionLine(RuleAction.FILE, path.shown());
        }

        @Override
        public ActionLine answer(Effect.Answer answer) {
            return new ActionLine(RuleAction.ANSWER, answer.text().replace("\n", NEW_LINE));
        }

        @Override
        public ActionLine forward(Effect.Forward forward) {
            String text =
                    forward.text().isEmpty() ? "" : NEW_LINE + forward.text().replace("\n", NEW_LINE);
            return new ActionLine(
                    forward.attached() ? RuleAction.FORWARD_ATTACHED : RuleAction.FORWARD, forward.to() + text);
        }

        @Override
        public ActionLine tickle(Effect.Tickle tickle) {
            return new ActionLine(RuleAction.TICKLER, tickle.back().words());
        }

        @Override
        public ActionLine answerAtOnce(Effect.AnswerAtOnce answer) {
            return new ActionLine(RuleAction.ANSWER_AT_ONCE, answer.text().replace("\n", NEW_LINE));
        }

        @Override
        public ActionLine awaitAnswer(Effect.AwaitAnswer await) {
            return new ActionLine(RuleAction.AWAIT, await.by().words());
        }

        @Override
        public ActionLine notify(Effect.Notify notify) {
            return new ActionLine(notify.sound() ? RuleAction.NOTIFY_ALOUD : RuleAction.NOTIFY, "");
        }

        @Override
        public ActionLine copyInto(Effect.CopyInto copy) {
            return new ActionLine(RuleAction.COPY, copy.folder().path().shown());
        }

        @Override
        public ActionLine label(Effect.SetLabel label) {
            return new ActionLine(
                    label.on() ? RuleAction.LABEL : RuleAction.UNLABEL,
                    label.label().path().shown());
        }

        @Override
        public ActionLine categorise(Effect.Categorise set) {
            CategoryRef category = set.category();
            return category == null
                    ? new ActionLine(RuleAction.CLEAR_CATEGORY, "")
                    : new ActionLine(RuleAction.CATEGORY, category.name());
        }

        @Override
        public ActionLine markRead(Effect.MarkRead mark) {
            return new ActionLine(mark.read() ? RuleAction.READ : RuleAction.UNREAD, "");
        }

        @Override
        public ActionLine due(Effect.Due flag) {
            return new ActionLine(RuleAction.DUE, flag.due().words());
        }

        @Override
        public ActionLine putInto(Effect.PutInto put) {
            return new ActionLine(RuleAction.TRAY, put.tray().name());
        }

        @Override
        public ActionLine flagAs(Effect.FlagAs flag) {
            return new ActionLine(RuleAction.FLAG_AS, flag.flag().name());
        }

        @Override
        public ActionLine flag(Effect.Flag flag) {
            return new ActionLine(flag.on() ? RuleAction.FLAG : RuleAction.UNFLAG, "");
        }

        @Override
        public ActionLine byHand(Effect.ByHand effect) {
            throw new IllegalArgumentException("No rule can " + effect.sentence() + ".");
        }
    };

    /** What is to be done as it comes from the page. */
    static List<ActionLine> doings(List<String> deeds, List<String> texts) {
        List<ActionLine> doings = new ArrayList<>();
        for (int i = 0; i < Math.min(deeds.size(), texts.size()); i++) {
            checkLines(i);
            doings.add(new ActionLine(Choice.of(RuleAction.class, deeds.get(i)), limited(texts.get(i))));
        }
        return doings;
    }

    static void checkLines(int lines) {
        if (lines == MAX_LINES) {
            throw new InputProblem("A rule has at most %d lines in each part.".formatted(MAX_LINES));
        }
    }

    static String limited(String text) {
        return text.substring(0, Math.min(text.length(), MAX_TEXT));
    }

    /** Whether it files messages into a folder. */
    public boolean moves() {
        return then.stream()
                .anyMatch(doing ->
                        (doing.deed() == RuleAction.FILE || doing.deed() == RuleAction.TICKLER) && !doing.isBlank());
    }

    /** What is done by no message because an earlier line has chosen its folder: a sentence, or null. */
    public @Nullable String outranked() {
        List<String> targets = then.stream()
                .filter(doing -> TARGETS.contains(doing.deed()) && !doing.isBlank())
                .map(doing -> (doing.deed().words() + " " + doing.text()).strip())
                .distinct()
                .toList();
        return targets.size() < 2
                ? null
                : "The first folder wins: “%s”. “%s” does nothing."
                        .formatted(targets.get(0), String.join("” and “", targets.subList(1, targets.size())));
    }

    /** Without the lines that are not complete yet. */
    RuleForm complete() {
        return new RuleForm(
                id,
                name,
                on,
                when.stream().filter(line -> !line.isBlank()).toList(),
                unless.stream().filter(line -> !line.isBlank()).toList(),
                then.stream().filter(doing -> !doing.isBlank()).toList(),
                last);
    }

    /** The three parts of a rule. */
    enum FormPart {
        WHEN,
        UNLESS,
        THEN
    }

    /** With one more line at the end of a part. */
    RuleForm plus(FormPart part) {
        return switch (part) {
            case WHEN -> with(ConditionLine.plus(when), unless, then);
            case UNLESS -> with(when, ConditionLine.plus(unless), then);
            case THEN -> with(when, unless, with(then, new ActionLine(RuleAction.LABEL, "")));
        };
    }

    /** With one more line in a group. */
    RuleForm plus(FormPart part, int group) {
        return switch (part) {
            case WHEN -> with(ConditionLine.plus(when, group), unless, then);
            case UNLESS -> with(when, ConditionLine.plus(unless, group), then);
            case THEN -> this;
        };
    }

    /** Without one line of a part; a group goes with all that is in it. */
    RuleForm minus(FormPart part, int index) {
        return switch (part) {
            case WHEN -> with(ConditionLine.minus(when, index), unless, then);
            case UNLESS -> with(when, ConditionLine.minus(unless, index), then);
            case THEN -> with(when, unless, without(then, index));
        };
    }

    private static List<ActionLine> with(List<ActionLine> doings, ActionLine more) {
        List<ActionLine> longer = new ArrayList<>(doings);
        longer.add(more);
        return longer;
    }

    private static List<ActionLine> without(List<ActionLine> doings, int index) {
        List<ActionLine> shorter = new ArrayList<>(doings);
        if (index >= 0 && index < shorter.size()) {
            shorter.remove(index);
        }
        return shorter;
    }

    private RuleForm with(List<ConditionLine> newWhen, List<ConditionLine> newUnless, List<ActionLine> newThen) {
        return new RuleForm(id, name, on, newWhen, newUnless, newThen, last);
    }
}
