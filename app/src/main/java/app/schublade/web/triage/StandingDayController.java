package app.schublade.web.triage;

import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.Acts;
import app.schublade.store.triage.StandingDayStore;
import app.schublade.store.triage.StandingDayStore.StandingDay;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import java.time.DayOfWeek;
import java.time.LocalTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Days of one's own to put things off to; the page of preferences shows them. */
@Controller
@RequestMapping("/standing-days")
class StandingDayController {
    private static final int MAX_NAME = 40;
    private static final int MOST = 12;

    private final StandingDayStore days;
    private final Acts acts;

    StandingDayController(StandingDayStore days, Acts acts) {
        this.days = days;
        this.acts = acts;
    }

    @PostMapping
    String add(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String name,
            @RequestParam DayOfWeek weekday,
            @RequestParam(required = false) @Nullable LocalTime at,
            RedirectAttributes redirect) {
        String called = name.replaceAll("\\s+", " ").strip();
        if (called.isEmpty() || called.length() > MAX_NAME) {
            throw new InputProblem("A standing day needs a name of up to %d characters.".formatted(MAX_NAME));
        }
        List<StandingDay> known = days.of(person.id());
        if (known.size() >= MOST && known.stream().noneMatch(day -> day.name().equalsIgnoreCase(called))) {
            throw new InputProblem("%d standing days at most; delete one first.".formatted(MOST));
        }
        String told = "Added the standing day " + called;
        acts.record(person.id(), told, () -> days.add(person.id(), called, weekday, at));
        redirect.addFlashAttribute("notice", Notice.done(told));
        return "redirect:/habits";
    }

    @PostMapping("/{id}/remove")
    String remove(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        String name = days.of(person.id()).stream()
                .filter(day -> day.id() == id)
                .map(StandingDay::name)
                .findFirst()
                .orElseThrow(() -> new InputProblem("This standing day is gone already."));
        String told = "Deleted the standing day " + name;
        acts.record(person.id(), told, () -> days.remove(person.id(), id));
        redirect.addFlashAttribute("notice", Notice.done(told));
        return "redirect:/habits";
    }
}
