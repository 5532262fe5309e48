package app.schublade.sync;

import app.schublade.core.filing.State;
import app.schublade.mail.Sighting;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.filing.ServerLocationStore;
import app.schublade.store.place.Keywords;
import app.schublade.store.place.PlaceStore;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.springframework.stereotype.Component;

/** Takes over what another mail program marked or moved, unless the user has changed the same message since. */
@Component
class MarkSync {
    private final FilingStore filing;
    private final PlaceStore places;

    MarkSync(FilingStore filing, PlaceStore places) {
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
        Keywords known = places.keywords(account.userId());
        Map<Long, UnaryOperator<State>> changes = new HashMap<>();
        for (Sighting sighting : sightings) {
            ServerLocationStore.Copy copy = copies.get(sighting.uid());
            if (copy != null && !taken(mailbox, copy.state(), sighting, known).equals(copy.state())) {
                changes.put(copy.messageId(), state -> taken(mailbox, state, sighting, known));
            }
        }
        return filing.follow(account.userId(), changes);
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
        Keywords known = places.keywords(account.userId());
        Map<Long, UnaryOperator<State>> changes = new HashMap<>();
        found.forEach((message, sighting) -> changes.put(message, state -> taken(mailbox, state, sighting, known)));
        return filing.follow(account.userId(), changes);
    }

    private static State taken(Mailbox mailbox, State state, Sighting sighting, Keywords known) {
        State marked = state.in(mailbox.folderId()).unread(!sighting.seen()).flagged(sighting.flagged());
        return mailbox.keywords() ? known.on(marked, sighting.keywords()) : marked;
    }
}
