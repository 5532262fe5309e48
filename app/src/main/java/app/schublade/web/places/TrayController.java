package app.schublade.web.places;

import app.schublade.core.message.People;
import app.schublade.core.place.TrayKind;
import app.schublade.store.Acts;
import app.schublade.store.PlaceStore;
import app.schublade.store.Places;
import app.schublade.store.TrayStore;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.Person;
import app.schublade.web.frame.Standing;
import org.jspecify.annotations.Nullable;
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

/** The page of trays, and what is said of a sender where a message was put into one. */
@Controller
class TrayController {
    private final Acts acts;
    private final Frame frame;
    private final PlaceStore places;
    private final TrayStore trays;
    private final Answers answers;

    TrayController(Acts acts, Frame frame, PlaceStore places, TrayStore trays, Answers answers) {
        this.acts = acts;
        this.frame = frame;
        this.places = places;
        this.trays = trays;
        this.answers = answers;
    }

    private Places.Tray tray(Person person, long id) {
        return places.of(person.id(), null)
                .tray(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such tray."));
    }

    @GetMapping("/trays")
    String trays(@AuthenticationPrincipal Person person, Model model) {
        model.addAttribute("view", frame.view(person, "/trays", null));
        model.addAttribute("trays", places.of(person.id(), null).trays());
        model.addAttribute("rules", trays.rules(person.id()));
        model.addAttribute("senders", trays.senders(person.id()));
        model.addAttribute("kinds", TrayKind.values());
        return "places/trays";
    }

    @PostMapping("/trays")
    String makeTray(@AuthenticationPrincipal Person person, @RequestParam String name, RedirectAttributes redirect) {
        String clean = Saying.name(name, "tray");
        acts.record(person.id(), "Made the tray " + clean, () -> trays.add(person.id(), clean));
        return Saying.done(redirect, "There is a tray %s".formatted(clean), "/trays");
    }

    @PostMapping("/trays/{id}")
    String changeTray(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            @RequestParam String name,
            @RequestParam(required = false) @Nullable TrayKind kind,
            RedirectAttributes redirect) {
        String clean = Saying.name(name, "tray");
        acts.record(person.id(), "Changed the tray " + clean, () -> trays.change(person.id(), id, clean, kind));
        return Saying.done(redirect, "Saved %s".formatted(clean), "/trays");
    }

    @PostMapping("/trays/{id}/up")
    String trayUp(@AuthenticationPrincipal Person person, @PathVariable long id) {
        acts.record(
                person.id(),
                "Put the tray %s further up".formatted(tray(person, id).name()),
                () -> trays.up(person.id(), id));
        return "redirect:/trays";
    }

    @PostMapping("/trays/{id}/remove")
    String removeTray(@AuthenticationPrincipal Person person, @PathVariable long id, RedirectAttributes redirect) {
        trays.remove(person.id(), tray(person, id));
        return Saying.done(redirect, "The tray is gone; its messages are in the Inbox, in no tray", "/trays");
    }

    /** From the page. */
    @PostMapping("/trays/{id}/senders")
    String always(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            @RequestParam String value,
            RedirectAttributes redirect) {
        String sender = People.value(value);
        always(person, sender, id);
        return Saying.done(redirect, "New mail of %s goes there".formatted(sender), "/trays");
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
        always(person, sender, id);
        return answers.told(person, standing, Notice.done("New mail of %s goes there".formatted(sender)), model);
    }

    private void always(Person person, String sender, long id) {
        acts.record(
                person.id(),
                "New mail of %s goes into the tray %s"
                        .formatted(sender, tray(person, id).name()),
                () -> trays.always(person.id(), sender, id));
    }

    @PostMapping("/trays/senders/remove")
    String notAlways(@AuthenticationPrincipal Person person, @RequestParam String value, RedirectAttributes redirect) {
        String told = "New mail of %s is sorted by what it is".formatted(value);
        acts.record(person.id(), told, () -> trays.notAlways(person.id(), value));
        return Saying.done(redirect, told, "/trays");
    }
}
