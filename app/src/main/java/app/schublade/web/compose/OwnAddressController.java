package app.schublade.web.compose;

import app.schublade.core.format.MailWriter;
import app.schublade.core.message.Address;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.AliasStore;
import app.schublade.store.act.Acts;
import app.schublade.web.frame.CurrentUser;
import java.security.SecureRandom;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/**
 * Makes an address that one correspondent alone is given: from a pattern of the account, so that its server takes mail to it
 * already. It stands among the aliases with whom it was given to, and is retired there when it is no longer wanted.
 */
@Controller
class OwnAddressController {
    private static final String SIGNS = "abcdefghjkmnpqrstuvwxyz23456789";
    /** So many that nobody guesses the next one. */
    private static final int GUESSLESS = 4;

    private static final int MAX_WORD = 20;

    private final ComposePage page;
    private final Writing writing;
    private final AliasStore aliases;
    private final Acts acts;
    private final SecureRandom random = new SecureRandom();

    OwnAddressController(ComposePage page, Writing writing, AliasStore aliases, Acts acts) {
        this.page = page;
        this.writing = writing;
        this.aliases = aliases;
        this.acts = acts;
    }

    /**
     * Answers where one chooses the sender, with the new address chosen.
     *
     * @param to whom it is for, as that was typed
     */
    @PostMapping("/write/{id}/address")
    String make(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String from,
            @RequestParam(defaultValue = "") String to,
            Model model) {
        page.one(person, id);
        Account account = writing.sender(person, from).account();
        String pattern = account.aliases().stream()
                .filter(OwnAddresses::makesAddresses)
                .findFirst()
                .orElseThrow(() -> new InputProblem(
                        "%s has no pattern such as *@%s among its aliases. Add one first, on its page; its server must take mail to all of these addresses."
                                .formatted(account.name(), new Address("", account.address()).domain())));
        Address first = MailWriter.likely(to).stream().findFirst().orElse(Address.UNKNOWN);
        String address = pattern.replace("*", word(first) + "-" + guessless());
        acts.record(
                person.id(), "Created the address " + address, () -> aliases.add(account, address, first.email(), ""));
        model.addAttribute("senders", writing.senders(person, address));
        model.addAttribute("account", account.id());
        model.addAttribute("sender", address);
        return "compose/page :: from";
    }

    /** What tells for whom it was made. */
    private static String word(Address whom) {
        String word = whom.domain().replaceFirst("\\..*", "").replaceAll("[^a-z0-9-]", "");
        return word.isEmpty() ? "letter" : word.substring(0, Math.min(word.length(), MAX_WORD));
    }

    private String guessless() {
        StringBuilder signs = new StringBuilder();
        for (int i = 0; i < GUESSLESS; i++) {
            signs.append(SIGNS.charAt(random.nextInt(SIGNS.length())));
        }
        return signs.toString();
    }
}
