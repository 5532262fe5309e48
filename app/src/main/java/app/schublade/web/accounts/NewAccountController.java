package app.schublade.web.accounts;

import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.discovery.Probe;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.sync.AccountAdder;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import jakarta.servlet.http.HttpSession;
import java.io.Serializable;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Adding an account: an address and a password, what was found for it, and the user's word. */
@Controller
class NewAccountController {
    private static final String PENDING = "newAccount";

    private final Frame frame;
    private final AccountStore accounts;
    private final AccountAdder adder;
    private final TypedPasswords passwords;

    NewAccountController(Frame frame, AccountStore accounts, AccountAdder adder, TypedPasswords passwords) {
        this.frame = frame;
        this.accounts = accounts;
        this.adder = adder;
        this.passwords = passwords;
    }

    /** The password that was typed for an address until the account is added; it is in no session and on no page. */
    record PendingAccount(String address, String ticket) implements Serializable {
        private static final long serialVersionUID = 1L;
    }

    @GetMapping("/accounts/new")
    String typed(@AuthenticationPrincipal CurrentUser person, Model model) {
        return show(person, NewAccountForm.EMPTY, ServersForm.EMPTY, null, model);
    }

    @PostMapping("/accounts/find")
    String find(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String address,
            @RequestParam String password,
            HttpSession session,
            Model model) {
        NewAccountForm form = new NewAccountForm(address, null, null, null, null, null, "true");
        try {
            String clean = FormFields.address(address);
            Probe.ProbedHosts found = adder.find(clean, FormFields.needed(password, "the password"));
            Probe.ProbeOutcome receiving = found.receiving();
            if (receiving != null && receiving.authorisation() != null) {
                session.setAttribute(SignInController.SERVER, receiving.authorisation());
                model.addAttribute("signInAt", receiving.authorisation().host());
            }
            session.setAttribute(PENDING, new PendingAccount(clean, passwords.keep(password, hosts(found))));
            model.addAttribute("found", found);
            model.addAttribute(
                    "receivingProblem",
                    found.receiving() == null ? null : found.receiving().problem());
            model.addAttribute(
                    "sendingProblem",
                    found.sending() == null ? null : found.sending().problem());
            form = NewAccountForm.proposed(clean, accounts.of(person.id()));
            return show(person, form, ServersForm.of(found), null, model);
        } catch (InputProblem e) {
            return show(person, form, ServersForm.EMPTY, e.getMessage(), model);
        }
    }

    @PostMapping("/accounts")
    String add(
            @AuthenticationPrincipal CurrentUser person,
            NewAccountForm form,
            ServersForm servers,
            HttpSession session,
            Model model,
            RedirectAttributes redirect) {
        try {
            Account.Hosts hosts =
                    servers.hosts(FormFields.address(form.address()), Credentials.CredentialKind.PASSWORD);
            String secret = secret(form, hosts, session);
            Account.Draft draft = form.draft(hosts, secret);
            AccountAdder.ConnectionTrial trial = adder.tryOut(draft.hosts(), Credentials.password(secret));
            if (!trial.works()) {
                model.addAttribute("receivingProblem", trial.receiving());
                model.addAttribute("sendingProblem", trial.sending());
                return show(person, form, servers, null, model);
            }
            Account added = adder.keep(person.id(), draft);
            session.removeAttribute(PENDING);
            redirect.addFlashAttribute(
                    "notice", Notice.told("Added %s. Its mail is coming in.".formatted(added.name())));
            return "redirect:/mail/inbox";
        } catch (InputProblem e) {
            return show(person, form, servers, e.getMessage(), model);
        } catch (DuplicateKeyException e) {
            return show(person, form, servers, "There is an account with this address or this code already.", model);
        }
    }

    /** The password that is typed now, or the one that was entered before the servers were looked for. */
    private String secret(NewAccountForm form, Account.Hosts hosts, HttpSession session) {
        Object pending = session.getAttribute(PENDING);
        if (FormFields.filled(form.password()) == null
                && pending instanceof PendingAccount typed
                && typed.address().equals(FormFields.address(form.address()))) {
            return passwords
                    .of(typed.ticket(), TypedPasswords.hosts(hosts))
                    .orElseThrow(() -> new InputProblem(
                            "Enter the password again: it was entered for other servers, or too long ago."));
        }
        return FormFields.needed(form.password(), "the password");
    }

    private static Set<String> hosts(Probe.ProbedHosts found) {
        return Stream.of(found.receiving(), found.sending())
                .filter(Objects::nonNull)
                .map(one -> one.host().host())
                .collect(Collectors.toSet());
    }

    private String show(
            CurrentUser person, NewAccountForm form, ServersForm servers, @Nullable String problem, Model model) {
        model.addAttribute("view", frame.view(person, "/accounts", null));
        model.addAttribute("form", form);
        model.addAttribute("servers", servers);
        model.addAttribute("problem", problem);
        model.addAttribute("encryptions", MailHost.Encryption.values());
        model.addAttribute("tones", Tone.values());
        MailException receiving = (MailException) model.getAttribute("receivingProblem");
        model.addAttribute(
                "wrongPassword", receiving != null && receiving.kind() == MailException.FailureKind.LOGIN_REFUSED);
        return "accounts/new";
    }
}
