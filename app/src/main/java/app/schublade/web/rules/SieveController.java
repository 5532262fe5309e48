package app.schublade.web.rules;

import app.schublade.core.filing.Rule;
import app.schublade.core.message.Amount;
import app.schublade.core.problem.InputProblem;
import app.schublade.core.sieve.SieveException;
import app.schublade.core.sieve.SieveReader;
import app.schublade.core.sieve.SieveWriter;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.act.Acts;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.RuleStore;
import app.schublade.sync.ServerNames;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Rules as Sieve scripts: one account's are written, and others' are read, looked at first. */
@Controller
@RequestMapping("/rules/sieve")
class SieveController {
    /** RFC 5228, section 6.1. */
    private static final MediaType SIEVE = new MediaType("application", "sieve", StandardCharsets.UTF_8);

    private final Acts acts;
    private final Frame frame;
    private final AccountStore accounts;
    private final MailboxStore mailboxes;
    private final PlaceStore places;
    private final RuleStore rules;
    private final RuleMaker maker;

    SieveController(
            Acts acts,
            Frame frame,
            AccountStore accounts,
            MailboxStore mailboxes,
            PlaceStore places,
            RuleStore rules,
            RuleMaker maker) {
        this.acts = acts;
        this.frame = frame;
        this.accounts = accounts;
        this.mailboxes = mailboxes;
        this.places = places;
        this.rules = rules;
        this.maker = maker;
    }

    @GetMapping
    String page(
            @AuthenticationPrincipal CurrentUser person, @RequestParam(defaultValue = "0") long account, Model model) {
        return show(person, account, "", model);
    }

    private String show(CurrentUser person, long id, String script, Model model) {
        List<Account> all = accounts.of(person.id());
        Account chosen = id == 0 && !all.isEmpty() ? all.get(0) : id == 0 ? null : person.account(accounts, id);
        model.addAttribute("view", frame.view(person, "/rules", null));
        model.addAttribute("accounts", all);
        model.addAttribute("chosen", chosen);
        if (chosen != null) {
            SieveWriter.Written written = written(person, chosen);
            model.addAttribute("written", written);
            model.addAttribute("remarks", SharedRemark.of(written.remarks()));
        }
        model.addAttribute("script", script);
        return "rules/sieve";
    }

    private ServerNames names(CurrentUser person, Account account) {
        return new ServerNames(account, places.of(person.id(), null), mailboxes.of(account.id()));
    }

    private SieveWriter.Written written(CurrentUser person, Account account) {
        return new SieveWriter(names(person, account)).write(rules.all(person.id()));
    }

    @GetMapping("/script")
    ResponseEntity<String> script(@AuthenticationPrincipal CurrentUser person, @RequestParam long account) {
        Account owner = person.account(accounts, account);
        String name = owner.code() + " rules.sieve";
        return ResponseEntity.ok()
                .contentType(SIEVE)
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment().filename(name).build().toString())
                .body(written(person, owner).script());
    }

    /** Shows what would come of a script. Nothing is kept. */
    @PostMapping("/read")
    String look(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam long account,
            @RequestParam String script,
            Model model) {
        try {
            model.addAttribute("read", read(person, account, script));
        } catch (InputProblem e) {
            model.addAttribute("problem", e.getMessage());
        }
        return show(person, account, script, model);
    }

    private SieveReader.Read read(CurrentUser person, long account, String script) {
        try {
            return SieveReader.read(script, names(person, person.account(accounts, account)));
        } catch (SieveException e) {
            throw new InputProblem("This is not a Sieve script. " + e.getMessage(), e);
        }
    }

    /** Adds the rules of a script behind those that are there. */
    @PostMapping
    String add(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam long account,
            @RequestParam String script,
            RedirectAttributes redirect) {
        List<Rule> found = read(person, account, script).rules();
        acts.record(
                person.id(),
                "Added %s of a script".formatted(Amount.of(found.size(), "rule")),
                () -> maker.keepAll(person.id(), found));
        redirect.addFlashAttribute("notice", told(found.size()));
        return "redirect:/rules";
    }

    private static @Nullable Notice told(int count) {
        return Notice.done(
                count == 1
                        ? "Added a rule; it is off until you switch it on"
                        : "Added %,d rules; they are off until you switch them on".formatted(count));
    }
}
