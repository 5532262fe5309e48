package app.schublade.web.reader;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.Routine;
import app.schublade.core.place.FolderRef;
import app.schublade.store.noise.QuietStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RoutineStore;
import app.schublade.store.triage.StandingDayStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.reader.LikelyFolders.LikelyFolder;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Puts together what the filing strip offers: likely folders, routines, days to put things off to, and the next look. */
@Component
public class StripMaker {
    private static final int SLOTS = 3;

    private final PlaceStore places;
    private final LikelyFolders likely;
    private final RoutineStore routines;
    private final StandingDayStore standing;
    private final QuietStore quiet;
    private final Dates dates;

    StripMaker(
            PlaceStore places,
            LikelyFolders likely,
            RoutineStore routines,
            StandingDayStore standing,
            QuietStore quiet,
            Dates dates) {
        this.quiet = quiet;
        this.standing = standing;
        this.dates = dates;
        this.places = places;
        this.likely = likely;
        this.routines = routines;
    }

    /**
     * A folder that one key of the strip files into.
     *
     * @param why it is offered: a sentence
     */
    public record Slot(int key, FolderRef folder, String why) {}

    public List<Routine> routines(CurrentUser person) {
        return routines.of(person.id());
    }

    /** When new mail is shown; null if it is as it comes. */
    public @Nullable ZonedDateTime nextLook(CurrentUser person) {
        return quiet.nextLook(person.id()).orElse(null);
    }

    /** Days that messages are put off to or due on, the user's own among them. */
    public List<Dates.DueChoice> days(CurrentUser person) {
        Map<String, DayTime> own = new LinkedHashMap<>();
        standing.of(person.id()).forEach(day -> own.put(day.name(), day.after(dates.today())));
        return dates.dueChoices(own);
    }

    /** The folders that a message is likely to be filed in, or those of late where none is open. */
    public List<Slot> slots(CurrentUser person, @Nullable Sheet sheet, @Nullable Long here) {
        Places known = places.of(person.id(), null);
        List<LikelyFolder> folders = sheet == null
                ? places.filedIntoLast(person.id(), SLOTS + 1).stream()
                        .filter(id -> !id.equals(here))
                        .flatMap(id ->
                                known.folders().stream().filter(folder -> folder.id() == id && folder.use() == null))
                        .map(folder -> new LikelyFolder(folder.ref(), 0, "filed into of late"))
                        .limit(SLOTS)
                        .toList()
                : likely.folders(person.id(), sheet.row(), known, SLOTS);
        List<Slot> slots = new ArrayList<>();
        for (LikelyFolder one : folders) {
            slots.add(new Slot(slots.size() + 1, one.folder(), one.why()));
        }
        return slots;
    }
}
