package app.schublade.web.accounts;

import app.schublade.core.place.SpecialUse;
import app.schublade.core.place.Tone;
import app.schublade.mail.MailHost;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountEventStore;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.rule.ScriptStore;
import app.schublade.sync.ScriptMaker;
import app.schublade.web.frame.AccountWords;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The page of one account, for all that can be asked there. */
@Component
class AccountPage {
    /** What a folder of the server can be for, besides the Inbox. */
    static final List<SpecialUse> USES =
            List.of(SpecialUse.SENT, SpecialUse.DRAFTS, SpecialUse.ARCHIVE, SpecialUse.JUNK, SpecialUse.TRASH);

    private final Frame frame;
    private final AccountWords words;
    private final MailboxStore mailboxes;
    private final Troubles troubles;
    private final AccountEventStore events;
    private final ScriptStore scripts;
    private final ScriptMaker maker;

    AccountPage(
            Frame frame,
            AccountWords words,
            MailboxStore mailboxes,
            Troubles troubles,
            AccountEventStore events,
            ScriptStore scripts,
            ScriptMaker maker) {
        this.frame = frame;
        this.words = words;
        this.mailboxes = mailboxes;
        this.troubles = troubles;
        this.events = events;
        this.scripts = scripts;
        this.maker = maker;
    }

    /** Which of the account's folders on its server is for what; 0 where it has none yet. */
    record Use(SpecialUse use, long mailbox) {}

    String show(CurrentUser person, Account account, ServersForm servers, @Nullable String problem, Model model) {
        model.addAttribute("view", frame.view(person, "/accounts", null));
        model.addAttribute("account", account);
        model.addAttribute("state", words.state(account));
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
                    maker.write(account, Set.copyOf(script.extensions())).remarks());
        }
        return "accounts/one";
    }

    private List<Use> uses(Account account) {
        return USES.stream()
                .map(use -> new Use(
                        use,
                        mailboxes
                                .ofUse(account, use)
                                .map(mailbox -> mailbox.id())
                                .orElse(0L)))
                .toList();
    }

    static String said(long id, RedirectAttributes redirect, String what) {
        redirect.addFlashAttribute("notice", Notice.told(what));
        return "redirect:/accounts/" + id;
    }
}
