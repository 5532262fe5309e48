package app.schublade.web.places;

import app.schublade.core.place.Habits;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.base.Zones;
import app.schublade.store.triage.StandingDayStore;
import app.schublade.store.user.HabitStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import java.time.DayOfWeek;
import java.time.ZoneId;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The page where one says how one likes the desk. */
@Controller
class HabitController {
    private static final int MAX_SECONDS = 600;
    /** A letter, a sign, a digit with Shift, or the name of a key. */
    private static final String KEY = "[^\\s\\p{Lu}]|Shift\\+[\\da-z]|Delete|Backspace|F\\d{1,2}|Insert";

    private final Frame frame;
    private final HabitStore habits;
    private final Zones zones;
    private final StandingDayStore standing;

    HabitController(Frame frame, HabitStore habits, Zones zones, StandingDayStore standing) {
        this.standing = standing;
        this.zones = zones;
        this.frame = frame;
        this.habits = habits;
    }

    /** The place that one likes to begin with. */
    @GetMapping("/")
    String home(@AuthenticationPrincipal CurrentUser person) {
        return "redirect:/mail/" + habits.of(person.id()).opens();
    }

    @GetMapping("/habits")
    String habits(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("view", frame.view(person, "/habits", null));
        model.addAttribute("habits", habits.of(person.id()));
        model.addAttribute("zone", zones.of(person.id()).getId());
        model.addAttribute("zones", Zones.names());
        model.addAttribute("standing", standing.of(person.id()));
        model.addAttribute("weekdays", DayOfWeek.values());
        model.addAttribute("panes", Habits.Pane.values());
        model.addAttribute("densities", Habits.Density.values());
        model.addAttribute("schemes", Habits.Scheme.values());
        return "places/habits";
    }

    @PostMapping("/habits")
    String keepHabits(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam Habits.Pane pane,
            @RequestParam Habits.Density density,
            @RequestParam(defaultValue = "SYSTEM") Habits.Scheme scheme,
            @RequestParam(required = false) @Nullable Integer readAfter,
            @RequestParam(defaultValue = "false") boolean readWhenLeft,
            @RequestParam String opens,
            @RequestParam(defaultValue = "false") boolean trays,
            @RequestParam(defaultValue = "false") boolean severalCategories,
            @RequestParam(defaultValue = "false") boolean oldestFirst,
            @RequestParam(defaultValue = "false") boolean copyBeside,
            @RequestParam(required = false) @Nullable String zone,
            RedirectAttributes redirect) {
        if (readAfter != null && (readAfter < 0 || readAfter > MAX_SECONDS)) {
            throw new InputProblem("Between 0 and %d seconds, or nothing for never.".formatted(MAX_SECONDS));
        }
        if (!opens.matches("inbox|flagged|(folder|label|tray)/\\d{1,18}")) {
            throw new InputProblem("There is no such first page.");
        }
        if (zone != null) {
            ZoneId chosen = Zones.parse(zone)
                    .orElseThrow(() ->
                            new InputProblem("There is no time zone “%s”; write Europe/Lisbon, say.".formatted(zone)));
            zones.choose(person.id(), chosen);
        }
        Habits now = habits.of(person.id());
        habits.keep(
                person.id(),
                new Habits(
                        pane,
                        density,
                        readWhenLeft ? Integer.valueOf(Habits.WHEN_LEFT) : readAfter,
                        opens,
                        now.unreadOnly(),
                        now.hiddenToo(),
                        trays,
                        severalCategories,
                        scheme,
                        new Habits.Letters(oldestFirst, copyBeside)));
        return PlacePages.told(redirect, "Preferences saved.", "/habits");
    }

    /** Asked for by the page of keys: one key does what another usually does. */
    @PostMapping("/habits/keys")
    @ResponseBody
    String chooseKey(
            @AuthenticationPrincipal CurrentUser person, @RequestParam String usual, @RequestParam String chosen) {
        if (!usual.matches(KEY) || !chosen.matches(KEY)) {
            throw new InputProblem("“%s” cannot be a key of its own.".formatted(chosen));
        }
        habits.chooseKey(person.id(), usual, chosen);
        return "";
    }

    @PostMapping("/habits/usual-keys")
    String usualKeys(@AuthenticationPrincipal CurrentUser person, RedirectAttributes redirect) {
        habits.usualKeys(person.id());
        return PlacePages.told(redirect, "All keys are reset.", "/habits");
    }
}
