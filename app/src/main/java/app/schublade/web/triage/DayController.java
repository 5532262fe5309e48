package app.schublade.web.triage;

import app.schublade.core.triage.LookHours;
import app.schublade.store.account.AccountStore;
import app.schublade.store.triage.DayMailStore;
import app.schublade.store.triage.DayStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** One page that tells what happened by itself, and what is open; by mail, too, if one likes. */
@Controller
class DayController {
    private final DaySheets sheets;
    private final DayStore day;
    private final DayMailStore mail;
    private final AccountStore accounts;
    private final Frame frame;
    private final Dates dates;

    DayController(DaySheets sheets, DayStore day, DayMailStore mail, AccountStore accounts, Frame frame, Dates dates) {
        this.sheets = sheets;
        this.day = day;
        this.mail = mail;
        this.accounts = accounts;
        this.frame = frame;
        this.dates = dates;
    }

    @GetMapping("/today")
    String today(
            @AuthenticationPrincipal CurrentUser person,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        model.addAttribute("view", frame.view(person, "/today", null));
        model.addAttribute("sheet", sheets.of(person.id(), dates));
        model.addAttribute(
                "senders",
                accounts.of(person.id()).stream()
                        .filter(one -> one.hosts().sending() != null)
                        .toList());
        model.addAttribute("mail", mail.of(person.id()).orElse(null));
        return "day-open".equals(target) ? "triage/today :: open" : "triage/today";
    }

    /** All of it was seen: the sheet begins anew. */
    @PostMapping("/today/seen")
    String seen(@AuthenticationPrincipal CurrentUser person) {
        day.see(person.id(), dates.now());
        return "redirect:/today";
    }

    /** @param hours as they are typed; nothing for no mail */
    @PostMapping("/today/mail")
    String mail(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String hours,
            @RequestParam long account,
            RedirectAttributes redirect) {
        LookHours wanted = LookHours.parse(hours);
        mail.keep(person.id(), person.account(accounts, account).id(), wanted);
        redirect.addFlashAttribute(
                "notice",
                Notice.told(
                        wanted.isEmpty()
                                ? "The day sheet comes by mail no more."
                                : "The day sheet comes by mail at %s from now on.".formatted(wanted.shown())));
        return "redirect:/today";
    }
}
