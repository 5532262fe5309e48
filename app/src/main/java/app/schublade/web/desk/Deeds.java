package app.schublade.web.desk;

import app.schublade.core.filing.State;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.Account;
import app.schublade.store.AccountStore;
import app.schublade.store.Copier;
import app.schublade.store.FilingStore;
import app.schublade.store.FilingStore.Cause;
import app.schublade.store.HabitStore;
import app.schublade.store.PlaceStore;
import app.schublade.store.Places;
import app.schublade.web.frame.Choice;
import app.schublade.web.frame.Dates;
import java.time.LocalDate;
import java.util.List;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What can be done to messages, as the page asks for it. */
@Component
class Deeds {
    private final FilingStore filing;
    private final Copier copier;
    private final AccountStore accounts;
    private final PlaceStore places;
    private final HabitStore habits;
    private final Dates dates;

    Deeds(FilingStore filing, Copier copier, AccountStore accounts, PlaceStore places, HabitStore habits, Dates dates) {
        this.habits = habits;
        this.filing = filing;
        this.copier = copier;
        this.accounts = accounts;
        this.places = places;
        this.dates = dates;
    }

    /** What can be done. */
    enum Deed {
        READ,
        UNREAD,
        FLAG,
        UNFLAG,
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
        /** Over to another account. */
        CARRY,
        /** Read because it was open for a while. */
        GLANCE;

        /** Whether messages are put where they are to stay. */
        boolean files() {
            return this == FILE || this == ARCHIVE;
        }

        boolean isMove() {
            return files() || this == DELETE;
        }
    }

    /**
     * A wish of the page.
     *
     * @param place the id of the folder, label, category, tray or account; none of a category clears it
     * @param path the folder or label, if it is still to be made
     * @param on whether the label is put on or taken off
     * @param due the date of a due date or of the tickler, or null to clear it
     */
    record Wish(
            @Nullable String deed,
            @Nullable Long place,
            @Nullable String path,
            @Nullable Boolean on,
            @Nullable LocalDate due) {

        Deed kind() {
            if (deed == null) {
                throw new InputProblem("Nothing was asked for.");
            }
            return Choice.of(Deed.class, deed);
        }
    }

    /** What is done to messages, under a title. */
    @FunctionalInterface
    interface Work {
        /** @param batch that of the parts before; 0 if there is none yet */
        FilingStore.Outcome on(String title, List<Long> messages, long batch);
    }

    /** A deed as it is carried out and told. */
    record Doing(String told, Work work) {}

    Doing doing(long userId, Wish wish) {
        return switch (wish.kind()) {
            case COPY -> {
                FolderRef target = folder(userId, wish);
                yield new Doing(
                        "Copied into " + target.path().shown(),
                        (title, messages, batch) -> copier.copyInto(userId, title, messages, target.id(), batch));
            }
            case CARRY -> {
                Account target = account(userId, wish);
                yield new Doing(
                        "Carried over to " + target.name(),
                        (title, messages, batch) -> copier.carryOver(userId, title, messages, target.id(), batch));
            }
            default -> {
                Change change = change(userId, wish);
                Cause cause = wish.kind() == Deed.GLANCE ? Cause.GLANCE : Cause.HAND;
                yield new Doing(
                        change.told(),
                        (title, messages, batch) ->
                                filing.actFurther(userId, cause, title, messages, change.state(), batch));
            }
        };
    }

    private Account account(long userId, Wish wish) {
        Account account = accounts.of(userId).stream()
                .filter(one -> wish.place() != null && one.id() == wish.place())
                .findFirst()
                .orElseThrow(() -> new InputProblem("This account is gone."));
        if (account.hosts().protocol() != Account.Protocol.IMAP) {
            throw new InputProblem(
                    "The server of %s only gives mail out; nothing can be put there.".formatted(account.name()));
        }
        return account;
    }

    /** A deed that changes how messages are. */
    private record Change(String told, UnaryOperator<State> state) {}

