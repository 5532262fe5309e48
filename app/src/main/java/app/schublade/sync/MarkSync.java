package app.schublade.sync;

import app.schublade.core.filing.State;
import app.schublade.mail.Sighting;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.base.Zones;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.filing.HandledStore;
import app.schublade.store.filing.ServerLocationStore;
import app.schublade.store.place.Keywords;
import app.schublade.store.place.PlaceStore;
import java.time.LocalDate;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Takes over what another mail program marked or moved, unless the user has changed the same message since. */
@Component
class MarkSync {
    private static final String FORWARDED = HandledStore.FORWARDED.toLowerCase(Locale.ROOT);

    private final FilingStore filing;
    private final HandledStore handled;
    private final PlaceStore places;
    private final Zones zones;

    MarkSync(FilingStore filing, HandledStore handled, PlaceStore places, Zones zones) {
        this.zones = zones;
        this.handled = handled;
        this.filing = filing;
        this.places = places;
    }

    /**
     * Compares messages of a folder as seen on the server with what is known of them here.
     *
     * @return false if some differ because the server has not been told yet what the user did
     */
    boolean compare(
            Account account,
            Mailbox mailbox,
            Collection<Sighting> sightings,
            Map<Long, ServerLocationStore.Copy> copies) {
        if (copies.isEmpty()) {
            return true;
        }
        Seen seen = seen(account, mailbox);
        Map<Long, UnaryOperator<State>> changes = new HashMap<>();
        for (Sighting sighting : sightings) {
            ServerLocationStore.Copy copy = copies.get(sighting.uid());
            if (copy != null && !seen.marked(copy.state(), sighting).equals(copy.state())) {
                changes.put(copy.messageId(), state -> seen.marked(state, sighting));
            }
        }
        handled.elsewhere(
                known(sightings.stream().filter(Sighting::answered), copies),
                known(sightings.stream().filter(MarkSync::isForwarded), copies));
        return filing.follow(account.userId(), changes);
    }

    static boolean isForwarded(Sighting sighting) {
        return sighting.keywords().contains(FORWARDED);
    }

    private static List<Long> known(Stream<Sighting> sightings, Map<Long, ServerLocationStore.Copy> copies) {
        return sightings
                .map(sighting -> copies.get(sighting.uid()))
                .filter(Objects::nonNull)
                .map(ServerLocationStore.Copy::messageId)
                .toList();
    }

    /**
     * Messages, by id, were found in another folder than they were known to be in, marked as seen there.
     *
     * @return false if some stay where they are here because the server has not been told yet what the user did
     */
    boolean found(Account account, Mailbox mailbox, Map<Long, Sighting> found) {
        if (found.isEmpty()) {
            return true;
        }
        Seen seen = seen(account, mailbox);
        Map<Long, UnaryOperator<State>> changes = new HashMap<>();
        found.forEach((message, sighting) -> changes.put(message, state -> seen.marked(state, sighting)));
        return filing.follow(account.userId(), changes);
    }

    private Seen seen(Account account, Mailbox mailbox) {
        return new Seen(mailbox, places.keywords(account.userId()), zones.today(account.userId()));
    }

    /** A folder of the server, seen on a day. */
    private record Seen(Mailbox mailbox, Keywords known, LocalDate today) {
        /** A message's state as the marks on the server have it; a flag that is no longer there was ticked off elsewhere. */
        State marked(State state, Sighting sighting) {
            State moved = state.in(mailbox.folderId()).unread(!sighting.seen());
            State marked = sighting.flagged() ? moved.flagged(true) : moved.ticked(today);
            return mailbox.keywords() ? known.on(marked, sighting.keywords()) : marked;
        }
    }
}
