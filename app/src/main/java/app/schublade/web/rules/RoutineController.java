package app.schublade.web.rules;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Routine;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.Acts;
import app.schublade.store.rule.RoutineStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.rules.RuleForm.ActionLine;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The page of routines: several things that one key does. */
@Controller
class RoutineController {
    private static final int MAX_NAME = 60;
    /** Lines that wait below those of a routine to be filled in. */
    private static final int EMPTY_LINES = 2;

    private final RoutineStore routines;
    private final ActionMaker actions;
    private final RoutineStart start;
    private final Acts acts;
    private final Frame frame;

    RoutineController(RoutineStore routines, ActionMaker actions, RoutineStart start, Acts acts, Frame frame) {
        this.start = start;
        this.routines = routines;
        this.actions = actions;
        this.acts = acts;
        this.frame = frame;
    }

    /** A routine as its form shows it. */
    public record RoutineForm(Routine routine, List<ActionLine> lines) {
        static RoutineForm of(Routine routine) {
            return new RoutineForm(routine, RuleForm.actions(routine.steps()));
        }
    }

    /**
     * @param rule what it does is what a new routine begins with
     * @param example whether it begins with what the user did last
     */
    @GetMapping("/routines")
    String routines(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(required = false) @Nullable Long rule,
            @RequestParam(defaultValue = "false") boolean example,
            Model model) {
        Optional<RoutineStart.FirstSteps> done = start.byExample(person.id());
        Optional<RoutineStart.FirstSteps> begun =
                example ? done : Optional.ofNullable(rule).flatMap(id -> start.fromRule(person.id(), id));
        model.addAttribute("done", done.orElse(null));
        model.addAttribute("begun", begun.orElse(RoutineStart.FirstSteps.EMPTY));
        model.addAttribute("rules", start.rules(person.id()));
        model.addAttribute("rule", rule);
        model.addAttribute("view", frame.view(person, "/routines", null));
        model.addAttribute(
                "routines",
                routines.of(person.id()).stream().map(RoutineForm::of).toList());
        model.addAttribute("deeds", RoutineStart.POSSIBLE);
        model.addAttribute("empty", EMPTY_LINES);
        return "rules/routines";
    }

    private Routine routine(CurrentUser person, long id) {
        return routines.of(person.id(), id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such routine."));
    }

    /** @param id 0 for a new one */
    @PostMapping("/routines/{id}")
    String save(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam MultiValueMap<String, String> fields,
            RedirectAttributes redirect) {
        String name = name(fields.getFirst("name"));
        List<String> kinds = fields.getOrDefault("thenKind", List.of());
        List<String> texts = fields.getOrDefault("thenText", List.of());
        List<ActionLine> lines = new ArrayList<>();
        for (int i = 0; i < Math.min(kinds.size(), texts.size()); i++) {
            if (!kinds.get(i).isEmpty()) {
                lines.addAll(RuleForm.doings(List.of(kinds.get(i)), List.of(texts.get(i))));
            }
        }
        lines.removeIf(ActionLine::isBlank);
        if (lines.stream().anyMatch(line -> !RoutineStart.POSSIBLE.contains(line.deed()))) {
            throw new InputProblem("A routine cannot do that by itself.");
        }
        acts.record(person.id(), (id == 0 ? "Made" : "Changed") + " the routine " + name, () -> {
            ActionMaker.Finder places = actions.making(person.id());
            List<Effect> steps =
                    lines.stream().map(line -> ActionMaker.effect(line, places)).toList();
            routines.save(person.id(), new Routine(id, name, steps, List.of()));
        });
        return done(redirect, "Saved " + name);
    }

    private static String name(@Nullable String typed) {
        String name = typed == null ? "" : typed.replaceAll("\\s+", " ").strip();
        if (name.isEmpty() || name.length() > MAX_NAME) {
            throw new InputProblem("A routine needs a name of up to %d characters.".formatted(MAX_NAME));
        }
        return name;
    }

    @PostMapping("/routines/{id}/duplicate")
    String duplicate(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        Routine of = routine(person, id);
        List<String> names =
                routines.of(person.id()).stream().map(Routine::name).toList();
        String name = of.name();
        for (int i = 2; names.contains(name); i++) {
            name = of.name() + " " + i;
        }
        Routine copy = new Routine(0, name, of.steps(), List.of());
        acts.record(person.id(), "Created the routine " + name, () -> routines.save(person.id(), copy));
        return done(redirect, "Created “%s”; it comes after all the others".formatted(name));
    }

    @PostMapping("/routines/{id}/up")
    String up(@AuthenticationPrincipal CurrentUser person, @PathVariable long id) {
        acts.record(
                person.id(),
                "Moved the routine %s up".formatted(routine(person, id).name()),
                () -> routines.up(person.id(), id));
        return "redirect:/routines";
    }

    /** @param before the one that it was dragged to, or 0 for the end */
    @PostMapping("/routines/{id}/place")
    String place(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, @RequestParam long before) {
        acts.record(
                person.id(),
                "Moved the routine %s".formatted(routine(person, id).name()),
                () -> routines.putBefore(person.id(), id, before));
        return "redirect:/routines";
    }

    @PostMapping("/routines/{id}/remove")
    String remove(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        String name = routine(person, id).name();
        acts.record(person.id(), "Deleted the routine " + name, () -> routines.delete(person.id(), id));
        return done(redirect, "Deleted the routine " + name);
    }

    /** Those that one begins with come back, as far as they are not there. */
    @PostMapping("/routines/begin")
    String begin(@AuthenticationPrincipal CurrentUser person, RedirectAttributes redirect) {
        acts.record(person.id(), "Put the first routines back", () -> routines.giveThoseToBeginWith(person.id()));
        return done(redirect, "The first six routines are back");
    }

    private static String done(RedirectAttributes redirect, String text) {
        redirect.addFlashAttribute("notice", Notice.done(text));
        return "redirect:/routines";
    }
}
