package app.schublade.web.places;

import app.schublade.core.place.Colour;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.Tone;
import app.schublade.store.act.Acts;
import app.schublade.store.cabinet.LabelStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.web.frame.Choice;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.RunNotice;
import app.schublade.work.LongActs;
import java.time.Duration;
import java.util.Arrays;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
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
    private static final String OWN = "OWN";

    private final Acts acts;
    private final Frame frame;
    private final PlaceStore places;
    private final LabelStore labels;
    private final LongActs longActs;

    LabelController(Acts acts, Frame frame, PlaceStore places, LabelStore labels, LongActs longActs) {
        this.longActs = longActs;
        this.acts = acts;
        this.frame = frame;
        this.places = places;
        this.labels = labels;
    }

    private Places.Label label(CurrentUser person, long id) {
        return places.of(person.id(), null)
                .label(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such label."));
    }

    @GetMapping("/labels")
    String labels(@AuthenticationPrincipal CurrentUser person, Model model) {
        Frame.View view = frame.view(person, "/labels", null);
        model.addAttribute("view", view);
        model.addAttribute("labels", view.places().labelTree().inOrder().toList());
        model.addAttribute("messages", labels.messages(person.id()));
        model.addAttribute("leaving", labels.messagesWithBelow(person.id()));
        model.addAttribute(
                "usedBy", labels.usedByWithBelow(person.id(), view.places().labels()));
        model.addAttribute("tones", Tone.values());
        return "places/labels";
    }

    @PostMapping("/labels")
    String makeLabel(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String path,
            @RequestParam(required = false) @Nullable Tone tone,
            RedirectAttributes redirect) {
        FolderPath wanted = FolderPath.parse(path);
        acts.record(person.id(), "Created the label " + wanted.shown(), () -> {
            long made = places.label(person.id(), wanted).id();
            if (tone != null) {
                labels.recolour(person.id(), made, tone, null, false);
            }
        });
        return PlacePages.done(redirect, "Label %s created".formatted(wanted.shown()), "/labels");
    }

    @PostMapping("/labels/{id}")
    String changeLabel(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String path,
            @RequestParam String tone,
            @RequestParam(defaultValue = "") String own,
            @RequestParam(defaultValue = "false") boolean below,
            @RequestParam(defaultValue = "false") boolean hidden,
            RedirectAttributes redirect) {
        Places.Label label = label(person, id);
        FolderPath wanted = FolderPath.parse(path);
        Colour wish = tone.equals(OWN) ? Colour.parse(own) : null;
        Colour colour = wish == null ? null : wish.readable();
        Tone chosen = wish == null ? Choice.of(Tone.class, tone) : label.tone();
        acts.record(person.id(), "Changed the label " + wanted.shown(), () -> {
            if (!wanted.equals(label.path())) {
                labels.rename(person.id(), label, wanted);
            }
            labels.recolour(person.id(), id, chosen, colour, below);
            labels.hide(person.id(), id, hidden);
        });
        String darker = Objects.equals(colour, wish)
                ? ""
                : " Its colour is a little darker than chosen, so that it stands out from the paper.";
        return PlacePages.done(redirect, "Saved %s.%s".formatted(wanted.shown(), darker), "/labels");
    }

    /** A style sheet with colours of the user's own; what is in it stands in its address, so that it can be kept for ever. */
    @GetMapping("/colours/{all:[0-9a-f]{6}(?:-[0-9a-f]{6}){0,499}}.css")
    ResponseEntity<String> colours(@PathVariable String all) {
        String sheet = Arrays.stream(all.split("-"))
                .map(hex -> Colour.parse("#" + hex))
                .map(colour -> ".%s { --tone: %s; }".formatted(colour.css(), colour))
                .collect(Collectors.joining("\n", "", "\n"));
        return ResponseEntity.ok()
                .contentType(MediaType.valueOf("text/css"))
                .cacheControl(CacheControl.maxAge(Duration.ofDays(365)).cachePrivate())
                .body(sheet);
    }

    @PostMapping("/labels/{id}/remove")
    String removeLabel(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        Places.Label label = label(person, id);
        String title = "Removing the label " + label.path().shown();
        RunNotice.of(redirect, longActs.begin(person.id(), title, 0, watch -> {
            labels.remove(person.id(), label);
            return LongActs.ActEnding.done("Label deleted; its messages stay where they are");
        }));
        return "redirect:/labels";
    }
}
