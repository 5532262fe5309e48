package app.schublade.web.places;

import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.Acts;
import app.schublade.store.cabinet.CategoryStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
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

/** The page of categories. */
@Controller
class CategoryController {
    private static final int MAX_MARK = 2;
    private static final int MAX_DAYS = 366;

    private final Acts acts;
    private final Frame frame;
    private final PlaceStore places;
    private final CategoryStore categories;
    private final LongActs longActs;

    CategoryController(Acts acts, Frame frame, PlaceStore places, CategoryStore categories, LongActs longActs) {
        this.longActs = longActs;
        this.acts = acts;
        this.frame = frame;
        this.places = places;
        this.categories = categories;
    }

    private Places.Category category(CurrentUser person, long id) {
        return places.of(person.id(), null)
                .category(id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such category."));
    }

    @GetMapping("/categories")
    String categories(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("view", frame.view(person, "/categories", null));
        model.addAttribute("categories", places.categories(person.id()));
        model.addAttribute("messages", categories.messages(person.id()));
        model.addAttribute("usedBy", categories.usedBy(person.id()));
        model.addAttribute("tones", Tone.values());
        return "places/categories";
    }

    @PostMapping("/categories")
    String makeCategory(
            @AuthenticationPrincipal CurrentUser person, @RequestParam String name, RedirectAttributes redirect) {
        String clean = PlacePages.name(name, "category");
        String made = acts.record(person.id(), act -> {
            String category = places.category(person.id(), clean).name();
            act.called("Created the category " + category);
            return category;
        });
        return PlacePages.done(redirect, "Category %s created".formatted(made), "/categories");
    }

    @PostMapping("/categories/{id}")
    String changeCategory(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String name,
            @RequestParam Tone tone,
            @RequestParam(defaultValue = "") String mark,
            @RequestParam(required = false) @Nullable Integer dueDays,
            RedirectAttributes redirect) {
        String stamp = mark.strip();
        if (stamp.codePointCount(0, stamp.length()) > MAX_MARK) {
            throw new InputProblem("“%s” does not fit in a stamp; two characters do.".formatted(stamp));
        }
        if (dueDays != null && (dueDays < 0 || dueDays > MAX_DAYS)) {
            throw new InputProblem("Due after 0 to %d days.".formatted(MAX_DAYS));
        }
        String clean = PlacePages.name(name, "category");
        acts.record(
                person.id(),
                "Changed the category " + clean,
                () -> categories.change(person.id(), id, clean, tone, stamp.isEmpty() ? null : stamp, dueDays));
        return PlacePages.done(redirect, "Saved %s".formatted(clean), "/categories");
    }

    @PostMapping("/categories/{id}/up")
    String rankHigher(@AuthenticationPrincipal CurrentUser person, @PathVariable long id) {
        acts.record(
                person.id(),
                "Ranked the category %s higher".formatted(category(person, id).name()),
                () -> categories.up(person.id(), id));
        return "redirect:/categories";
    }

    @PostMapping("/categories/{id}/remove")
    String removeCategory(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        Places.Category category = category(person, id);
        String title = "Removing the category " + category.name();
        RunNotice.of(redirect, longActs.begin(person.id(), title, 0, watch -> {
            categories.remove(person.id(), category);
            return LongActs.ActEnding.done("Category deleted; its messages stay where they are");
        }));
        return "redirect:/categories";
    }
}
