package app.schublade.web.triage;

import app.schublade.core.triage.LookHours;
import app.schublade.store.find.SavedSearchStore;
import app.schublade.store.noise.QuietStore;
import app.schublade.store.triage.ReminderStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** At which hours the user looks at mail, and of what he or she is notified. */
@Controller
@RequestMapping("/quiet")
class QuietController {
    private final QuietStore quiet;
    private final SavedSearchStore searches;
    private final ReminderStore reminders;
    private final Frame frame;
    private final Dates dates;

    QuietController(QuietStore quiet, SavedSearchStore searches, ReminderStore reminders, Frame frame, Dates dates) {
        this.reminders = reminders;
        this.quiet = quiet;
        this.searches = searches;
        this.frame = frame;
        this.dates = dates;
    }

    @GetMapping
    String page(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("view", frame.view(person, "/quiet", null));
        model.addAttribute("quiet", quiet.of(person.id()));
        model.addAttribute("next", quiet.nextLook(person.id()).map(dates::look).orElse(null));
        model.addAttribute("notices", QuietStore.Notices.values());
        model.addAttribute("searches", searches.of(person.id()));
        model.addAttribute("mailedTo", reminders.mailedTo(person.id()).orElse(null));
        return "triage/quiet";
    }

    @PostMapping
    String keep(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(defaultValue = "") String hours,
            @RequestParam QuietStore.Notices notices,
            @RequestParam(defaultValue = "") List<Long> search,
            @RequestParam(defaultValue = "") List<Long> label,
            @RequestParam(required = false) @Nullable Long reminders,
            RedirectAttributes redirect) {
        quiet.keep(person.id(), LookHours.parse(hours), notices, search, label);
        this.reminders.mailTo(person.id(), reminders);
        String told = quiet.nextLook(person.id())
                .map(next -> "New mail waits from now on. The next look is %s.".formatted(dates.look(next)))
                .orElse("Saved. New mail shows as it comes.");
        redirect.addFlashAttribute("notice", Notice.told(told));
        return "redirect:/quiet";
    }

    /** What the strip says of it, as it is by now. */
    @GetMapping("/next")
    String next(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("nextLook", quiet.nextLook(person.id()).orElse(null));
        return "frame/parts :: nextLook";
    }

    /** New mail is wanted now; what comes after this waits for the next hour again. */
    @PostMapping("/look")
    String look(@AuthenticationPrincipal CurrentUser person, RedirectAttributes redirect) {
        int shown = quiet.look(person.id());
        String mail = shown == 0 ? "No new mail" : shown == 1 ? "1 new message" : "%,d new messages".formatted(shown);
        String next = quiet.nextLook(person.id())
                .map(look -> ". The next look is " + dates.look(look))
                .orElse("");
        redirect.addFlashAttribute("notice", Notice.told(mail + next + "."));
        return "redirect:/mail/inbox";
    }
}
