package app.schublade.sync;

import app.schublade.core.sieve.FilingScript;
import app.schublade.core.sieve.SieveWriter;
import app.schublade.store.account.Account;
import app.schublade.store.base.Zones;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.RuleStore;
import java.time.Clock;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Writes the user's rules as a script for one account's server. */
@Component
public class ScriptMaker {
    private final PlaceStore places;
    private final MailboxStore mailboxes;
    private final RuleStore rules;
    private final Zones zones;
    private final Clock clock;

    ScriptMaker(PlaceStore places, MailboxStore mailboxes, RuleStore rules, Zones zones, Clock clock) {
        this.zones = zones;
        this.clock = clock;
        this.places = places;
        this.mailboxes = mailboxes;
        this.rules = rules;
    }

    /** The script for an account's server, and what has no place in it. */
    public SieveWriter.Written write(Account account, Set<String> extensions) {
        ServerNames names = new ServerNames(account, places.of(account.userId(), null), mailboxes.of(account.id()));
        return new FilingScript(names, extensions, ScriptKeeper.MARK, zones.of(account.userId()), clock.instant())
                .write(rules.all(account.userId()));
    }
}
