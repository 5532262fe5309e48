package app.schublade.web.rules;

import app.schublade.core.filing.Change;
import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.DueDate;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Routine;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.State;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.filing.RecordStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RuleStore;
import app.schublade.web.frame.Dates;
import app.schublade.web.rules.RuleForm.ActionLine;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;

/** What a new routine begins with: what the user did last to a message, or what a rule does. */
@Component
class RoutineStart {
    /** What is done of itself when mail comes has no place in a routine. */
    static final Set<RuleForm.RuleAction> POSSIBLE =
            EnumSet.complementOf(EnumSet.of(RuleForm.RuleAction.NOTIFY, RuleForm.RuleAction.NOTIFY_ALOUD));

    private final RecordStore record;
    private final PlaceStore places;
    private final RuleStore rules;
    private final Dates dates;

    RoutineStart(RecordStore record, PlaceStore places, RuleStore rules, Dates dates) {
        this.record = record;
        this.places = places;
        this.rules = rules;
        this.dates = dates;
    }

    /**
     * Steps to begin with.
     *
     * @param source what they are taken from: the subject of a message, the name of a rule
     * @param sentence what they do
     */
    public record FirstSteps(String source, String sentence, List<ActionLine> lines) {
        static final FirstSteps EMPTY = new FirstSteps("", "", List.of());

        static FirstSteps of(String source, List<Effect> steps) {
            List<ActionLine> lines = RuleForm.actions(steps).stream()
                    .filter(line -> POSSIBLE.contains(line.deed()))
                    .toList();
            return new FirstSteps(source, new Routine(0, source, steps, List.of()).sentence(), lines);
        }
    }

    /** What the user did to the message that he or she did something to last, and within an hour before. */
    Optional<FirstSteps> byExample(long userId) {
        return record.doneLast(userId)
                .map(done -> FirstSteps.of(
                        done.subject().isBlank() ? "(no subject)" : done.subject(),
                        steps(done.change(), places.of(userId, null), dates.today())))
                .filter(begun -> !begun.lines().isEmpty());
    }

    Optional<FirstSteps> fromRule(long userId, long rule) {
        return rules.byId(userId, rule).map(one -> FirstSteps.of(one.name(), one.then()));
    }

    /** Those that a routine can begin with, as their names stand in order. */
    List<Rule> rules(long userId) {
        return rules.all(userId).stream().filter(rule -> !rule.then().isEmpty()).toList();
    }

    /** The steps by which a message came from one state to the other; its days count from today. */
    static List<Effect> steps(Change change, Places places, LocalDate today) {
        State before = change.before();
        State after = change.after();
        List<Effect> steps = new ArrayList<>();
        if (after.unread() != before.unread()) {
            steps.add(new Effect.MarkRead(!after.unread()));
        }
        DayTime due = after.due();
        Long flag = after.flag();
        if (flag != null && !flag.equals(before.flag())) {
            places.flag(flag).ifPresent(one -> steps.add(new Effect.FlagAs(one.ref())));
        }
        if (due != null && !due.equals(before.due())) {
            steps.add(new Effect.Due(in(due, today)));
        } else if (flag == null && after.flagged() != before.flagged()) {
            steps.add(new Effect.Flag(after.flagged()));
        }
        if (!after.categories().equals(before.categories())) {
            Long category = after.category();
            if (category == null) {
                steps.add(new Effect.Categorise(null));
            } else {
                places.categories().stream()
                        .filter(one -> one.id() == category)
                        .forEach(one -> steps.add(new Effect.Categorise(one.ref())));
            }
        }
        for (Places.Label label : places.labels()) {
            boolean has = after.labels().contains(label.id());
            if (has != before.labels().contains(label.id())) {
                steps.add(new Effect.SetLabel(label.ref(), has));
            }
        }
        Long tray = after.tray();
        if (tray != null && !tray.equals(before.tray())) {
            places.tray(tray).ifPresent(one -> steps.add(new Effect.PutInto(one.ref())));
        }
        if (after.folder() != before.folder()) {
            Places.Folder tickler = places.special(SpecialUse.TICKLER);
            DayTime until = after.until();
            if (after.folder() == tickler.id() && until != null) {
                steps.add(new Effect.Tickle(tickler.ref(), in(until, today)));
            } else {
                places.folder(after.folder()).ifPresent(folder -> steps.add(new Effect.FileInto(folder.ref())));
            }
        }
        return steps;
    }

    private static DueDate in(DayTime at, LocalDate today) {
        long days = Math.min(Math.max(0, ChronoUnit.DAYS.between(today, at.day())), DueDate.MAX_DAYS);
        return new DueDate.After((int) days, false, at.time());
    }
}
