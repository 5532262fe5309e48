package app.schublade.web.compose;

import app.schublade.core.filing.Routine;
import app.schublade.core.format.WrittenHtml;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.Acts;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.OutgoingStore.OutgoingState;
import app.schublade.store.rule.RoutineStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeParseException;
import java.util.List;
import java.util.Map;
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
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/**
 * A message is written below the one that it answers, or on a page of its own; kept as it is typed, sent, and taken back in
 * time. A request whose target is the element {@code answer} comes from below a message, and is answered there.
 */
@Controller
class ComposeController {
    /** An address of the desk. */
    private static final String LIST = "/mail/[\\w/]{1,60}(\\?[\\w=&%.@+~:,-]{0,2000})?";

    private static final String IN_PLACE = "answer";
    /** The address of the page stays. */
    private static final String PUSH = "HX-Push-Url";

    /** Whoever awaits an answer until a day is told when it ends. */
    private static final LocalTime AWAITED_FROM = LocalTime.of(17, 0);

    private static final String ASKED_AGAIN =
            "May I ask again? I have not had an answer to this yet, and would be glad to hear from you.\n";

    private final Acts acts;
    private final Frame frame;
    private final OutgoingStore outgoing;
    private final DraftMaker drafts;
    private final Writing writing;
    private final Dates dates;
    private final RoutineStore routines;

    ComposeController(
            Acts acts,
            Frame frame,
            OutgoingStore outgoing,
            DraftMaker drafts,
            Writing writing,
            Dates dates,
            RoutineStore routines) {
        this.routines = routines;
        this.dates = dates;
        this.drafts = drafts;
        this.acts = acts;
        this.frame = frame;
        this.outgoing = outgoing;
        this.writing = writing;
    }

    @PostMapping("/write")
    String write(@AuthenticationPrincipal CurrentUser person) {
        return "redirect:/write/" + drafts.begin(person);
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
        String text = routines.of(person.id(), routine).map(Routine::answer).orElse("");
        long id = drafts.answer(person, message, false, text, "").orElseThrow(ComposeController::gone);
        return "redirect:/write/" + id;
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

    private String begun(
            CurrentUser person,
            long id,
            @Nullable Long into,
            @Nullable String target,
            HttpServletResponse response,
            Model model) {
        if (!IN_PLACE.equals(target)) {
            return "redirect:/write/" + id;
        }
        response.setHeader(PUSH, "false");
        Frame.View view = add(person, one(person, id), model);
        model.addAttribute(
                "into", into == null ? null : view.places().folder(into).orElse(null));
        return "compose/page :: inPlace";
    }

    static ResponseStatusException gone() {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "This message is gone; it may have been sent.");
    }

    private Outgoing one(CurrentUser person, long id) {
        return outgoing.byId(person.id(), id).orElseThrow(ComposeController::gone);
    }

    private Frame.View add(CurrentUser person, Outgoing one, Model model) {
        Frame.View view = frame.view(person, "/write", null);
        model.addAttribute("view", view);
        model.addAttribute("one", one);
        model.addAttribute("senders", writing.senders(person, one.text().sender()));
        model.addAttribute("files", writing.files(one));
        model.addAttribute("times", dates.laterChoices());
        return view;
    }

    @GetMapping("/write/{id}")
    String page(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        Outgoing one = one(person, id);
        if (one.state() == OutgoingState.WAITING || one.state() == OutgoingState.SENT) {
            return "redirect:/outgoing";
        }
        add(person, one, model);
        return "compose/page";
    }

    /** Keeps what is typed, as it is typed. */
    @PostMapping("/write/{id}/keep")
    @ResponseBody
    String keep(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Writing.WritingFields typed) {
        outgoing.keep(person.id(), id, writing.text(person, typed));
        return "";
    }

    /** What was kept, as plain text and with formatting, whichever of them it was written in. */
    @GetMapping("/write/{id}/text")
    @ResponseBody
    Map<String, String> text(@AuthenticationPrincipal CurrentUser person, @PathVariable long id) {
        OutgoingStore.DraftText text = one(person, id).text();
        String html = text.html();
        return Map.of("text", text.body(), "html", html == null ? WrittenHtml.of(text.body()) : html);
    }

