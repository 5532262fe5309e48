package app.schublade.sync;

import app.schublade.core.filing.BuiltIn;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.core.format.Reading;
import app.schublade.core.message.Address;
import app.schublade.core.message.BlockedSenders;
import app.schublade.core.message.Message;
import app.schublade.core.message.People;
import app.schublade.core.message.Trait;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.account.AliasStore;
import app.schublade.store.base.Zones;
import app.schublade.store.noise.BlockStore;
import app.schublade.store.place.PlaceStore;
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
    private final BlockStore blocks;
    private final PlaceStore places;
    private final Zones zones;

    ArrivalRules(
            RuleStore rules,
            AliasStore aliases,
            AcquaintanceStore acquaintances,
            PeopleStore people,
            BlockStore blocks,
            PlaceStore places,
            Zones zones) {
        this.blocks = blocks;
        this.places = places;
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
                blocks.of(account.userId()),
                places.shared(account.userId(), SpecialUse.TRASH),
                zones.of(account.userId()));
    }

    /** What decides about new mail: retired aliases and blocked senders before all rules. */
    record Arrivals(
            Account account,
            List<AliasStore.Retired> retired,
            RuleBook book,
            Acquaintance acquaintance,
            People people,
            BlockedSenders blocked,
            FolderRef trash,
            ZoneId zone) {
        Verdict file(FetchedMessage letter, Set<Trait> traits, State state) {
            Address sender = letter.mail().from();
            Message.Builder read = Reading.of(
                            account.id(),
                            account.ownAddresses(),
                            letter.mail(),
                            letter.fetched().size(),
                            acquaintance.with(people.with(traits, sender), letter.mail()))
                    .groups(people.groupsOf(sender))
                    .received(LocalDateTime.ofInstant(letter.fetched().received(), zone));
            Message message =
                    read.thread(acquaintance.thread(read.build().thread())).build();
            for (String address : message.sentTo()) {
                for (AliasStore.Retired alias : retired) {
                    if (alias.takes(address)) {
                        return retired(address, alias);
                    }
                }
            }
            String by = blocked.by(sender, message.traits().contains(Trait.KEY_PERSON));
            return by == null ? book.file(message, state) : blocked(by);
        }

        private static Verdict retired(String address, AliasStore.Retired alias) {
            return new Verdict(List.of(BuiltIn.RETIRED_ALIAS.hit(
                    "sent to " + address + ", which is retired", List.of(new Effect.FileInto(alias.folder())))));
        }

        private Verdict blocked(String by) {
            return new Verdict(List.of(BuiltIn.BLOCKED_SENDER.hit(
                    "from " + by + ", which you blocked",
                    List.of(new Effect.FileInto(trash), new Effect.MarkRead(true)))));
        }
    }
}
