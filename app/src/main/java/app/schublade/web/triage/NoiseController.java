package app.schublade.web.triage;

import app.schublade.store.noise.ListsStore;
import app.schublade.store.noise.ListsStore.MailingList;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.ReturnTo;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** What the user does not want to see: mailing lists to leave, senders to block, conversations to mute. */
@Controller
@RequestMapping("/noise")
class NoiseController {
    private final ListLeaving leaving;
    private final ListsStore lists;
    private final NoiseActs acts;
    private final Frame frame;
    private final Answers answers;

    NoiseController(ListLeaving leaving, ListsStore lists, NoiseActs acts, Frame frame, Answers answers) {
        this.leaving = leaving;
        this.lists = lists;
        this.acts = acts;
        this.frame = frame;
        this.answers = answers;
    }

    /** A mailing list with how it can be left. */
    public record MailingListLine(MailingList list, boolean leavable, String page) {}

    @GetMapping
    String page(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("view", frame.view(person, "/noise", null));
        addLines(person, model);
        return "triage/noise";
    }

    @GetMapping("/lines")
    String lines(@AuthenticationPrincipal CurrentUser person, Model model) {
        addLines(person, model);
        return "triage/noise :: lines";
    }

    private void addLines(CurrentUser person, Model model) {
        model.addAttribute(
                "lists",
                lists.of(person.id()).stream().map(list -> line(person, list)).toList());
        model.addAttribute("blocked", acts.blocked(person.id()));
        model.addAttribute("muted", acts.muted(person.id()));
    }

    private MailingListLine line(CurrentUser person, MailingList list) {
        return leaving.exit(person.id(), list.last())
                .map(exit -> new MailingListLine(
                        list,
                        exit.request() != null || exit.mail() != null,
                        exit.page() == null ? "" : exit.page().toString()))
                .orElseGet(() -> new MailingListLine(list, false, ""));
    }

    @PostMapping("/leave/{message}")
    String leave(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long message, ReturnTo standing, Model model) {
        return answers.told(person, standing, leaving.leave(person, message), model);
    }

    /** @param value an address, or a domain for everybody there */
    @PostMapping("/block")
    String block(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String value,
            @RequestParam boolean on,
            ReturnTo standing,
            Model model) {
        return answers.told(person, standing, Notice.done(acts.block(person.id(), value, on)), model);
    }

    @PostMapping("/mute/{message}")
    String mute(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long message,
            @RequestParam boolean on,
            ReturnTo standing,
            Model model) {
        return answers.told(person, standing, Notice.done(acts.mute(person.id(), message, on)), model);
    }
}