    /** The place below a message is left; what was written stays, if anything was. */
    @PostMapping("/write/{id}/leave")
    String leave(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        outgoing.leave(person.id(), id);
        Optional<Outgoing> kept = outgoing.byId(person.id(), id).filter(one -> one.state() != OutgoingState.WAITING);
        model.addAttribute(
                "notice",
                kept.map(one -> Notice.told("Kept as a draft, under Outgoing")).orElse(null));
        model.addAttribute(
                "draft",
                kept.filter(one -> one.answers() != null).map(Outgoing::id).orElse(null));
        return "compose/page :: closed";
    }

    /**
     * @param at when it is to leave, as the user's clock shows it then; {@code own} for what was typed; else at once
     * @param own what was typed
     * @param then what is done with the message that was answered: filed into a folder with this id, {@code archive}, or
     *     nothing
     */
    @PostMapping("/write/{id}/send")
    String send(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            Writing.WritingFields typed,
            @RequestParam(defaultValue = "") String back,
            @RequestParam(defaultValue = "") String at,
            @RequestParam(defaultValue = "") String own,
            @RequestParam(defaultValue = "") String then,
            @RequestParam(required = false) @Nullable LocalDate await,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            HttpServletResponse response,
            Model model,
            RedirectAttributes redirect) {
        Outgoing one = one(person, id);
        LocalDateTime later = time(at.equals("own") ? own : at, !at.isEmpty());
        Instant until = await == null ? null : dates.instant(await.atTime(AWAITED_FROM));
        Instant due = writing.send(person, one, writing.text(person, typed), later, until);
        String told = later == null
                ? "Sent in %d seconds".formatted(Writing.GRACE.toSeconds())
                : "Leaves on %s".formatted(dates.exact(due));
        Notice notice = Notice.sent(told, "/write/%d/recall".formatted(id));
        if (IN_PLACE.equals(target)) {
            String next = then.matches("\\d{1,18}|archive") ? then : "";
            return closed(response, "{\"sent\":true,\"then\":\"%s\"}".formatted(next), notice, model);
        }
        redirect.addFlashAttribute("notice", notice);
        return "redirect:" + (back.matches(LIST) ? back : "/mail/inbox");
    }

    private static String closed(HttpServletResponse response, String how, Notice notice, Model model) {
        response.setHeader(PUSH, "false");
        response.setHeader("HX-Trigger-After-Swap", "{\"answer-closed\":%s}".formatted(how));
        model.addAttribute("notice", notice);
        model.addAttribute("draft", null);
        return "compose/page :: closed";
    }

    private static @Nullable LocalDateTime time(String typed, boolean wanted) {
        if (!wanted) {
            return null;
        }
        try {
            return LocalDateTime.parse(typed);
        } catch (DateTimeParseException e) {
            throw new InputProblem("Choose the day and the hour when it is to leave.", e);
        }
    }

    @PostMapping("/write/{id}/recall")
    String recall(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        if (outgoing.recall(person.id(), id)) {
            redirect.addFlashAttribute("notice", Notice.told("Sending was undone. It is a draft again."));
            return "redirect:/write/" + id;
        }
        redirect.addFlashAttribute("notice", Notice.problem("It has left already."));
        return "redirect:/outgoing";
    }

    @PostMapping("/write/{id}/discard")
    String discard(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            HttpServletResponse response,
            Model model,
            RedirectAttributes redirect) {
        acts.record(person.id(), "Discarded a draft", () -> outgoing.discard(person.id(), id));
        Notice notice = Notice.done("Draft discarded");
        if (IN_PLACE.equals(target)) {
            return closed(response, "{\"sent\":false}", notice, model);
        }
        redirect.addFlashAttribute("notice", notice);
        return outgoing.count(person.id()) == 0 ? "redirect:/mail/inbox" : "redirect:/outgoing";
    }
}
