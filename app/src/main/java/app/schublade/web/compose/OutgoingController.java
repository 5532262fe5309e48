package app.schublade.web.compose;

import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.OutgoingStore.OutgoingState;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** What is being written, waits, or was not taken. */
@Controller
class OutgoingController {
    private final Frame frame;
    private final OutgoingStore outgoing;
    private final Dates dates;

    OutgoingController(Frame frame, OutgoingStore outgoing, Dates dates) {
        this.frame = frame;
        this.outgoing = outgoing;
        this.dates = dates;
    }

    @GetMapping("/outgoing")
    String list(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("view", frame.view(person, "/outgoing", null));
        addAll(person, model);
        return "compose/outgoing";
    }

    /** The lines alone, as messages leave. */
    @GetMapping("/outgoing/lines")
    String lines(@AuthenticationPrincipal CurrentUser person, Model model) {
        addAll(person, model);
        return "compose/outgoing :: lines";
    }

    private void addAll(CurrentUser person, Model model) {
        List<Outgoing> all = outgoing.of(person.id());
        Instant soon = Instant.now().plus(Duration.ofMinutes(10));
        Map<Long, String> later = new HashMap<>();
        for (Outgoing one : all) {
            Instant due = one.dueAt();
            if (one.state() == OutgoingState.WAITING && due != null && due.isAfter(soon)) {
                later.put(one.id(), "leaves on " + dates.exact(due));
            }
        }
        model.addAttribute("all", all);
        model.addAttribute("later", later);
    }
}
