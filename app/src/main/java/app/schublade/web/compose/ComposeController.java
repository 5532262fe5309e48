package app.schublade.web.compose;

import app.schublade.core.filing.Routine;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.OutgoingStore.OutgoingState;
import app.schublade.store.rule.RoutineStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import jakarta.servlet.http.HttpServletResponse;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** A message is begun: a new one, an answer, or one that passes others on. */
@Controller
class ComposeController {
    private static final String ASKED_AGAIN =
            "May I ask again? I have not had an answer to this yet, and would be glad to hear from you.\n";

    private final ComposePage page;
    private final DraftMaker drafts;
    private final ResumedDrafts resumed;
    private final RoutineStore routines;
    private final Dates dates;

    ComposeController(ComposePage page, DraftMaker drafts, ResumedDrafts resumed, RoutineStore routines, Dates dates) {
        this.dates = dates;
        this.page = page;
        this.resumed = resumed;
        this.drafts = drafts;
        this.routines = routines;
    }

    /** @param to an address that it goes to; can be empty */
    @PostMapping("/write")
    String write(@AuthenticationPrincipal CurrentUser person, @RequestParam(defaultValue = "") String to) {
        return "redirect:/write/" + drafts.begin(person, to);
    }

    /**
     * @param marked what alone of the message is quoted; empty for all of it
     * @param into the folder that the message will likely be filed into when it is answered
     */
    @PostMapping("/answer/{message}")
    String answer(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long message,
            @RequestParam(defaultValue = "false") boolean all,
            @RequestParam(defaultValue = "false") boolean again,
            @RequestParam(defaultValue = "") String marked,
            @RequestParam(required = false) @Nullable Long into,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            HttpServletResponse response,
            Model model) {
        String beginning = again ? ASKED_AGAIN : "";
        long id = drafts.answer(person, message, all, beginning, marked).orElseThrow(ComposeController::gone);
        return begun(person, id, into, target, response, model);
    }

    /** The answer that a routine begins, with its text. */
    @PostMapping("/answer")
    String answer(@AuthenticationPrincipal CurrentUser person, @RequestParam long message, @RequestParam long routine) {
        Optional<Routine> begun = routines.of(person.id(), routine);
        String text = begun.map(Routine::answer).orElse("");
        long id = drafts.answer(person, message, false, text, "").orElseThrow(ComposeController::gone);
        return "redirect:/write/" + id
                + begun.map(one -> one.answeredBy(dates.today()))
                        .map(day -> "?await=" + day)
                        .orElse("");
    }

    /**
     * @param ids of the messages that are passed on, with commas between
     * @param attached whether one alone goes along as it came, too
     */
    @PostMapping("/forward")
    String forward(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam List<Long> ids,
            @RequestParam(defaultValue = "false") boolean attached,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            HttpServletResponse response,
            Model model) {
        long id = drafts.forward(person, ids, attached).orElseThrow(ComposeController::gone);
        return begun(person, id, null, target, response, model);
    }

    /** A draft that lies on a server is written on. */
    @PostMapping("/continue/{message}")
    String resume(@AuthenticationPrincipal CurrentUser person, @PathVariable long message) {
        return "redirect:/write/" + resumed.of(person, message).orElseThrow(ComposeController::gone);
    }

    private String begun(
            CurrentUser person,
            long id,
            @Nullable Long into,
            @Nullable String target,
            HttpServletResponse response,
            Model model) {
        return ComposePage.isInPlace(target)
                ? page.below(person, page.one(person, id), into, response, model)
                : "redirect:/write/" + id;
    }

    private static ResponseStatusException gone() {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "This message is gone.");
    }

    /** @param await by which day an answer is wanted, as a routine says; can be changed there */
    @GetMapping("/write/{id}")
    String page(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam(required = false) @Nullable LocalDate await,
            Model model) {
        Outgoing one = page.one(person, id);
        if (one.state() == OutgoingState.WAITING || one.state() == OutgoingState.SENT) {
            return "redirect:/outgoing";
        }
        model.addAttribute("await", await);
        return page.whole(person, one, model);
    }
}
