package app.schublade.web.accounts;

import app.schublade.core.problem.InputProblem;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailException;
import app.schublade.mail.discovery.AuthorisationServer;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.sync.AccountAdder;
import app.schublade.sync.Grant;
import app.schublade.sync.SignIn;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import jakarta.servlet.http.HttpSession;
import java.io.Serializable;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import org.springframework.web.servlet.support.ServletUriComponentsBuilder;

/** Accounts whose servers want a token: the user allows it at the authorisation server, and comes back with a code. */
@Controller
class SignInController {
    /** In the session: who was found to give out the tokens for the address that is being added. */
    static final String SERVER = "signInServer";

    private static final String PENDING = "signIn";

    private final Frame frame;
    private final AccountStore accounts;
    private final AccountAdder adder;
    private final SignIn signIn;

    SignInController(Frame frame, AccountStore accounts, AccountAdder adder, SignIn signIn) {
        this.frame = frame;
        this.accounts = accounts;
        this.adder = adder;
        this.signIn = signIn;
    }

    /**
     * A sign-in that the user has gone away for.
     *
     * @param account the account that signs in again; 0 for a new one
     */
    record PendingSignIn(
            AuthorisationServer server,
            String state,
            String verifier,
            String back,
            long account,
            NewAccountForm form,
            ServersForm servers)
            implements Serializable {
        private static final long serialVersionUID = 1L;
    }

    @PostMapping("/accounts/sign-in")
    String begin(
            @AuthenticationPrincipal CurrentUser person,
            NewAccountForm form,
            ServersForm servers,
            HttpSession session,
            Model model) {
        if (!(session.getAttribute(SERVER) instanceof AuthorisationServer server)) {
            throw new InputProblem("Look up the servers of the address first.");
        }
        String address = FormFields.address(form.address());
        form.draft(servers.hosts(address, Credentials.CredentialKind.TOKEN), ""); // Everything typed must do.
        return leave(person, server, 0, form, servers, address, session, model);
    }

    @PostMapping("/accounts/{id}/sign-in")
    String again(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, HttpSession session, Model model) {
        Account account = accounts.byId(person.id(), id)
                .filter(one -> one.hosts().proof() == Credentials.CredentialKind.TOKEN)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such account."));
        Grant grant = Grant.parse(accounts.secret(id));
        ServersForm servers = ServersForm.of(account.hosts());
        return leave(person, grant.server(), id, NewAccountForm.EMPTY, servers, account.address(), session, model);
    }

    private String leave(
            CurrentUser person,
            AuthorisationServer server,
            long account,
            NewAccountForm form,
            ServersForm servers,
            String login,
            HttpSession session,
            Model model) {
        String back = ServletUriComponentsBuilder.fromCurrentContextPath()
                .path("/accounts/signed-in")
                .toUriString();
        PendingSignIn pending =
                new PendingSignIn(server, signIn.secret(), signIn.secret(), back, account, form, servers);
        session.setAttribute(PENDING, pending);
        model.addAttribute("view", frame.view(person, "/accounts", null));
        model.addAttribute("host", server.host());
        model.addAttribute("login", login);
        model.addAttribute("askAt", signIn.address(server, login, back, pending.state(), pending.verifier()));
        return "accounts/sign-in";
    }

    @GetMapping("/accounts/signed-in")
    String comeBack(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(required = false) @Nullable String code,
            @RequestParam(defaultValue = "") String state,
            HttpSession session,
            RedirectAttributes redirect) {
        if (!(session.getAttribute(PENDING) instanceof PendingSignIn pending)
                || !pending.state().equals(state)) {
            throw new InputProblem("This sign-in was not begun here. Please begin it again.");
        }
        session.removeAttribute(PENDING);
        Notice notice;
        try {
            notice = Notice.told(
                    code == null ? "Nothing was allowed, so nothing was added." : finish(person, pending, code));
        } catch (MailException e) {
            notice = Notice.problem(e.getMessage());
        } catch (DuplicateKeyException e) {
            notice = Notice.problem("There is an account with this address or this code already.");
        }
        redirect.addFlashAttribute("notice", notice);
        return "redirect:/accounts";
    }

    private String finish(CurrentUser person, PendingSignIn pending, String code) throws MailException {
        SignIn.Tokens tokens = signIn.exchange(pending.server(), code, pending.back(), pending.verifier());
        if (tokens.refresh() == null) {
            throw MailException.signInAgain(
                    pending.server().host() + " allows access for a moment only, which is of no use for mail.");
        }
        String secret = new Grant(pending.server(), tokens.refresh()).text();
        Account known = pending.account() == 0
                ? null
                : accounts.byId(person.id(), pending.account()).orElse(null);
        String address = known == null ? FormFields.address(pending.form().address()) : known.address();
        Account.Hosts hosts = pending.servers().hosts(address, Credentials.CredentialKind.TOKEN);
        AccountAdder.ConnectionTrial trial = adder.tryOut(hosts, Credentials.token(tokens.access()));
        if (trial.receiving() != null) {
            throw trial.receiving();
        }
        if (known != null) {
            adder.keepServers(known, hosts, secret);
            return "%s is connected again.".formatted(known.name());
        }
        Account added = adder.keep(person.id(), pending.form().draft(hosts, secret));
        return "Added %s. Its mail is coming in.".formatted(added.name());
    }
}
