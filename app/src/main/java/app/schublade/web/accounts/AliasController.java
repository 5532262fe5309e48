package app.schublade.web.accounts;

import app.schublade.core.place.FolderPath;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.account.AliasStore;
import app.schublade.store.act.Acts;
import app.schublade.store.place.PlaceStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import org.springframework.web.util.UriComponentsBuilder;

/** The aliases of an account: what each was given out for, who uses it, which may be more, which are retired. */
@Controller
@RequestMapping("/accounts/{id}/aliases")
class AliasController {
    private static final int MAX_NOTE = 200;
    private static final int MAX_SIGNATURE = 5_000;

    private final Acts acts;
    private final Frame frame;
    private final AccountStore accounts;
    private final AliasStore aliases;
    private final PlaceStore places;

    AliasController(Acts acts, Frame frame, AccountStore accounts, AliasStore aliases, PlaceStore places) {
        this.acts = acts;
        this.frame = frame;
        this.accounts = accounts;
        this.aliases = aliases;
        this.places = places;
    }

    /** @param of the alias whose writers are shown, or null */
    @GetMapping
    String page(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam(required = false) @Nullable String of,
            Model model) {
        Account account = person.account(accounts, id);
        model.addAttribute("view", frame.view(person, "/accounts", null));
        model.addAttribute("account", account);
        model.addAttribute("aliases", aliases.of(account));
        model.addAttribute("proposals", aliases.proposals(account));
        AliasStore.Alias chosen = of == null ? null : aliases.of(account, of).orElse(null);
        model.addAttribute("chosen", chosen);
        if (chosen != null) {
            model.addAttribute("writers", aliases.writers(account, chosen.address()));
        }
        return "accounts/aliases";
    }

    @PostMapping
    String add(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String address,
            @RequestParam(defaultValue = "") String note,
            @RequestParam(defaultValue = "") String signature,
            RedirectAttributes redirect) {
        Account account = person.account(accounts, id);
        String alias = clean(address);
        if (alias.equals(account.address())) {
            throw new InputProblem("%s is the account's own address already.".formatted(alias));
        }
        String kept = note.strip().substring(0, Math.min(note.strip().length(), MAX_NOTE));
        if (signature.length() > MAX_SIGNATURE) {
            throw new InputProblem("A signature has at most %,d characters.".formatted(MAX_SIGNATURE));
        }
        String told = "%s is an alias of %s".formatted(alias, account.name());
        acts.record(person.id(), told, () -> aliases.add(account, alias, kept, signature.strip()));
        return said(id, null, redirect, told);
    }

    /** An address, or a pattern whose domain is written out: {@code *@quay.example} would be too wide without it. */
    private static String clean(String typed) {
        String alias = typed.strip().toLowerCase(Locale.ROOT);
        if (!alias.matches("[^@\\s]+@[^@\\s*]+")) {
            throw new InputProblem(
                    "“%s” is not an address. An alias is an address, or a pattern such as shop-*@quay.example."
                            .formatted(typed));
        }
        return alias;
    }

    @PostMapping("/remove")
    String remove(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String address,
            RedirectAttributes redirect) {
        String told = "%s is no longer an alias".formatted(address);
        acts.record(person.id(), told, () -> aliases.remove(person.account(accounts, id), address));
        return said(id, null, redirect, told);
    }

    @PostMapping("/decline")
    String decline(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String address,
            RedirectAttributes redirect) {
        String told = "%s will not be suggested again".formatted(address);
        acts.record(person.id(), told, () -> aliases.decline(person.account(accounts, id), address));
        return said(id, null, redirect, told);
    }

    /** @param folder where mail to the alias goes from now on; blank to use the alias again */
    @PostMapping("/retire")
    String retire(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String address,
            @RequestParam(defaultValue = "") String folder,
            RedirectAttributes redirect) {
        Account account = person.account(accounts, id);
        if (folder.isBlank()) {
            String told = "%s is in use again".formatted(address);
            acts.record(person.id(), told, () -> aliases.retire(account, address, null));
            return said(id, address, redirect, told);
        }
        FolderPath into = FolderPath.parse(folder);
        String told = "%s is retired: new mail to it goes into %s".formatted(address, into.shown());
        acts.record(
                person.id(),
                told,
                () -> aliases.retire(
                        account, address, places.folder(person.id(), into).id()));
        return said(id, address, redirect, told);
    }

    private static String said(long id, @Nullable String of, RedirectAttributes redirect, String what) {
        redirect.addFlashAttribute("notice", Notice.done(what));
        UriComponentsBuilder page = UriComponentsBuilder.fromPath("/accounts/" + id + "/aliases");
        return "redirect:"
                + (of == null ? page : page.queryParam("of", "{of}")).encode().buildAndExpand(of == null ? "" : of);
    }
}
