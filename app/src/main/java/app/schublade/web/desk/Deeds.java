package app.schublade.web.desk;

import app.schublade.core.filing.State;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.PlaceStore;
import app.schublade.store.Places;
import app.schublade.web.frame.Dates;
import java.time.LocalDate;
import java.util.Locale;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What can be done to messages, as the page asks for it. */
@Component
class Deeds {
    private final PlaceStore places;
    private final Dates dates;

    Deeds(PlaceStore places, Dates dates) {
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
        TRAY,
        /** Read because it was open for a while. */
        GLANCE;

        boolean isMove() {
            return this == FILE || this == ARCHIVE || this == DELETE;
        }
    }

    /**
     * A wish of the page.
     *
     * @param place the id of the folder, label, category or tray; none of a category clears it
     * @param path the folder or label, if it is still to be made
     * @param on whether the label is put on or taken off
     * @param due the date, or null to clear it
     */
    record Wish(
            @Nullable String deed,
            @Nullable Long place,
            @Nullable String path,
            @Nullable Boolean on,
            @Nullable LocalDate due) {

        Deed kind() {
            if (deed == null) {
                throw new IllegalArgumentException("Nothing was asked for.");
            }
            return Deed.valueOf(deed.toUpperCase(Locale.ROOT));
        }
    }

    /** A deed as it is carried out and told. */
    record Doing(String told, UnaryOperator<State> change) {}

    Doing doing(long userId, Wish wish) {
        return switch (wish.kind()) {
            case READ, GLANCE -> new Doing("Marked as read", state -> state.unread(false));
            case UNREAD -> new Doing("Marked as unread", state -> state.unread(true));
            case FLAG -> new Doing("Flagged", state -> state.flagged(true));
            case UNFLAG -> new Doing("Flag cleared", state -> state.flagged(false));
            case ARCHIVE -> into("Archived", places.special(userId, SpecialUse.ARCHIVE));
            case DELETE -> into("Moved to the trash", places.special(userId, SpecialUse.TRASH));
            case FILE -> {
                FolderRef target = folder(userId, wish);
                yield into("Filed into " + target.path().shown(), target.id());
            }
            case LABEL -> label(label(userId, wish), !Boolean.FALSE.equals(wish.on()));
            case CATEGORY -> category(userId, wish);
            case DUE -> due(wish.due());
            case TRAY -> tray(userId, wish);
        };
    }

    private static Doing into(String told, long folder) {
        return new Doing(told, state -> state.in(folder));
    }

    private FolderRef folder(long userId, Wish wish) {
        if (wish.path() != null) {
            return places.folder(userId, FolderPath.parse(wish.path()));
        }
        return places.of(userId, null)
                .folder(wish.place() == null ? 0 : wish.place())
                .map(found -> new FolderRef(found.id(), found.path()))
                .orElseThrow(() -> new IllegalArgumentException("This folder is gone. Choose another with F."));
    }

    private LabelRef label(long userId, Wish wish) {
        if (wish.path() != null) {
            return places.label(userId, FolderPath.parse(wish.path()));
        }
        return places.of(userId, null)
                .label(wish.place() == null ? 0 : wish.place())
                .map(found -> new LabelRef(found.id(), found.path()))
                .orElseThrow(() -> new IllegalArgumentException("This label is gone. Choose another with L."));
    }

    private static Doing label(LabelRef label, boolean on) {
        String told = (on ? "Labelled " : "Took off the label ") + label.path().shown();
        return new Doing(told, state -> state.with(label.id(), on));
    }

    private Doing category(long userId, Wish wish) {
        if (wish.place() == null) {
            return new Doing("Category cleared", state -> state.categorised(null));
        }
        Places.Category category = places.categories(userId).stream()
                .filter(one -> wish.place().equals(one.id()))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("This category is gone."));
        CategoryRef chosen = new CategoryRef(category.id(), category.name());
        LocalDate due = category.dueDays() == null ? null : dates.today().plusDays(category.dueDays());
        return new Doing("Category " + chosen.name(), state -> {
            State categorised = state.categorised(chosen.id());
            return due == null ? categorised : categorised.due(due);
        });
    }

    private Doing due(@Nullable LocalDate day) {
        return day == null
                ? new Doing("Due date cleared", state -> state.flagged() ? state.due(null) : state)
                : new Doing("Flagged, due " + dates.due(day), state -> state.due(day));
    }

    private Doing tray(long userId, Wish wish) {
        Places.Tray tray = places.of(userId, null)
                .tray(wish.place())
                .orElseThrow(() -> new IllegalArgumentException("This tray is gone."));
        return new Doing("Put into the tray " + tray.name(), state -> state.sorted(tray.id()));
    }
}
