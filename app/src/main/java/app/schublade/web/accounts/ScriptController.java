package app.schublade.web.accounts;

import app.schublade.core.problem.InputProblem;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.store.account.AccountStore;
import app.schublade.sync.ScriptKeeper;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Rules that an account's server carries out by itself: switched on and off. */
@Controller
@RequestMapping("/accounts/{id}/script")
class ScriptController {
    private final AccountStore accounts;
    private final ScriptKeeper keeper;

    ScriptController(AccountStore accounts, ScriptKeeper keeper) {
        this.accounts = accounts;
        this.keeper = keeper;
    }

    @PostMapping
    String turnOn(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam int port,
            @RequestParam MailHost.Encryption encryption,
            @RequestParam(defaultValue = "false") boolean replace,
            RedirectAttributes redirect) {
        try {
            keeper.turnOn(person.account(accounts, id), port, encryption, replace);
            say(redirect, Notice.told("The server files by itself now; changes of rules follow in some seconds."));
        } catch (MailException | InputProblem e) {
            say(redirect, Notice.problem(e.getMessage()));
        }
        return "redirect:/accounts/" + id;
    }

    @PostMapping("/again")
    String putAgain(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        try {
            keeper.putAgain(person.account(accounts, id));
            say(redirect, Notice.told("The server files by your rules again."));
        } catch (MailException e) {
            say(redirect, Notice.problem(e.getMessage()));
        }
        return "redirect:/accounts/" + id;
    }

    @PostMapping("/off")
    String turnOff(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        try {
            keeper.turnOff(person.account(accounts, id));
            say(redirect, Notice.told("The rules are no longer on the server; they run here."));
        } catch (MailException e) {
            say(redirect, Notice.problem("%s The script is still there.".formatted(e.getMessage())));
        }
        return "redirect:/accounts/" + id;
    }

    private static void say(RedirectAttributes redirect, Notice notice) {
        redirect.addFlashAttribute("notice", notice);
    }
}
