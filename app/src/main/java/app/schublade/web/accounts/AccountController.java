package app.schublade.web.accounts;

import app.schublade.core.place.SpecialUse;
import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountEventStore;
import app.schublade.store.account.AccountStore;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.ScriptStore;
import app.schublade.sync.AccountAdder;
import app.schublade.sync.RefusedOrders;
import app.schublade.sync.ScriptKeeper;
import app.schublade.sync.Synchroniser;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
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

/** One account: how it is doing, how it is called, its folders, its servers, its log, and the way out. */
@Controller
@RequestMapping("/accounts/{id}")
class AccountController {
    private static final List<SpecialUse> CHOSEN =
            List.of(SpecialUse.SENT, SpecialUse.DRAFTS, SpecialUse.ARCHIVE, SpecialUse.JUNK, SpecialUse.TRASH);

    private final Frame frame;
    private final AccountStore accounts;
    private final MailboxStore mailboxes;
    private final PlaceStore places;
    private final Troubles troubles;
    private final AccountEventStore events;
    private final AccountAdder adder;
    private final RefusedOrders refused;
    private final Synchroniser synchroniser;
    private final ScriptStore scripts;
    private final ScriptKeeper keeper;

    AccountController(
            Frame frame,
            AccountStore accounts,
            MailboxStore mailboxes,
            PlaceStore places,
            Troubles troubles,
            AccountEventStore events,
            AccountAdder adder,
            RefusedOrders refused,
            Synchroniser synchroniser,
            ScriptStore scripts,
            ScriptKeeper keeper) {
        this.scripts = scripts;
        this.keeper = keeper;
        this.frame = frame;
        this.accounts = accounts;
        this.mailboxes = mailboxes;
        this.places = places;
        this.troubles = troubles;
        this.events = events;
        this.adder = adder;
        this.refused = refused;
        this.synchroniser = synchroniser;
    }

    /** Which of the account's folders on its server is for what; 0 where it has none yet. */
    record Use(SpecialUse use, long mailbox) {}

    @GetMapping
    String page(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        Account account = person.account(accounts, id);
        return show(person, account, ServersForm.of(account.hosts()), null, model);
    }

    private String show(
            CurrentUser person, Account account, ServersForm servers, @Nullable String problem, Model model) {
        model.addAttribute("view", frame.view(person, "/accounts", null));
        model.addAttribute("account", account);
        model.addAttribute("state", frame.state(account));
        model.addAttribute("troubles", troubles.of(account));
        model.addAttribute("mailboxes", mailboxes.of(account.id()));
        model.addAttribute("uses", uses(account));
        model.addAttribute("servers", servers);
        model.addAttribute("problem", problem);
        model.addAttribute("encryptions", MailHost.Encryption.values());
        model.addAttribute("tones", Tone.values());
        model.addAttribute("events", events.of(person.id(), account.id()));
        ScriptStore.ServerScript script = scripts.of(account.id()).orElse(null);
        model.addAttribute("script", script);
        if (script != null) {
            model.addAttribute(
                    "remarks",
                    keeper.write(account, Set.copyOf(script.extensions())).remarks());
        }
        return "accounts/one";
    }

    private List<Use> uses(Account account) {
        return CHOSEN.stream()
                .map(use -> new Use(
                        use,
                        mailboxes
                                .mailboxOf(account.id(), places.special(account.userId(), use))
                                .map(mailbox -> mailbox.id())
                                .orElse(0L)))
                .toList();
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
            return show(person, account, ServersForm.of(account.hosts()), e.getMessage(), model);
        } catch (DuplicateKeyException e) {
            String problem = "Another account has the code %s already.".formatted(code);
            return show(person, account, ServersForm.of(account.hosts()), problem, model);
        }
        return said(id, redirect, "Saved.");
    }

    private static String said(long id, RedirectAttributes redirect, String what) {
        redirect.addFlashAttribute("notice", Notice.told(what));
        return "redirect:/accounts/" + id;
    }

    @PostMapping("/folders")
    String folders(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam Map<String, String> fields,
            RedirectAttributes redirect) {
        Account account = person.account(accounts, id);
        Map<SpecialUse, Long> chosen = new LinkedHashMap<>();
        for (SpecialUse use : CHOSEN) {
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
        return said(id, redirect, "Saved.");
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
                throw new InputProblem("Please type the password: the one that is kept was typed for %s,"
                                .formatted(String.join(" and ", TypedPasswords.hosts(account.hosts())))
                        + " and goes to no other server by itself.");
            }
            String secret = password.isEmpty() ? accounts.secret(id) : password;
            AccountAdder.ConnectionTrial trial = adder.tryOut(account, hosts, password);
            if (trial.works()) {
                adder.keepServers(account, hosts, secret);
                return said(id, redirect, "%s is connected.".formatted(account.name()));
            }
            model.addAttribute("receivingProblem", trial.receiving());
            model.addAttribute("sendingProblem", trial.sending());
            return show(person, account, servers, null, model);
        } catch (InputProblem e) {
            return show(person, account, servers, e.getMessage(), model);
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
            return said(id, redirect, "%s is connected again.".formatted(account.name()));
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
        return said(id, redirect, "Its server is tried now.");
    }

    @PostMapping("/retry")
    String askAgain(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        refused.askAgain(person.account(accounts, id));
        return said(id, redirect, "The server is asked again.");
    }

    @PostMapping("/put-back")
    String putBack(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        int given = refused.putBack(person.account(accounts, id));
        return said(id, redirect, "Put back, as the server has it: %,d.".formatted(given));
    }

    @GetMapping("/remove")
    String askToRemove(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        model.addAttribute("view", frame.view(person, "/accounts", null));
        model.addAttribute("account", person.account(accounts, id));
        model.addAttribute("farewell", accounts.farewell(person.id(), id));
        model.addAttribute("scripted", scripts.of(id).isPresent());
        return "accounts/remove";
    }

    @PostMapping("/remove")
    String remove(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        Account account = person.account(accounts, id);
        String script = "";
        try {
            keeper.turnOff(account);
        } catch (MailException e) {
            script = " It still files by the script “%s”, because it could not be told.".formatted(ScriptKeeper.NAME);
        }
        adder.remove(account);
        redirect.addFlashAttribute(
                "notice",
                Notice.told("%s is taken out. Its server keeps its mail.%s".formatted(account.name(), script)));
        return "redirect:/accounts";
    }
}
