package app.schublade.web.places;

import app.schublade.core.message.People;
import app.schublade.core.place.TrayKind;
import app.schublade.store.act.Acts;
import app.schublade.store.cabinet.TrayStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.ReturnTo;
import app.schublade.web.frame.RunNotice;
import app.schublade.work.LongActs;
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
    private final LongActs longActs;

    TrayController(Acts acts, Frame frame, PlaceStore places, TrayStore trays, Answers answers, LongActs longActs) {
        this.longActs = longActs;
        this.acts = acts;
        this.frame = frame;
        this.places = places;
        this.trays = trays;
        this.answers = answers;
    }

    private Places.Tray tray(CurrentUser person, long id) {
        return places.of(person.id(), null)
                .tray(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such tray."));
    }

    @GetMapping("/trays")
    String trays(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("view", frame.view(person, "/trays", null));
        model.addAttribute("trays", places.of(person.id(), null).trays());
        model.addAttribute("usedBy", trays.usedBy(person.id()));
        model.addAttribute("senders", trays.senders(person.id()));
        model.addAttribute("kinds", TrayKind.values());
        return "places/trays";
    }

    @PostMapping("/trays")
    String makeTray(
            @AuthenticationPrincipal CurrentUser person, @RequestParam String name, RedirectAttributes redirect) {
        String clean = PlacePages.name(name, "tray");
        acts.record(person.id(), "Created the tray " + clean, () -> trays.add(person.id(), clean));
        return PlacePages.done(redirect, "Tray %s created".formatted(clean), "/trays");
    }

    @PostMapping("/trays/{id}")
    String changeTray(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String name,
            @RequestParam(required = false) @Nullable TrayKind kind,
            RedirectAttributes redirect) {
        String clean = PlacePages.name(name, "tray");
        acts.record(person.id(), "Changed the tray " + clean, () -> trays.change(person.id(), id, clean, kind));
        return PlacePages.done(redirect, "Saved %s".formatted(clean), "/trays");
    }

    @PostMapping("/trays/{id}/up")
    String trayUp(@AuthenticationPrincipal CurrentUser person, @PathVariable long id) {
        acts.record(
                person.id(),
                "Put the tray %s further up".formatted(tray(person, id).name()),
                () -> trays.up(person.id(), id));
        return "redirect:/trays";
    }

    @PostMapping("/trays/{id}/remove")
    String removeTray(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        Places.Tray tray = tray(person, id);
        String title = "Removing the tray " + tray.name();
        RunNotice.of(redirect, longActs.begin(person.id(), title, 0, watch -> {
            trays.remove(person.id(), tray);
            return LongActs.ActEnding.done("Tray deleted; its messages stay in the Inbox");
        }));
        return "redirect:/trays";
    }

    /** From the page. */
    @PostMapping("/trays/{id}/senders")
    String always(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String value,
            RedirectAttributes redirect) {
        String sender = People.value(value);
        always(person, sender, id);
        return PlacePages.done(redirect, "New mail of %s goes there".formatted(sender), "/trays");
    }

    /** From the notice that a message was put into a tray. */
    @PostMapping("/trays/{id}/always")
    String alwaysHere(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String value,
            ReturnTo standing,
            Model model) {
        String sender = People.value(value);
        always(person, sender, id);
        return answers.told(person, standing, Notice.done("New mail of %s goes there".formatted(sender)), model);
    }

    private void always(CurrentUser person, String sender, long id) {
        acts.record(
                person.id(),
                "New mail of %s goes into the tray %s"
                        .formatted(sender, tray(person, id).name()),
                () -> trays.always(person.id(), sender, id));
    }

    @PostMapping("/trays/senders/remove")
    String notAlways(
            @AuthenticationPrincipal CurrentUser person, @RequestParam String value, RedirectAttributes redirect) {
        String told = "New mail of %s is sorted by what it is".formatted(value);
        acts.record(person.id(), told, () -> trays.notAlways(person.id(), value));
        return PlacePages.done(redirect, told, "/trays");
    }
}
