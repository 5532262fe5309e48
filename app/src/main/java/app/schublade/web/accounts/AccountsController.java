package app.schublade.web.accounts;

import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import java.util.ArrayList;
import java.util.List;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** All accounts in their order, how they are doing, and the way to a new one. */
@Controller
class AccountsController {
    private final Frame frame;
    private final AccountStore accounts;

    AccountsController(Frame frame, AccountStore accounts) {
        this.frame = frame;
        this.accounts = accounts;
    }

    @GetMapping("/accounts")
    String page(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("view", frame.view(person, "/accounts", null));
        return "accounts/page";
    }

    /** Moves an account one place up or down in the order of accounts. */
    @PostMapping("/accounts/{id}/order")
    String order(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, @RequestParam boolean up) {
        List<Long> ids = new ArrayList<>(
                accounts.of(person.id()).stream().map(Account::id).toList());
        int from = ids.indexOf(id);
        int to = from + (up ? -1 : 1);
        if (from >= 0 && to >= 0 && to < ids.size()) {
            ids.add(to, ids.remove(from));
            accounts.reorder(person.id(), ids);
        }
        return "redirect:/accounts";
    }
}
