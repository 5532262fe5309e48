package app.schublade.web.accounts;

import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.intake.MailboxStore;
import app.schublade.web.frame.CurrentUser;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** One account: how it is doing, how it is called, and its folders. */
@Controller
@RequestMapping("/accounts/{id}")
class AccountController {
    private final AccountStore accounts;
    private final MailboxStore mailboxes;
    private final AccountPage page;

    AccountController(AccountStore accounts, MailboxStore mailboxes, AccountPage page) {
        this.accounts = accounts;
        this.mailboxes = mailboxes;
        this.page = page;
    }

    @GetMapping
    String page(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        Account account = person.account(accounts, id);
        return page.show(person, account, ServersForm.of(account.hosts()), null, model);
    }

    @PostMapping
    String name(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam(required = false) @Nullable String name,
            @RequestParam(required = false) @Nullable String code,
            @RequestParam(required = false) @Nullable String tone,
            @RequestParam(defaultValue = "") String signature,
            @RequestParam(required = false) @Nullable String importSince,
            @RequestParam(defaultValue = "false") boolean keepOnServer,
            Model model,
            RedirectAttributes redirect) {
        Account account = person.account(accounts, id);
        try {
            Account.Settings settings = new Account.Settings(signature, FormFields.day(importSince), keepOnServer);
            accounts.name(
                    person.id(),
                    id,
                    FormFields.needed(name, "a name for the account"),
                    FormFields.code(code),
                    FormFields.tone(tone));
            if (!settings.equals(account.settings())) {
                accounts.set(person.id(), id, settings);
            }
        } catch (InputProblem e) {
            return page.show(person, account, ServersForm.of(account.hosts()), e.getMessage(), model);
        } catch (DuplicateKeyException e) {
            String problem = "Another account has the code %s already.".formatted(code);
            return page.show(person, account, ServersForm.of(account.hosts()), problem, model);
        }
        return AccountPage.said(id, redirect, "Saved.");
    }

    @PostMapping("/folders")
    String folders(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam Map<String, String> fields,
            RedirectAttributes redirect) {
        Account account = person.account(accounts, id);
        Map<SpecialUse, Long> chosen = new LinkedHashMap<>();
        for (SpecialUse use : AccountPage.USES) {
            String mailbox = fields.getOrDefault(use.name(), "");
            if (mailbox.matches("[1-9]\\d{0,17}")) {
                chosen.put(use, Long.valueOf(mailbox));
            }
        }
        if (chosen.values().stream().distinct().count() < chosen.size()) {
            throw new InputProblem("One folder cannot be for two things.");
        }
        chosen.forEach(
                (use, mailbox) -> mailboxes.byId(mailbox).ifPresent(found -> mailboxes.assign(account, use, found)));
        return AccountPage.said(id, redirect, "Saved.");
    }
}
