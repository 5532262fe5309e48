package app.schublade.web.desk;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.DueDate;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Routine;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RoutineStore;
import app.schublade.store.user.HabitStore;
import app.schublade.web.frame.Dates;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Understands what a page asks to be done to messages. */
@Component
class RequestedEffects {
    private final AccountStore accounts;
    private final PlaceStore places;
    private final HabitStore habits;
    private final Dates dates;
    private final RoutineStore routines;

    RequestedEffects(AccountStore accounts, PlaceStore places, HabitStore habits, Dates dates, RoutineStore routines) {
        this.routines = routines;
        this.accounts = accounts;
        this.places = places;
        this.habits = habits;
        this.dates = dates;
    }

    /**
     * What is to be done, and how it is told afterwards.
     *
     * @param routine what does it, or null: it may send something besides
     */
    record Requested(
            List<Effect> effects, String told, @Nullable Routine routine) {
        Requested(Effect effect, String told) {
            this(List.of(effect), told, null);
        }
    }

    /**
     * Folders and labels that are asked for by their path are made if they are not there.
     *
     * @throws InputProblem if what it names is gone, or cannot be
     */
    Requested of(long userId, ActRequest request) {
        return switch (request.kind()) {
            case READ, GLANCE -> new Requested(new Effect.MarkRead(true), "Marked as read");
            case UNREAD -> new Requested(new Effect.MarkRead(false), "Marked as unread");
            case FLAG -> new Requested(new Effect.Flag(true), "Flagged");
            case FLAG_AS -> {
                Places.OwnFlag flag = places.of(userId, null)
                        .flag(request.place())
                        .orElseThrow(() -> new InputProblem("This flag is gone. Choose another with Shift+G."));
                yield new Requested(new Effect.FlagAs(flag.ref()), "Flagged as " + flag.name());
            }
            case UNFLAG -> new Requested(new Effect.TickOff(dates.today()), "Flag cleared");
            case ARCHIVE -> new Requested(new Effect.FileInto(places.shared(userId, SpecialUse.ARCHIVE)), "Archived");
            case DELETE ->
                new Requested(new Effect.FileInto(places.shared(userId, SpecialUse.TRASH)), "Moved to the trash");
            case FOR_GOOD -> new Requested(new Effect.DeleteForGood(), "Deleted for good");
            case FILE -> {
                FolderRef target = folder(userId, request);
                yield new Requested(
                        new Effect.FileInto(target),
                        "Filed into " + target.path().shown());
            }
            case COPY -> {
                FolderRef target = folder(userId, request);
                yield new Requested(
                        new Effect.CopyInto(target),
                        "Copied into " + target.path().shown());
            }
            case CARRY -> {
                Account target = account(userId, request);
                yield new Requested(new Effect.CarryTo(target.ref()), "Moved to " + target.name());
            }
            case LABEL -> {
                LabelRef label = label(userId, request);
                String told = request.isOn() ? "Labelled " : "Took off the label ";
                yield new Requested(
                        new Effect.SetLabel(label, request.isOn()),
                        told + label.path().shown());
            }
            case CATEGORY -> category(userId, request);
            case DUE -> due(when(request));
            case TICKLER -> tickler(userId, when(request), Boolean.TRUE.equals(request.on()));
            case TRAY -> {
                Places.Tray tray = places.of(userId, null)
                        .tray(request.place())
                        .orElseThrow(() -> new InputProblem("This tray is gone."));
                yield new Requested(new Effect.PutInto(tray.ref()), "Put into the tray " + tray.name());
            }
            case ROUTINE -> routine(userId, request.place() == null ? 0 : request.place(), when(request));
        };
    }

    private Account account(long userId, ActRequest request) {
        Account account = accounts.of(userId).stream()
                .filter(one -> request.place() != null && one.id() == request.place())
                .findFirst()
                .orElseThrow(() -> new InputProblem("This account is gone."));
        if (account.hosts().protocol() != Account.Protocol.IMAP) {
            throw new InputProblem(
                    "The server of %s only gives mail out; nothing can be put there.".formatted(account.name()));
        }
        return account;
    }

