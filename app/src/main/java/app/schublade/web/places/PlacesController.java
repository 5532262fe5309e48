package app.schublade.web.places;

import app.schublade.core.message.People;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.Habits;
import app.schublade.core.place.Tone;
import app.schublade.core.place.TrayKind;
import app.schublade.store.CategoryStore;
import app.schublade.store.HabitStore;
import app.schublade.store.LabelStore;
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

/** The pages of labels, categories, trays, and of how the desk is liked. */
@Controller
class PlacesController {
    private static final int MAX_MARK = 2;
    private static final int MAX_DAYS = 366;
    private static final int MAX_SECONDS = 600;

    private final Frame frame;
    private final PlaceStore places;
    private final LabelStore labels;
    private final CategoryStore categories;
    private final TrayStore trays;
    private final HabitStore habits;
    private final Answers answers;

    PlacesController(
            Frame frame,
            PlaceStore places,
            LabelStore labels,
            CategoryStore categories,
            TrayStore trays,
            HabitStore habits,
            Answers answers) {
        this.frame = frame;
        this.places = places;
        this.labels = labels;
        this.categories = categories;
        this.trays = trays;
        this.habits = habits;
        this.answers = answers;
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
        return told(redirect, "There is a label %s.".formatted(wanted.shown()), "/labels");
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
        return told(redirect, "Saved %s.".formatted(wanted.shown()), "/labels");
    }

    @PostMapping("/labels/{id}/remove")
    String removeLabel(@AuthenticationPrincipal Person person, @PathVariable long id, RedirectAttributes redirect) {
        labels.remove(person.id(), id);
        return told(redirect, "The label is gone; the messages are where they were.", "/labels");
    }

    @GetMapping("/categories")
    String categories(@AuthenticationPrincipal Person person, Model model) {
        model.addAttribute("view", frame.view(person, "/categories", null));
        model.addAttribute("categories", places.categories(person.id()));
        model.addAttribute("tones", Tone.values());
        return "places/categories";
    }

    @PostMapping("/categories")
    String makeCategory(
            @AuthenticationPrincipal Person person, @RequestParam String name, RedirectAttributes redirect) {
        return told(
                redirect,
                "There is a category %s."
                        .formatted(places.category(person.id(), name).name()),
                "/categories");
    }

    @PostMapping("/categories/{id}")
    String changeCategory(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            @RequestParam String name,
            @RequestParam Tone tone,
            @RequestParam(defaultValue = "") String mark,
            @RequestParam(required = false) @Nullable Integer dueDays,
            RedirectAttributes redirect) {
        String stamp = mark.strip();
        if (stamp.codePointCount(0, stamp.length()) > MAX_MARK) {
            throw new IllegalArgumentException("“%s” does not fit into a stamp; two characters do.".formatted(stamp));
        }
        if (dueDays != null && (dueDays < 0 || dueDays > MAX_DAYS)) {
            throw new IllegalArgumentException("Due after 0 to %d days.".formatted(MAX_DAYS));
        }
        String clean = name(name, "category");
        categories.change(person.id(), id, clean, tone, stamp.isEmpty() ? null : stamp, dueDays);
        return told(redirect, "Saved %s.".formatted(clean), "/categories");
    }

    private static String name(String typed, String kind) {
        try {
            return FolderPath.parse(typed.replace('/', ' ')).name();
        } catch (IllegalArgumentException e) {
            throw new IllegalArgumentException("“%s” cannot be the name of a %s.".formatted(typed.strip(), kind), e);
        }
    }

    @PostMapping("/categories/{id}/up")
    String rankHigher(@AuthenticationPrincipal Person person, @PathVariable long id) {
        categories.up(person.id(), id);
        return "redirect:/categories";
    }

    @PostMapping("/categories/{id}/remove")
    String removeCategory(@AuthenticationPrincipal Person person, @PathVariable long id, RedirectAttributes redirect) {
        categories.remove(person.id(), id);
        return told(redirect, "The category is gone; the messages are where they were.", "/categories");
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
        String clean = name(name, "tray");
        trays.add(person.id(), clean);
        return told(redirect, "There is a tray %s.".formatted(clean), "/trays");
    }

    @PostMapping("/trays/{id}")
    String changeTray(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            @RequestParam String name,
            @RequestParam(required = false) @Nullable TrayKind kind,
            RedirectAttributes redirect) {
        String clean = name(name, "tray");
        trays.change(person.id(), id, clean, kind);
        return told(redirect, "Saved %s.".formatted(clean), "/trays");
    }

    @PostMapping("/trays/{id}/up")
    String trayUp(@AuthenticationPrincipal Person person, @PathVariable long id) {
        trays.up(person.id(), id);
        return "redirect:/trays";
    }

    @PostMapping("/trays/{id}/remove")
    String removeTray(@AuthenticationPrincipal Person person, @PathVariable long id, RedirectAttributes redirect) {
        trays.remove(person.id(), id);
        return told(redirect, "The tray is gone; its messages are in the Inbox, in no tray.", "/trays");
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
        return told(redirect, "New mail of %s goes there.".formatted(sender), "/trays");
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
        return told(redirect, "New mail of %s is sorted by what it is.".formatted(value), "/trays");
    }

    @GetMapping("/habits")
    String habits(@AuthenticationPrincipal Person person, Model model) {
        model.addAttribute("view", frame.view(person, "/habits", null));
        model.addAttribute("habits", habits.of(person.id()));
        return "places/habits";
    }

    @PostMapping("/habits")
    String keepHabits(
            @AuthenticationPrincipal Person person,
            @RequestParam Habits.Pane pane,
            @RequestParam Habits.Density density,
            @RequestParam(required = false) @Nullable Integer readAfter,
            @RequestParam String opens,
            @RequestParam(defaultValue = "false") boolean trays,
            RedirectAttributes redirect) {
        if (readAfter != null && (readAfter < 0 || readAfter > MAX_SECONDS)) {
            throw new IllegalArgumentException(
                    "Between 0 and %d seconds, or nothing for never.".formatted(MAX_SECONDS));
        }
        if (!opens.matches("inbox|flagged|(folder|label|tray)/\\d{1,18}")) {
            throw new IllegalArgumentException("There is no such place to begin with.");
        }
        Habits now = habits.of(person.id());
        habits.keep(person.id(), new Habits(pane, density, readAfter, opens, now.unreadOnly(), now.hiddenToo(), trays));
        return told(redirect, "Saved. The desk is so from now on.", "/habits");
    }

    private static String told(RedirectAttributes redirect, String text, String address) {
        redirect.addFlashAttribute("notice", Notice.told(text));
        return "redirect:" + address;
    }
}
