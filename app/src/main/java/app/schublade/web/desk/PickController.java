package app.schublade.web.desk;

import app.schublade.core.place.FolderFinder;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.PlaceStore;
import app.schublade.store.Places;
import app.schublade.web.frame.Person;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Finds a folder to file into by a few letters of its name. */
@Controller
class PickController {
    private static final int MOST = 8;

    private final PlaceStore places;

    PickController(PlaceStore places) {
        this.places = places;
    }

    @GetMapping("/folders/pick")
    String pick(@AuthenticationPrincipal Person person, @RequestParam(defaultValue = "") String letters, Model model) {
        List<Places.Folder> all = places.of(person.id(), null).folders().stream()
                .filter(folder ->
                        folder.use() == null || folder.use() == SpecialUse.INBOX || folder.use() == SpecialUse.ARCHIVE)
                .toList();
        model.addAttribute("choices", FolderFinder.find(all, Places.Folder::path, letters, MOST));
        model.addAttribute("unmade", unmade(all, letters));
        return "desk/picker :: choices";
    }

    /** What was typed as a folder that could be made; null if it is there already or cannot be. */
    private static @Nullable FolderPath unmade(List<Places.Folder> all, String letters) {
        if (letters.isBlank()) {
            return null;
        }
        try {
            FolderPath path = FolderPath.parse(letters);
            boolean known = all.stream().anyMatch(folder -> folder.path().compareTo(path) == 0);
            return known ? null : path;
        } catch (IllegalArgumentException e) {
            return null;
        }
    }
}
