package app.schublade.sync;

import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Reading;
import app.schublade.core.message.Handled;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.message.Trait;
import app.schublade.core.place.TraySorter;
import app.schublade.mail.Fetched;
import app.schublade.mail.Sighting;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.cabinet.TrayStore;
import app.schublade.store.intake.Incoming;
import app.schublade.store.place.Keywords;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.ScriptStore;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Opens what was fetched: reads it, compares its recipients with the aliases, asks the rules about new mail. */
@Component
class MessageReader {
    private static final Verdict NOTHING = new Verdict(List.of());

    private final ArrivalRules arrivalRules;
    private final PlaceStore places;
    private final TrayStore trays;
    private final ScriptStore scripts;

    MessageReader(ArrivalRules arrivalRules, PlaceStore places, TrayStore trays, ScriptStore scripts) {
        this.arrivalRules = arrivalRules;
        this.places = places;
        this.trays = trays;
        this.scripts = scripts;
    }

    /**
     * Opens a batch of one folder of a server. Rules act on what came to the Inbox after the account was added, and on what
     * the server has filed by its script since.
     *
     * @param isCopy tells of a letter that looks new whether it is one that was there before, copied
     */
    List<Incoming> open(
            Account account, Mailbox mailbox, List<FetchedMessage> letters, Predicate<FetchedMessage> isCopy) {
        if (letters.isEmpty()) {
            return List.of();
        }
        Set<Long> served = letters.stream().anyMatch(MessageReader::isMarked) ? scripts.served(account.id()) : Set.of();
        Set<Long> news = letters.stream()
                .filter(one -> isNew(account, mailbox, one) && !isCopy.test(one))
                .map(one -> one.fetched().uid())
                .collect(Collectors.toSet());
        ArrivalRules.Arrivals arrivals = news.isEmpty() ? null : arrivalRules.arrivals(account, letters);
        Keywords known = places.keywords(account.userId());
        OwnAddresses own = account.ownAddresses();
        TraySorter sorter = trays.sorter(account.userId());
        return letters.stream()
                .map(one -> open(
                        own,
                        sorter,
                        mailbox,
                        one,
                        known,
                        news.contains(one.fetched().uid()) ? arrivals : null,
                        isMarked(one) ? served : Set.of()))
                .toList();
    }

    /** Reads the user's own that every letter is compared with: what is wrong there is thrown, and no letter is blamed for it. */
    void tryWithoutMessages(Account account) {
        arrivalRules.tryOut(account);
        places.keywords(account.userId());
        trays.sorter(account.userId());
    }

    /** A letter on which no rule acts. */
    Incoming withoutRules(Account account, Mailbox mailbox, FetchedMessage letter) {
        return open(
                account.ownAddresses(),
                trays.sorter(account.userId()),
                mailbox,
                letter,
                places.keywords(account.userId()),
                null,
                Set.of());
    }

    /** What is new has come to the Inbox, or has gone through the script that files mail on the server. */
    private static boolean isNew(Account account, Mailbox mailbox, FetchedMessage letter) {
        return mailbox.inbox()
                ? letter.fetched().uid() >= mailbox.newFromUid()
                : isMarked(letter)
                        && !letter.fetched()
                                .received()
                                .isBefore(account.addedAt().truncatedTo(ChronoUnit.SECONDS));
    }

    private static boolean isMarked(FetchedMessage letter) {
        return letter.fetched().sighting().keywords().stream().anyMatch(ScriptKeeper.MARK::equalsIgnoreCase);
    }

    private static Incoming open(
            OwnAddresses own,
            TraySorter sorter,
            Mailbox mailbox,
            FetchedMessage letter,
            Keywords known,
            ArrivalRules.@Nullable Arrivals arrivals,
            Set<Long> served) {
        ParsedMail mail = letter.mail();
        Fetched fetched = letter.fetched();
        Sighting seen = fetched.sighting();
        List<String> sentTo = own.among(mail.recipients());
        Set<Trait> traits = Reading.traits(own, mail);
        TraySorter.Sorted tray = sorter.sort(
                mail.from(), mail.subject(), traits, !mail.references().isEmpty());
        State state = known.on(
                        new State(mailbox.folderId(), !seen.seen(), seen.flagged(), null, Set.of()), seen.keywords())
                .sorted(tray == null ? null : tray.tray());
        return new Incoming(
                fetched.uid(),
                letter.identity(),
                notInTheFuture(fetched.received()),
                fetched.size(),
                fetched.source(),
                mail,
                sentTo,
                own.aliasIn(sentTo),
                candidates(own, mail),
                traits,
                tray == null ? null : tray.reason(),
                Handled.elsewhere(seen.answered(), MarkSync.isForwarded(seen)),
                state,
                arrivals == null ? NOTHING : arrivals.file(letter, traits, state),
                served);
    }

    /** A server whose clock is wrong must not put a message above all that come for years. */
    private static Instant notInTheFuture(Instant received) {
        Instant now = Instant.now();
        return received.isAfter(now) ? now : received;
    }

    /** What I wrote myself went to others' addresses; what came by a list, to the list's. */
    private static List<String> candidates(OwnAddresses own, ParsedMail mail) {
        boolean mine = !own.among(List.of(mail.from())).isEmpty();
        return mine ? List.of() : own.candidates(mail.envelopeTo(), mail.listId() == null ? mail.to() : List.of());
    }
}
