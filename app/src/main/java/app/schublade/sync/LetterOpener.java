package app.schublade.sync;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.core.format.Identity;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.message.Message;
import app.schublade.core.message.OwnAddresses;
import app.schublade.mail.Fetched;
import app.schublade.mail.Sighting;
import app.schublade.store.Account;
import app.schublade.store.AliasStore;
import app.schublade.store.Incoming;
import app.schublade.store.Mailbox;
import app.schublade.store.PlaceStore;
import app.schublade.store.Places;
import app.schublade.store.RuleStore;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Opens what was fetched: reads it, compares its recipients with the aliases, asks the rules about new mail. */
@Component
class LetterOpener {
    private static final Verdict NOTHING = new Verdict(List.of());

    private final RuleStore rules;
    private final PlaceStore places;
    private final AliasStore aliases;

    LetterOpener(RuleStore rules, PlaceStore places, AliasStore aliases) {
        this.rules = rules;
        this.places = places;
        this.aliases = aliases;
    }

    /**
     * Opens a batch of one folder of a server. Rules act on what came to the Inbox after the account was added.
     *
     * @param isCopy tells of a message that looks new whether it is one that was there before, copied
     */
    List<Incoming> open(Account account, Mailbox mailbox, List<Fetched> fetched, Predicate<Fetched> isCopy) {
        if (fetched.isEmpty()) {
            return List.of();
        }
        Set<Fetched> news = fetched.stream()
                .filter(one -> mailbox.inbox() && one.uid() >= mailbox.newFromUid() && !isCopy.test(one))
                .collect(Collectors.toCollection(() -> Collections.newSetFromMap(new IdentityHashMap<>())));
        Arrivals arrivals =
                news.isEmpty() ? null : new Arrivals(aliases.retired(account.id()), rules.book(account.userId()));
        Places known = places.of(account.userId(), null);
        OwnAddresses own = account.ownAddresses();
        return fetched.stream()
                .map(one -> open(account, own, mailbox, one, known, news.contains(one) ? arrivals : null))
                .toList();
    }

    private static Incoming open(
            Account account,
            OwnAddresses own,
            Mailbox mailbox,
            Fetched fetched,
            Places known,
            @Nullable Arrivals arrivals) {
        ParsedMail mail = MimeReader.read(fetched.source());
        List<String> sentTo = own.among(mail.recipients());
        Message message = new Message(account.id(), mail.from(), mail.subject(), sentTo, mail.listId());
        return new Incoming(
                fetched.uid(),
                Identity.of(mail.messageId(), fetched.source()),
                fetched.received(),
                fetched.size(),
                fetched.source(),
                mail,
                sentTo,
                own.aliasIn(sentTo),
                candidates(own, mail),
                marked(new State(mailbox.folderId(), true, false, null, Set.of()), fetched.sighting(), known),
                arrivals == null ? NOTHING : arrivals.file(message));
    }

    /** What I wrote myself went to others' addresses; what came by a list, to the list's. */
    private static List<String> candidates(OwnAddresses own, ParsedMail mail) {
        boolean mine = !own.among(List.of(mail.from())).isEmpty();
        return mine ? List.of() : own.candidates(mail.envelopeTo(), mail.listId() == null ? mail.to() : List.of());
    }

    /** What decides about new mail: retired aliases before all rules. */
    private record Arrivals(List<AliasStore.Retired> retired, RuleBook book) {
        Verdict file(Message message) {
            for (String address : message.sentTo()) {
                for (AliasStore.Retired alias : retired) {
                    if (alias.takes(address)) {
                        return retired(address, alias);
                    }
                }
            }
            return book.file(message);
        }

        private static Verdict retired(String address, AliasStore.Retired alias) {
            Effect effect = new Effect.FileInto(alias.folder());
            Rule rule = new Rule(0, "Retired alias", true, List.of(), List.of(), List.of(effect), true);
            return new Verdict(List.of(new Verdict.Hit(
                    rule, 0, List.of("sent to " + address + ", which is retired"), List.of(effect), List.of())));
        }
    }

    /** The state with the marks that the server shows: flags, and the keywords of labels and categories. */
    static State marked(State state, Sighting sighting, Places known) {
        Set<Long> labels = new TreeSet<>();
        for (Places.Label label : known.labels()) {
            if (sighting.keywords().contains(label.keyword())) {
                labels.add(label.id());
            }
        }
        Long category = known.categories().stream()
                .filter(one -> sighting.keywords().contains(one.keyword()))
                .map(Places.Category::id)
                .findFirst()
                .orElse(null);
        return state.unread(!sighting.seen())
                .flagged(sighting.flagged())
                .labelled(labels)
                .categorised(category);
    }
}
