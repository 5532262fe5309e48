package app.schublade.web.places;

import app.schublade.core.message.People;
import app.schublade.core.place.TrayKind;
import app.schublade.store.PlaceStore;
import app.schublade.store.TrayStore;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.Person;
import app.schublade.web.frame.Standing;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The page of trays, and what is said of a sender where a message was put into one. */
@Controller
class TrayController {
    private final Frame frame;
    private final PlaceStore places;
    private final TrayStore trays;
    private final Answers answers;

    TrayController(Frame frame, PlaceStore places, TrayStore trays, Answers answers) {
        this.frame = frame;
        this.places = places;
        this.trays = trays;
        this.answers = answers;
    }

    @GetMapping("/trays")
    String trays(@AuthenticationPrincipal Person person, Model model) {
        model.addAttribute("view", frame.view(person, "/trays", null));
        model.addAttribute("trays", places.of(person.id(), null).trays());
        model.addAttribute("senders", trays.senders(person.id()));
        model.addAttribute("kinds", TrayKind.values());
        return "places/trays";
    }

    @PostMapping("/trays")
    String makeTray(@AuthenticationPrincipal Person person, @RequestParam String name, RedirectAttributes redirect) {
        String clean = Saying.name(name, "tray");
        trays.add(person.id(), clean);
        return Saying.told(redirect, "There is a tray %s.".formatted(clean), "/trays");
    }

    @PostMapping("/trays/{id}")
    String changeTray(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            @RequestParam String name,
            @RequestParam(required = false) @Nullable TrayKind kind,
            RedirectAttributes redirect) {
        String clean = Saying.name(name, "tray");
        trays.change(person.id(), id, clean, kind);
        return Saying.told(redirect, "Saved %s.".formatted(clean), "/trays");
    }

    @PostMapping("/trays/{id}/up")
    String trayUp(@AuthenticationPrincipal Person person, @PathVariable long id) {
        trays.up(person.id(), id);
        return "redirect:/trays";
    }

    @PostMapping("/trays/{id}/remove")
    String removeTray(@AuthenticationPrincipal Person person, @PathVariable long id, RedirectAttributes redirect) {
        trays.remove(person.id(), id);
        return Saying.told(redirect, "The tray is gone; its messages are in the Inbox, in no tray.", "/trays");
    }

    /** From the page. */
    @PostMapping("/trays/{id}/senders")
    String always(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            @RequestParam String value,
            RedirectAttributes redirect) {
        String sender = People.value(value);
        trays.always(person.id(), sender, id);
        return Saying.told(redirect, "New mail of %s goes there.".formatted(sender), "/trays");
    }

    /** From the notice that a message was put into a tray. */
    @PostMapping("/trays/{id}/always")
    String alwaysHere(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            @RequestParam String value,
            Standing standing,
            Model model) {
        String sender = People.value(value);
        trays.always(person.id(), sender, id);
        return answers.told(person, standing, Notice.told("New mail of %s goes there.".formatted(sender)), model);
    }

    @PostMapping("/trays/senders/remove")
    String notAlways(@AuthenticationPrincipal Person person, @RequestParam String value, RedirectAttributes redirect) {
        trays.notAlways(person.id(), value);
        return Saying.told(redirect, "New mail of %s is sorted by what it is.".formatted(value), "/trays");
    }
}
