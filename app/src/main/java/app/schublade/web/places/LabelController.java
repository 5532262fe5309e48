package app.schublade.web.places;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.Tone;
import app.schublade.store.LabelStore;
import app.schublade.store.PlaceStore;
import app.schublade.store.Places;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Person;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The page of labels. */
@Controller
class LabelController {
    private final Frame frame;
    private final PlaceStore places;
    private final LabelStore labels;

    LabelController(Frame frame, PlaceStore places, LabelStore labels) {
        this.frame = frame;
        this.places = places;
        this.labels = labels;
    }

    @GetMapping("/labels")
    String labels(@AuthenticationPrincipal Person person, Model model) {
        Frame.View view = frame.view(person, "/labels", null);
        model.addAttribute("view", view);
        model.addAttribute("labels", view.places().labelTree().inOrder().toList());
        model.addAttribute("messages", labels.messages(person.id()));
        model.addAttribute("rules", labels.rules(person.id()));
        model.addAttribute("tones", Tone.values());
        return "places/labels";
    }

    @PostMapping("/labels")
    String makeLabel(@AuthenticationPrincipal Person person, @RequestParam String path, RedirectAttributes redirect) {
        FolderPath wanted = FolderPath.parse(path);
        places.label(person.id(), wanted);
        return Saying.told(redirect, "There is a label %s.".formatted(wanted.shown()), "/labels");
    }

    @PostMapping("/labels/{id}")
    String changeLabel(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            @RequestParam String path,
            @RequestParam Tone tone,
            @RequestParam(defaultValue = "false") boolean below,
            @RequestParam(defaultValue = "false") boolean hidden,
            RedirectAttributes redirect) {
        Places.Label label = places.of(person.id(), null)
                .label(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such label."));
        FolderPath wanted = FolderPath.parse(path);
        if (!wanted.equals(label.path())) {
            labels.rename(person.id(), label, wanted);
        }
        labels.recolour(person.id(), id, tone, below);
        labels.hide(person.id(), id, hidden);
        return Saying.told(redirect, "Saved %s.".formatted(wanted.shown()), "/labels");
    }

    @PostMapping("/labels/{id}/remove")
    String removeLabel(@AuthenticationPrincipal Person person, @PathVariable long id, RedirectAttributes redirect) {
        labels.remove(person.id(), id);
        return Saying.told(redirect, "The label is gone; the messages are where they were.", "/labels");
    }
}
