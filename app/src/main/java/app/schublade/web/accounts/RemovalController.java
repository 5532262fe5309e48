package app.schublade.web.accounts;

import app.schublade.mail.MailException;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.rule.ScriptStore;
import app.schublade.store.triage.DayMailStore;
import app.schublade.sync.AccountRemover;
import app.schublade.sync.ScriptKeeper;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Takes an account out, after saying what goes with it. */
@Controller
@RequestMapping("/accounts/{id}/remove")
class RemovalController {
    private final Frame frame;
    private final AccountStore accounts;
    private final ScriptStore scripts;
    private final DayMailStore dayMail;
    private final ScriptKeeper keeper;
    private final AccountRemover remover;

    RemovalController(
            Frame frame,
            AccountStore accounts,
            ScriptStore scripts,
            DayMailStore dayMail,
            ScriptKeeper keeper,
            AccountRemover remover) {
        this.frame = frame;
        this.accounts = accounts;
        this.scripts = scripts;
        this.dayMail = dayMail;
        this.keeper = keeper;
        this.remover = remover;
    }

    @GetMapping
    String askToRemove(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        model.addAttribute("view", frame.view(person, "/accounts", null));
        model.addAttribute("account", person.account(accounts, id));
        model.addAttribute("farewell", accounts.farewell(person.id(), id));
        model.addAttribute("heir", accounts.heir(person.id(), id).orElse(null));
        model.addAttribute(
                "daySheet",
                dayMail.of(person.id()).filter(mail -> mail.account() == id).isPresent());
        model.addAttribute("scripted", scripts.of(id).isPresent());
        return "accounts/remove";
    }

    @PostMapping
    String remove(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        Account account = person.account(accounts, id);
        String script = "";
        try {
            keeper.turnOff(account);
        } catch (MailException e) {
            script = " It still files by the script “%s”, because it could not be told.".formatted(ScriptKeeper.NAME);
        }
        remover.remove(account);
        redirect.addFlashAttribute(
                "notice", Notice.told("%s is removed. Its server keeps its mail.%s".formatted(account.name(), script)));
        return "redirect:/accounts";
    }
}
