package app.schublade.web.desk;

import app.schublade.core.place.FolderFinder;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.PlaceStore;
import app.schublade.store.Places;
import app.schublade.web.frame.Person;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Finds folders, labels and places by a few letters of their names. */
@Controller
class PickController {
    private static final int MOST = 8;

    private final PlaceStore places;

    PickController(PlaceStore places) {
        this.places = places;
    }

    /** @param kind {@code folder} to file into one, {@code copy} to copy into one */
    @GetMapping("/folders/pick")
    String pick(
            @AuthenticationPrincipal Person person,
            @RequestParam(defaultValue = "") String letters,
            @RequestParam(defaultValue = "folder") String kind,
            Model model) {
        model.addAttribute("kind", kind.equals("copy") ? "copy" : "folder");
        List<Places.Folder> all = places.of(person.id(), null).folders().stream()
                .filter(folder ->
                        folder.use() == null || folder.use() == SpecialUse.INBOX || folder.use() == SpecialUse.ARCHIVE)
                .toList();
        model.addAttribute("choices", FolderFinder.find(all, Places.Folder::path, letters, MOST));
        model.addAttribute(
                "unmade",
                unmade(path -> all.stream().anyMatch(folder -> folder.path().compareTo(path) == 0), letters));
        return "desk/picker :: folders";
    }

    /** @param on ids of the labels that the selected messages have, with spaces between them */
    @GetMapping("/labels/pick")
    String labels(
            @AuthenticationPrincipal Person person,
            @RequestParam(defaultValue = "") String letters,
            @RequestParam(defaultValue = "") String on,
            Model model) {
        Places known = places.of(person.id(), null);
        List<Places.Label> all = known.labelTree().inOrder().toList();
        Set<Long> has = Arrays.stream(on.split(" "))
                .filter(id -> id.matches("\\d{1,18}"))
                .map(Long::valueOf)
                .collect(Collectors.toSet());
        model.addAttribute("choices", FolderFinder.find(all, Places.Label::path, letters, MOST));
        model.addAttribute("on", has);
        model.addAttribute("unmade", unmade(path -> known.label(path).isPresent(), letters));
        return "desk/picker :: labels";
    }

    /** A place that one can go to. */
    public record Goal(String name, String kind, String address) {}

    @GetMapping("/places/pick")
    String places(
            @AuthenticationPrincipal Person person, @RequestParam(defaultValue = "") String letters, Model model) {
        Places known = places.of(person.id(), null);
        List<Goal> goals = new ArrayList<>();
        known.folders()
                .forEach(folder -> goals.add(new Goal(
                        folder.path().shown(),
                        "folder",
                        folder.use() == SpecialUse.INBOX ? "/mail/inbox" : "/mail/folder/" + folder.id())));
        known.labels()
                .forEach(label -> goals.add(new Goal(label.path().shown(), "label", "/mail/label/" + label.id())));
        known.trays().forEach(tray -> goals.add(new Goal(tray.name(), "tray", "/mail/tray/" + tray.id())));
        model.addAttribute("choices", FolderFinder.find(goals, goal -> FolderPath.parse(goal.name()), letters, MOST));
        return "desk/picker :: places";
    }

    /** What was typed as something that could be made; null if it is there already or cannot be. */
    private static @Nullable FolderPath unmade(Predicate<FolderPath> isThere, String letters) {
        if (letters.isBlank()) {
            return null;
        }
        try {
            FolderPath path = FolderPath.parse(letters);
            return isThere.test(path) ? null : path;
        } catch (InputProblem e) {
            return null;
        }
    }
}
