package app.schublade.web.accounts;

import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.store.Account;
import app.schublade.store.AccountStore;
import app.schublade.store.OrderStore;
import app.schublade.sync.AccountAdder;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.Person;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
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

/** The accounts: how they are doing, what their servers refused, and a new one. */
@Controller
class AccountsController {
    private static final int REFUSED_SHOWN = 20;

    private final Frame frame;
    private final AccountStore accounts;
    private final AccountAdder adder;
    private final OrderStore orders;

    AccountsController(Frame frame, AccountStore accounts, AccountAdder adder, OrderStore orders) {
        this.frame = frame;
        this.accounts = accounts;
        this.adder = adder;
        this.orders = orders;
    }

    @GetMapping("/accounts")
    String page(@AuthenticationPrincipal Person person, Model model) {
        return show(person, AccountForm.EMPTY, null, model);
    }

    private String show(Person person, AccountForm form, @Nullable String problem, Model model) {
        Frame.View view = frame.view(person, "/accounts", null);
        Map<Long, List<OrderStore.Refused>> refused = view.chips().stream()
                .map(chip -> chip.account().id())
                .collect(Collectors.toMap(id -> id, id -> orders.refusedOf(person.id(), id, REFUSED_SHOWN)));
        model.addAttribute("view", view);
        model.addAttribute("refused", refused);
        model.addAttribute("form", form);
        model.addAttribute("encryptions", MailHost.Encryption.values());
        model.addAttribute("problem", problem);
        return "accounts/page";
    }

    @PostMapping("/accounts")
    String add(@AuthenticationPrincipal Person person, AccountForm form, Model model, RedirectAttributes redirect) {
        String problem;
        try {
            Account.Draft draft = form.draft(accounts.of(person.id()).size());
            Account added = adder.add(person.id(), draft);
            redirect.addFlashAttribute(
                    "notice", Notice.told("Added %s. Its mail is coming in.".formatted(added.name())));
            return "redirect:/mail/inbox";
        } catch (IllegalArgumentException | MailException e) {
            problem = e.getMessage();
        } catch (DuplicateKeyException e) {
            problem = "There is an account with this address or this code already.";
        }
        return show(person, form, problem, model);
    }

    @PostMapping("/accounts/{id}/password")
    String changePassword(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            @RequestParam String password,
            RedirectAttributes redirect) {
        Account account = accounts.of(person.id()).stream()
                .filter(one -> one.id() == id)
                .findFirst()
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such account."));
        try {
            adder.connect(person.id(), account, account.hosts(), password);
            redirect.addFlashAttribute("notice", Notice.told("%s is connected again.".formatted(account.name())));
        } catch (MailException e) {
            redirect.addFlashAttribute("notice", Notice.problem(e.getMessage()));
        }
        return "redirect:/accounts";
    }

    @PostMapping("/accounts/{id}/retry")
    String retry(@AuthenticationPrincipal Person person, @PathVariable long id, RedirectAttributes redirect) {
        orders.retry(person.id(), id);
        redirect.addFlashAttribute("notice", Notice.told("The server is asked again."));
        return "redirect:/accounts";
    }
}
