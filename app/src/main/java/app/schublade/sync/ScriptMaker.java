package app.schublade.sync;

import app.schublade.core.sieve.SieveWriter;
import app.schublade.store.account.Account;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.RuleStore;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Writes the user's rules as a script for one account's server. */
@Component
public class ScriptMaker {
    private final PlaceStore places;
    private final MailboxStore mailboxes;
    private final RuleStore rules;

    ScriptMaker(PlaceStore places, MailboxStore mailboxes, RuleStore rules) {
        this.places = places;
        this.mailboxes = mailboxes;
        this.rules = rules;
    }

    /** The script for an account's server, and what has no place in it. */
    public SieveWriter.Written write(Account account, Set<String> extensions) {
        ServerNames names = new ServerNames(account, places.of(account.userId(), null), mailboxes.of(account.id()));
        return new SieveWriter(names, extensions, ScriptKeeper.MARK).write(rules.all(account.userId()));
    }
}
