package app.schublade.web.compose;

import app.schublade.core.format.MailWriter;
import app.schublade.core.format.WrittenHtml;
import app.schublade.core.message.Address;
import app.schublade.store.act.Acts;
import app.schublade.store.outgoing.SavedTextStore;
import app.schublade.store.outgoing.SavedTextStore.SavedText;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import java.util.Map;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Texts that are written often: kept on a page of their own, and put into what is being written. */
@Controller
@RequestMapping("/texts")
class SavedTextController {
    private static final String NAME = "{name}";
    private static final String DATE = "{date}";

    private final Acts acts;
    private final Frame frame;
    private final SavedTextStore texts;
    private final Dates dates;

    SavedTextController(Acts acts, Frame frame, SavedTextStore texts, Dates dates) {
        this.acts = acts;
        this.frame = frame;
        this.texts = texts;
        this.dates = dates;
    }

    @GetMapping
    String page(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("view", frame.view(person, "/texts", null));
        model.addAttribute("texts", texts.of(person.id()));
        return "compose/texts";
    }

    /** All of them, to choose from while one writes. */
    @GetMapping("/menu")
    String menu(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("texts", texts.of(person.id()));
        return "compose/texts :: menu";
    }

    /** @param to whom it is written to, as that was typed */
    @GetMapping("/{id}/filled")
    @ResponseBody
    Map<String, String> filled(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam(defaultValue = "") String to) {
        return texts.byId(person.id(), id)
                .map(text -> filled(text, to))
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "This text is gone."));
    }

    /** The one that a few letters mean; empty if they mean none. */
    @GetMapping("/meant")
    @ResponseBody
    Map<String, String> meant(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String letters,
            @RequestParam(defaultValue = "") String to) {
        return texts.meant(person.id(), letters).map(text -> filled(text, to)).orElse(Map.of());
    }

    private Map<String, String> filled(SavedText text, String to) {
        String body = text.body().replace("\r\n", "\n").replace(DATE, dates.longDay(dates.today()));
        String name = firstName(to);
        String filled = name.isEmpty() ? body : body.replace(NAME, name);
        return Map.of("text", filled, "html", WrittenHtml.of(filled));
    }

    /** Of the first of them; empty if only addresses are known. */
    private static String firstName(String to) {
        return MailWriter.likely(to).stream()
                .findFirst()
                .map(Address::name)
                .map(name -> name.contains(",") ? name.substring(name.indexOf(',') + 1) : name)
                .map(name -> name.strip().split("\\s+", 2)[0])
                .orElse("");
    }

    @PostMapping
    String add(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String name,
            @RequestParam String body,
            RedirectAttributes redirect) {
        acts.record(person.id(), "Kept the text " + name.strip(), () -> texts.add(person.id(), name, body));
        return back(redirect, "The text “%s” is kept".formatted(name.strip()));
    }

    @PostMapping("/{id}")
    String change(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String name,
            @RequestParam String body,
            RedirectAttributes redirect) {
        acts.record(person.id(), "Changed the text " + name.strip(), () -> texts.change(person.id(), id, name, body));
        return back(redirect, "The text “%s” is changed".formatted(name.strip()));
    }

    @PostMapping("/{id}/remove")
    String remove(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        String name = texts.byId(person.id(), id).map(SavedText::name).orElse("");
        acts.record(person.id(), "Deleted the text " + name, () -> texts.remove(person.id(), id));
        return back(redirect, "The text “%s” is deleted".formatted(name));
    }

    private static String back(RedirectAttributes redirect, String told) {
        redirect.addFlashAttribute("notice", Notice.done(told));
        return "redirect:/texts";
    }
}