    private FolderRef folder(long userId, ActRequest request) {
        if (request.path() != null) {
            return places.folder(userId, FolderPath.parse(request.path()));
        }
        return places.of(userId, null)
                .folder(request.place() == null ? 0 : request.place())
                .map(Places.Folder::ref)
                .orElseThrow(() -> new InputProblem("This folder is gone. Choose another with F."));
    }

    private LabelRef label(long userId, ActRequest request) {
        if (request.path() != null) {
            return places.label(userId, FolderPath.parse(request.path()));
        }
        return places.of(userId, null)
                .label(request.place() == null ? 0 : request.place())
                .map(Places.Label::ref)
                .orElseThrow(() -> new InputProblem("This label is gone. Choose another with L."));
    }

    private Requested category(long userId, ActRequest request) {
        if (request.place() == null) {
            return new Requested(new Effect.Categorise(null), "Category cleared");
        }
        Places known = places.of(userId, null);
        CategoryRef category = known.category(request.place())
                .map(Places.Category::ref)
                .orElseThrow(() -> new InputProblem("This category is gone."));
        boolean amongOthers = !request.isOn() || habits.of(userId).severalCategories();
        Effect effect = amongOthers
                ? new Effect.TurnCategory(
                        category,
                        request.isOn(),
                        known.categories().stream().map(Places.Category::id).toList())
                : new Effect.Categorise(category);
        String told = request.isOn() ? "Category " : "Took off the category ";
        return new Requested(effect.arriving(dates.today()), told + category.name());
    }

    private Requested routine(long userId, long id, @Nullable DayTime chosen) {
        Routine routine = routines.of(userId, id)
                .orElseThrow(() -> new InputProblem("This routine is gone. Those that are there stand under Q."));
        if (!routine.gone().isEmpty()) {
            throw new InputProblem("“%s” names what is gone: %s. Change it under Settings, Routines."
                    .formatted(routine.name(), String.join(", ", routine.gone())));
        }
        if (routine.asksForDay() && chosen == null) {
            throw new InputProblem("“%s” asks for a day: choose one.".formatted(routine.name()));
        }
        if (chosen != null && routine.steps().stream().anyMatch(step -> step.asksForDay() && step.moves())) {
            mustBeToCome(chosen);
        }
        return new Requested(
                routine.changes().stream()
                        .map(step -> chosen == null ? step : step.onDay(chosen))
                        .map(step -> step.today(dates.today()))
                        .toList(),
                routine.name(),
                routine);
    }

    /** The tickler keeps nothing until a time that is over. */
    private void mustBeToCome(DayTime at) {
        if (at.hasCome(dates.local(dates.now()))) {
            throw new InputProblem("Choose a time that is still to come; until then it stays in the tickler.");
        }
    }

    private @Nullable DayTime when(ActRequest request) {
        String asked = request.due();
        return asked == null || asked.isBlank() ? null : dates.when(asked);
    }

    private Requested due(@Nullable DayTime at) {
        return at == null
                ? new Requested(new Effect.ClearDue(), "Due date cleared")
                : new Requested(new Effect.Due(new DueDate.On(at)), "Flagged, due " + dates.due(at));
    }

    private Requested tickler(long userId, @Nullable DayTime at, boolean untilTheyWrite) {
        FolderRef tickler = places.shared(userId, SpecialUse.TICKLER);
        if (at == null) {
            return new Requested(
                    new Effect.BringBack(tickler, places.shared(userId, SpecialUse.INBOX)), "Out of the tickler");
        }
        mustBeToCome(at);
        String until = untilTheyWrite ? "until they write, or " + dates.due(at) : "until " + dates.due(at);
        return new Requested(new Effect.Tickle(tickler, new DueDate.On(at)), "In the tickler " + until);
    }
}
