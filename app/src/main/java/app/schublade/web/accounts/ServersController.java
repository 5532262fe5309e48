package app.schublade.web.accounts;

import app.schublade.core.problem.InputProblem;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailException;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.sync.AccountAdder;
import app.schublade.sync.RefusedOrders;
import app.schublade.sync.Synchroniser;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** An account's servers: changed only if they work, tried again, asked again for what they refused. */
@Controller
@RequestMapping("/accounts/{id}")
class ServersController {
    private final AccountStore accounts;
    private final AccountAdder adder;
    private final Synchroniser synchroniser;
    private final RefusedOrders refused;
    private final Troubles troubles;
    private final AccountPage page;

    ServersController(
            AccountStore accounts,
            AccountAdder adder,
            Synchroniser synchroniser,
            RefusedOrders refused,
            Troubles troubles,
            AccountPage page) {
        this.accounts = accounts;
        this.adder = adder;
        this.synchroniser = synchroniser;
        this.refused = refused;
        this.troubles = troubles;
        this.page = page;
    }

    @PostMapping("/servers")
    String servers(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            ServersForm servers,
            @RequestParam(defaultValue = "") String password,
            Model model,
            RedirectAttributes redirect) {
        Account account = person.account(accounts, id);
        try {
            Account.Hosts hosts =
                    servers.hosts(account.address(), account.hosts().proof());
            boolean known = TypedPasswords.hosts(account.hosts()).containsAll(TypedPasswords.hosts(hosts));
            if (password.isEmpty() && !known && hosts.proof() == Credentials.CredentialKind.PASSWORD) {
                throw new InputProblem("Enter the password: the stored one was entered for %s,"
                                .formatted(String.join(" and ", TypedPasswords.hosts(account.hosts())))
                        + " and goes to no other server by itself.");
            }
            String secret = password.isEmpty() ? accounts.secret(id) : password;
            AccountAdder.ConnectionTrial trial = adder.tryOut(account, hosts, password);
            if (trial.works()) {
                adder.keepServers(account, hosts, secret);
                return AccountPage.said(id, redirect, "%s is connected.".formatted(account.name()));
            }
            model.addAttribute("receivingProblem", trial.receiving());
            model.addAttribute("sendingProblem", trial.sending());
            return page.show(person, account, servers, null, model);
        } catch (InputProblem e) {
            return page.show(person, account, servers, e.getMessage(), model);
        }
    }

    @PostMapping("/password")
    String password(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String password,
            RedirectAttributes redirect) {
        Account account = person.account(accounts, id);
        try {
            adder.connect(account, account.hosts(), password);
            return AccountPage.said(id, redirect, "%s is connected again.".formatted(account.name()));
        } catch (MailException e) {
            redirect.addFlashAttribute("notice", Notice.problem(e.getMessage()));
            return "redirect:/accounts/" + id;
        }
    }

    /** Tries a host at once, whatever was the matter. */
    @PostMapping("/try")
    String tryNow(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        Account account = person.account(accounts, id);
        troubles.askAgain(account);
        synchroniser.serve(accounts.tryAgain(account));
        return AccountPage.said(id, redirect, "Trying its server now.");
    }

    @PostMapping("/retry")
    String askAgain(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        refused.askAgain(person.account(accounts, id));
        return AccountPage.said(id, redirect, "Asking the server again.");
    }

    @PostMapping("/put-back")
    String putBack(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        int given = refused.putBack(person.account(accounts, id));
        return AccountPage.said(id, redirect, "Put back, as the server has it: %,d.".formatted(given));
    }
}
