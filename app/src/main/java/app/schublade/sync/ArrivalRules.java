package app.schublade.sync;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.core.format.Reading;
import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import app.schublade.core.message.People;
import app.schublade.core.message.Trait;
import app.schublade.store.account.Account;
import app.schublade.store.account.AliasStore;
import app.schublade.store.base.Zones;
import app.schublade.store.rule.RuleStore;
import app.schublade.store.user.Acquaintance;
import app.schublade.store.user.AcquaintanceStore;
import app.schublade.store.user.PeopleStore;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/** The user's rules, and what is known of those who write, as they are when mail arrives. */
@Component
class ArrivalRules {
    private final RuleStore rules;
    private final AliasStore aliases;
    private final AcquaintanceStore acquaintances;
    private final PeopleStore people;
    private final Zones zones;

    ArrivalRules(
            RuleStore rules, AliasStore aliases, AcquaintanceStore acquaintances, PeopleStore people, Zones zones) {
        this.rules = rules;
        this.aliases = aliases;
        this.acquaintances = acquaintances;
        this.people = people;
        this.zones = zones;
    }

    /** Throws what is wrong with them. */
    void tryOut(Account account) {
        rules.book(account.userId());
        people.of(account.userId());
    }

    Arrivals arrivals(Account account, List<FetchedMessage> letters) {
        return new Arrivals(
                account,
                aliases.retired(account.id()),
                rules.book(account.userId()),
                acquaintances.of(
                        account, letters.stream().map(FetchedMessage::mail).toList()),
                people.of(account.userId()),
                zones.of(account.userId()));
    }

    /** What decides about new mail: retired aliases before all rules. */
    record Arrivals(
            Account account,
            List<AliasStore.Retired> retired,
            RuleBook book,
            Acquaintance acquaintance,
            People people,
            ZoneId zone) {
        Verdict file(FetchedMessage letter, Set<Trait> traits, State state) {
            Address sender = letter.mail().from();
            Message message = Reading.of(
                            account.id(),
                            account.ownAddresses(),
                            letter.mail(),
                            letter.fetched().size(),
                            acquaintance.with(people.with(traits, sender), letter.mail()))
                    .groups(people.groupsOf(sender))
                    .received(LocalDateTime.ofInstant(letter.fetched().received(), zone))
                    .build();
            for (String address : message.sentTo()) {
                for (AliasStore.Retired alias : retired) {
                    if (alias.takes(address)) {
                        return retired(address, alias);
                    }
                }
            }
            return book.file(message, state);
        }

        private static Verdict retired(String address, AliasStore.Retired alias) {
            Effect effect = new Effect.FileInto(alias.folder());
            Rule rule = new Rule(0, "Retired alias", true, List.of(), List.of(), List.of(effect), true);
            return new Verdict(List.of(new Verdict.Hit(
                    rule, 0, List.of("sent to " + address + ", which is retired"), List.of(effect), List.of())));
        }
    }
}
