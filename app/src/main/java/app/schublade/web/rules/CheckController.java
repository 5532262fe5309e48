package app.schublade.web.rules;

import app.schublade.core.filing.BookRun;
import app.schublade.store.FilingStore;
import app.schublade.store.ListRow;
import app.schublade.store.MessageStore;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.Person;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** All rules at once over the mail that is there: what each takes, where two want different folders; and carried out. */
@Controller
@RequestMapping("/rules/check")
class CheckController {
    private final Frame frame;
    private final Trials trials;
    private final MessageStore messages;

    CheckController(Frame frame, Trials trials, MessageStore messages) {
        this.frame = frame;
        this.trials = trials;
        this.messages = messages;
    }

    @GetMapping
    String page(@AuthenticationPrincipal Person person, Model model) {
        BookRun run = trials.check(person.id());
        Map<Long, String> subjects = new HashMap<>();
        run.lines().stream()
                .flatMap(line -> line.conflicts().values().stream())
                .map(BookRun.Conflict::examples)
                .flatMap(Collection::stream)
                .forEach(id -> subjects.put(
                        id, messages.row(person.id(), id).map(ListRow::subject).orElse("")));
        model.addAttribute("view", frame.view(person, "/rules", null));
        model.addAttribute("run", run);
        model.addAttribute("subjects", subjects);
        return "rules/check";
    }

    @PostMapping
    String carryOut(@AuthenticationPrincipal Person person, RedirectAttributes redirect) {
        FilingStore.Outcome outcome = trials.carryOutAll(person.id());
        int count = outcome.changed().size();
        redirect.addFlashAttribute(
                "notice",
                count == 0
                        ? Notice.told("There was nothing to do.")
                        : Notice.done("%,d %s done".formatted(count, count == 1 ? "message" : "messages")));
        return "redirect:/rules/check";
    }
}
