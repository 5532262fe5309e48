package app.schublade.web.compose;

import app.schublade.core.problem.InputProblem;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.OutgoingStore.Edition;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Notice;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** What was written is sent, and taken back in time. */
@Controller
class SendingController {
    /** An address of the desk. */
    private static final String LIST = "/mail/[\\w/]{1,60}(\\?[\\w=&%.@+~:,-]{0,2000})?";

    /** Whoever awaits an answer until a day is told when it ends. */
    private final ComposePage page;

    private final OutgoingStore outgoing;
    private final Writing writing;
    private final Elsewhere elsewhere;
    private final Dates dates;

    SendingController(ComposePage page, OutgoingStore outgoing, Writing writing, Elsewhere elsewhere, Dates dates) {
        this.page = page;
        this.outgoing = outgoing;
        this.writing = writing;
        this.elsewhere = elsewhere;
        this.dates = dates;
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
            @RequestParam(defaultValue = "0") int version,
            @RequestHeader(name = "Schublade-Window", defaultValue = "") String window,
            @RequestParam(defaultValue = "") String back,
            @RequestParam(defaultValue = "") String at,
            @RequestParam(defaultValue = "") String own,
            @RequestParam(defaultValue = "") String then,
            @RequestParam(required = false) @Nullable LocalDate await,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            HttpServletResponse response,
            Model model,
            RedirectAttributes redirect) {
        Outgoing one = page.one(person, id);
        LocalDateTime later = time(at.equals("own") ? own : at, !at.isEmpty());
        DraftText text = writing.text(person, typed);
        if (outgoing.keep(person.id(), id, text, new Edition(version, window)).isEmpty()) {
            return elsewhere.refused(person, id, response, model);
        }
        Instant due = writing.send(person, one, text, later, await);
        String told = later == null
                ? "Sent in %d seconds".formatted(Writing.GRACE.toSeconds())
                : "Leaves on %s".formatted(dates.exact(due));
        Notice notice = Notice.sent(told, "/write/%d/recall".formatted(id));
        if (ComposePage.isInPlace(target)) {
            String next = then.matches("\\d{1,18}|archive") ? then : "";
            return page.closed(response, "{\"sent\":true,\"then\":\"%s\"}".formatted(next), notice, model);
        }
        redirect.addFlashAttribute("notice", notice);
        return "redirect:" + (back.matches(LIST) ? back : "/mail/inbox");
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
}
