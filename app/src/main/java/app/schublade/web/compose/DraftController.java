package app.schublade.web.compose;

import app.schublade.core.format.WrittenHtml;
import app.schublade.store.act.Acts;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.OutgoingStore.Edition;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.OutgoingStore.OutgoingState;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** A message that is being written: kept as it is typed, left, discarded; in several windows at once, too. */
@Controller
class DraftController {
    private static final String WINDOW = "Schublade-Window";

    private final ComposePage page;
    private final Acts acts;
    private final OutgoingStore outgoing;
    private final Writing writing;
    private final Elsewhere elsewhere;

    DraftController(ComposePage page, Acts acts, OutgoingStore outgoing, Writing writing, Elsewhere elsewhere) {
        this.page = page;
        this.acts = acts;
        this.outgoing = outgoing;
        this.writing = writing;
        this.elsewhere = elsewhere;
    }

    /**
     * Keeps what is typed, as it is typed.
     *
     * @param version that this window knows
     * @param over whether what another window has written since is written over; a message that is gone is begun anew
     */
    @PostMapping("/write/{id}/keep")
    @Nullable
    String keep(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            Writing.WritingFields typed,
            @RequestParam(defaultValue = "0") int version,
            @RequestParam(defaultValue = "false") boolean over,
            @RequestHeader(name = WINDOW, defaultValue = "") String window,
            HttpServletResponse response,
            Model model) {
        DraftText text = writing.text(person, typed);
        Edition known = new Edition(version, window);
        OptionalInt kept =
                over ? outgoing.keepOver(person.id(), id, text, known) : outgoing.keep(person.id(), id, text, known);
        if (kept.isPresent()) {
            model.addAttribute("version", kept.getAsInt());
            return "compose/page :: kept";
        }
        if (over) {
            long anew = outgoing.begin(person.id(), text, null, null, List.of());
            response.setHeader("HX-Redirect", "/write/" + anew);
            return null;
        }
        return elsewhere.refused(person, id, response, model);
    }

    /** What has become of it in another window since the version that this one knows, if anything has. */
    @GetMapping("/write/{id}/elsewhere")
    String elsewhere(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam int version,
            @RequestHeader(name = WINDOW, defaultValue = "") String window,
            Model model) {
        return elsewhere.told(person, id, new Edition(version, window), model);
    }

    /** The place below a message, with what is kept now. */
    @GetMapping("/write/{id}/again")
    String again(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam(required = false) @Nullable Long into,
            HttpServletResponse response,
            Model model) {
        return page.below(person, page.one(person, id), into, response, model);
    }

    /** What was kept, as plain text and with formatting, whichever of them it was written in. */
    @GetMapping("/write/{id}/text")
    @ResponseBody
    Map<String, String> text(@AuthenticationPrincipal CurrentUser person, @PathVariable long id) {
        OutgoingStore.DraftText text = page.one(person, id).text();
        String html = text.html();
        return Map.of("text", text.body(), "html", html == null ? WrittenHtml.of(text.body()) : html);
    }

    /** The place below a message is left; what was written stays, if anything was. */
    @PostMapping("/write/{id}/leave")
    String leave(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        outgoing.leave(person.id(), id);
        Optional<Outgoing> kept = outgoing.byId(person.id(), id).filter(one -> one.state() != OutgoingState.WAITING);
        return page.closed(
                kept.map(one -> Notice.told("Kept as a draft, under Outgoing")).orElse(null),
                kept.filter(one -> one.answers() != null).map(Outgoing::id).orElse(null),
                model);
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
        if (ComposePage.isInPlace(target)) {
            return page.closed(response, "{\"sent\":false}", notice, model);
        }
        redirect.addFlashAttribute("notice", notice);
        return outgoing.count(person.id()) == 0 ? "redirect:/mail/inbox" : "redirect:/outgoing";
    }
}
