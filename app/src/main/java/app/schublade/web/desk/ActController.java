package app.schublade.web.desk;

import app.schublade.core.filing.State;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.FilingStore;
import app.schublade.store.FilingStore.Cause;
import app.schublade.store.PlaceStore;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.Person;
import java.util.List;
import java.util.Locale;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** What a user does to messages, and takes back. Each answer is the strip's notice and the cabinet's new counts. */
@Controller
class ActController {
    private static final int MAX_AT_ONCE = 10_000;

    private final FilingStore filing;
    private final PlaceStore places;
    private final Frame frame;

    ActController(FilingStore filing, PlaceStore places, Frame frame) {
        this.filing = filing;
        this.places = places;
        this.frame = frame;
    }

    /** What can be done to messages. */
    enum Deed {
        READ,
        UNREAD,
        FLAG,
        UNFLAG,
        ARCHIVE,
        DELETE,
        FILE,
        /** Read because it was open for a while. */
        GLANCE
    }

    /** Where the user stands, so that the cabinet is shown as it was. */
    record Standing(@Nullable String here, @Nullable String account) {}

    /** A deed as it is carried out and told. */
    private record Doing(String told, UnaryOperator<State> change) {}

    @PostMapping("/act")
    String act(
            @AuthenticationPrincipal Person person,
            @RequestParam List<Long> ids,
            @RequestParam String deed,
            @RequestParam(required = false) @Nullable Long folder,
            @RequestParam(required = false) @Nullable String path,
            Standing standing,
            Model model) {
        if (ids.size() > MAX_AT_ONCE) {
            throw new IllegalArgumentException(
                    "%,d messages are selected; %,d at once is the limit.".formatted(ids.size(), MAX_AT_ONCE));
        }
        Deed wanted = Deed.valueOf(deed.toUpperCase(Locale.ROOT));
        Doing doing = doing(person, wanted, folder, path);
        String title = ids.size() == 1 ? doing.told() : "%s: %,d messages".formatted(doing.told(), ids.size());
        Cause cause = wanted == Deed.GLANCE ? Cause.GLANCE : Cause.HAND;
        FilingStore.Outcome outcome = filing.act(person.id(), cause, title, ids, doing.change());
        Notice notice = outcome.changed().isEmpty() ? Notice.told(asBefore(wanted)) : Notice.done(outcome.title());
        return answer(person, standing, wanted == Deed.GLANCE ? null : notice, model);
    }

    private static String asBefore(Deed deed) {
        return deed == Deed.FILE || deed == Deed.ARCHIVE || deed == Deed.DELETE
                ? "Nothing to do: it lies there already."
                : "Nothing to do: it is so already.";
    }

    private Doing doing(Person person, Deed deed, @Nullable Long folder, @Nullable String path) {
        return switch (deed) {
            case READ, GLANCE -> new Doing("Marked as read", state -> state.unread(false));
            case UNREAD -> new Doing("Marked as unread", state -> state.unread(true));
            case FLAG -> new Doing("Flagged", state -> state.flagged(true));
            case UNFLAG -> new Doing("Flag cleared", state -> state.flagged(false));
            case ARCHIVE -> into("Archived", places.special(person.id(), SpecialUse.ARCHIVE));
            case DELETE -> into("Moved to the trash", places.special(person.id(), SpecialUse.TRASH));
            case FILE -> {
                FolderRef target = target(person, folder, path);
                yield into("Filed into " + target.path().shown(), target.id());
            }
        };
    }

    private static Doing into(String told, long folder) {
        return new Doing(told, state -> state.in(folder));
    }

    private FolderRef target(Person person, @Nullable Long folder, @Nullable String path) {
        if (path != null) {
            return places.folder(person.id(), FolderPath.parse(path));
        }
        return places.of(person.id(), null)
                .folder(folder == null ? 0 : folder)
                .map(found -> new FolderRef(found.id(), found.path()))
                .orElseThrow(() -> new IllegalArgumentException("This folder is gone. Choose another with F."));
    }

    @PostMapping("/undo")
    String undo(@AuthenticationPrincipal Person person, Standing standing, Model model) {
        return answer(person, standing, told(filing.undoLatest(person.id())), model);
    }

    @PostMapping("/undo/{batch}")
    String undoAll(@AuthenticationPrincipal Person person, @PathVariable long batch, Standing standing, Model model) {
        return answer(person, standing, told(filing.undo(person.id(), batch)), model);
    }

    @PostMapping("/undo/{batch}/{message}")
    String undoFor(
            @AuthenticationPrincipal Person person,
            @PathVariable long batch,
            @PathVariable long message,
            Standing standing,
            Model model) {
        return answer(person, standing, told(filing.undoFor(person.id(), message, batch)), model);
    }

    private static Notice told(FilingStore.Outcome outcome) {
        if (outcome.changed().isEmpty()) {
            return Notice.told(
                    outcome.kept() > 0
                            ? "It was changed again since, and stays as it is."
                            : "There is nothing left to take back.");
        }
        String kept = outcome.kept() == 0 ? "" : " %,d changed again since stay as they are.".formatted(outcome.kept());
        return Notice.told("Taken back: " + outcome.title() + "." + kept);
    }

    @PostMapping("/folders")
    String makeFolder(
            @AuthenticationPrincipal Person person, @RequestParam String path, Standing standing, Model model) {
        FolderPath wanted = FolderPath.parse(path);
        boolean known = places.of(person.id(), null).folder(wanted).isPresent();
        FolderRef folder = places.folder(person.id(), wanted);
        String told = folder.path().shown();
        return answer(
                person,
                standing,
                Notice.told(
                        known
                                ? "There is a folder %s already.".formatted(told)
                                : "Made the folder %s.".formatted(told)),
                model);
    }

    private String answer(Person person, Standing standing, @Nullable Notice notice, Model model) {
        String here = standing.here() == null ? "" : standing.here();
        model.addAttribute("view", frame.view(person, here, standing.account()));
        model.addAttribute("notice", notice);
        return "frame/parts :: noticeAndCabinet";
    }
}
