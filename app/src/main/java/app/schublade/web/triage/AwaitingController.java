package app.schublade.web.triage;

import app.schublade.store.act.Acts;
import app.schublade.store.triage.AwaitingStore;
import app.schublade.store.triage.AwaitingStore.Awaited;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.ReturnTo;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** What one asked, and who answered. */
@Controller
class AwaitingController {
    private static final Notice CLOSED = Notice.done("No answer is awaited any more");

    private final AwaitingStore awaiting;
    private final Acts acts;
    private final Frame frame;
    private final Answers answers;
    private final Clock clock;

    AwaitingController(AwaitingStore awaiting, Acts acts, Frame frame, Answers answers, Clock clock) {
        this.answers = answers;
        this.awaiting = awaiting;
        this.acts = acts;
        this.frame = frame;
        this.clock = clock;
    }

    @GetMapping("/awaiting")
    String awaiting(@AuthenticationPrincipal CurrentUser person, Model model) {
        List<Awaited> all = awaiting.of(person.id());
        Instant now = clock.instant();
        model.addAttribute("view", frame.view(person, "/awaiting", null));
        model.addAttribute(
                "open", all.stream().filter(one -> one.isOverdue(now)).toList());
        model.addAttribute(
                "early",
                all.stream()
                        .filter(one -> !one.isAnswered() && !one.isOverdue(now))
                        .toList());
        model.addAttribute("now", now);
        model.addAttribute("answered", all.stream().filter(Awaited::isAnswered).toList());
        return "triage/awaiting";
    }

    @PostMapping("/awaiting/{message}/close")
    String close(@AuthenticationPrincipal CurrentUser person, @PathVariable long message, RedirectAttributes redirect) {
        close(person, message);
        redirect.addFlashAttribute("notice", CLOSED);
        return "redirect:/awaiting";
    }

    /** The same from a page that stays. */
    @PostMapping("/awaiting/{message}/closed")
    String closed(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long message, ReturnTo standing, Model model) {
        close(person, message);
        return answers.told(person, standing, CLOSED, model);
    }

    private void close(CurrentUser person, long message) {
        acts.record(person.id(), "No answer awaited any more", () -> awaiting.close(person.id(), message));
    }
}