    private Change change(long userId, Wish wish) {
        return switch (wish.kind()) {
            case READ, GLANCE -> new Change("Marked as read", state -> state.unread(false));
            case UNREAD -> new Change("Marked as unread", state -> state.unread(true));
            case FLAG -> new Change("Flagged", state -> state.flagged(true));
            case UNFLAG -> new Change("Flag cleared", state -> state.flagged(false));
            case ARCHIVE -> into("Archived", places.special(userId, SpecialUse.ARCHIVE));
            case DELETE -> into("Moved to the trash", places.special(userId, SpecialUse.TRASH));
            case FILE -> {
                FolderRef target = folder(userId, wish);
                yield into("Filed into " + target.path().shown(), target.id());
            }
            case LABEL -> label(label(userId, wish), !Boolean.FALSE.equals(wish.on()));
            case CATEGORY -> category(userId, wish);
            case DUE -> due(wish.due());
            case TICKLER -> tickler(userId, wish.due());
            case TRAY -> tray(userId, wish);
            case COPY, CARRY -> throw new InputProblem("A copy changes nothing.");
        };
    }

    private static Change into(String told, long folder) {
        return new Change(told, state -> state.in(folder));
    }

    private FolderRef folder(long userId, Wish wish) {
        if (wish.path() != null) {
            return places.folder(userId, FolderPath.parse(wish.path()));
        }
        return places.of(userId, null)
                .folder(wish.place() == null ? 0 : wish.place())
                .map(found -> new FolderRef(found.id(), found.path()))
                .orElseThrow(() -> new InputProblem("This folder is gone. Choose another with F."));
    }

    private LabelRef label(long userId, Wish wish) {
        if (wish.path() != null) {
            return places.label(userId, FolderPath.parse(wish.path()));
        }
        return places.of(userId, null)
                .label(wish.place() == null ? 0 : wish.place())
                .map(found -> new LabelRef(found.id(), found.path()))
                .orElseThrow(() -> new InputProblem("This label is gone. Choose another with L."));
    }

    private static Change label(LabelRef label, boolean on) {
        String told = (on ? "Labelled " : "Took off the label ") + label.path().shown();
        return new Change(told, state -> state.with(label.id(), on));
    }

    private Change category(long userId, Wish wish) {
        if (wish.place() == null) {
            return new Change("Category cleared", state -> state.categorised(List.of()));
        }
        List<Places.Category> all = places.categories(userId);
        List<Long> ranked = all.stream().map(Places.Category::id).toList();
        Places.Category category = all.stream()
                .filter(one -> wish.place().equals(one.id()))
                .findFirst()
                .orElseThrow(() -> new InputProblem("This category is gone."));
        CategoryRef chosen = new CategoryRef(category.id(), category.name());
        LocalDate due = category.dueDays() == null ? null : dates.today().plusDays(category.dueDays());
        if (Boolean.FALSE.equals(wish.on())) {
            return new Change(
                    "Took off the category " + chosen.name(), state -> categorised(state, chosen.id(), false, ranked));
        }
        boolean several = habits.of(userId).severalCategories();
        return new Change("Category " + chosen.name(), state -> {
            State categorised =
                    several ? categorised(state, chosen.id(), true, ranked) : state.categorised(chosen.id());
            return due == null ? categorised : categorised.due(due);
        });
    }

    /** With one category more or less; the others stay. */
    private static State categorised(State state, long category, boolean on, List<Long> ranked) {
        return state.categorised(ranked.stream()
                .filter(id -> id == category ? on : state.categories().contains(id))
                .toList());
    }

    private Change due(@Nullable LocalDate day) {
        return day == null
                ? new Change("Due date cleared", state -> state.flagged() ? state.due(null) : state)
                : new Change("Flagged, due " + dates.due(day), state -> state.due(day));
    }

    private Change tickler(long userId, @Nullable LocalDate day) {
        long tickler = places.special(userId, SpecialUse.TICKLER);
        if (day == null) {
            long inbox = places.special(userId, SpecialUse.INBOX);
            return new Change(
                    "Out of the tickler", state -> state.folder() == tickler ? state.in(inbox) : state.until(null));
        }
        if (!day.isAfter(dates.today())) {
            throw new InputProblem("Choose a day after today; until then it stays in the tickler.");
        }
        return new Change(
                "In the tickler until " + dates.due(day),
                state -> state.in(tickler).until(day));
    }

    private Change tray(long userId, Wish wish) {
        Places.Tray tray =
                places.of(userId, null).tray(wish.place()).orElseThrow(() -> new InputProblem("This tray is gone."));
        return new Change("Put into the tray " + tray.name(), state -> state.sorted(tray.id()));
    }
}
