package app.schublade.web.places;

import app.schublade.core.place.Tone;
import app.schublade.store.act.Acts;
import app.schublade.store.cabinet.FlagStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.RunNotice;
import app.schublade.work.LongActs;
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

/** The page of the user's own flags. */
@Controller
class FlagController {
    private final Acts acts;
    private final Frame frame;
    private final PlaceStore places;
    private final FlagStore flags;
    private final LongActs longActs;

    FlagController(Acts acts, Frame frame, PlaceStore places, FlagStore flags, LongActs longActs) {
        this.acts = acts;
        this.frame = frame;
        this.places = places;
        this.flags = flags;
        this.longActs = longActs;
    }

    private Places.OwnFlag flag(CurrentUser person, long id) {
        return places.of(person.id(), null)
                .flag(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such flag."));
    }

    @GetMapping("/flags")
    String flags(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("view", frame.view(person, "/flags", null));
        model.addAttribute("flags", places.of(person.id(), null).flags());
        model.addAttribute("usedBy", flags.usedBy(person.id()));
        model.addAttribute("tones", Tone.values());
        return "places/flags";
    }

    @PostMapping("/flags")
    String makeFlag(
            @AuthenticationPrincipal CurrentUser person, @RequestParam String name, RedirectAttributes redirect) {
        String clean = PlacePages.name(name, "flag");
        acts.record(person.id(), "Created the flag " + clean, () -> flags.add(person.id(), clean));
        return PlacePages.done(redirect, "Flag %s created".formatted(clean), "/flags");
    }

    @PostMapping("/flags/{id}")
    String changeFlag(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String name,
            @RequestParam Tone tone,
            RedirectAttributes redirect) {
        String clean = PlacePages.name(name, "flag");
        acts.record(person.id(), "Changed the flag " + clean, () -> flags.change(person.id(), id, clean, tone));
        return PlacePages.done(redirect, "Saved %s".formatted(clean), "/flags");
    }

    @PostMapping("/flags/{id}/up")
    String flagUp(@AuthenticationPrincipal CurrentUser person, @PathVariable long id) {
        acts.record(
                person.id(),
                "Put the flag %s further up".formatted(flag(person, id).name()),
                () -> flags.up(person.id(), id));
        return "redirect:/flags";
    }

    @PostMapping("/flags/{id}/remove")
    String removeFlag(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        Places.OwnFlag flag = flag(person, id);
        String title = "Removing the flag " + flag.name();
        RunNotice.of(redirect, longActs.begin(person.id(), title, 0, watch -> {
            flags.remove(person.id(), flag);
            return LongActs.ActEnding.done("Flag deleted; its messages stay flagged");
        }));
        return "redirect:/flags";
    }
}
