package app.schublade.sync;

import app.schublade.core.filing.State;
import app.schublade.mail.Sighting;
import app.schublade.store.Account;
import app.schublade.store.CopyStore;
import app.schublade.store.FilingStore;
import app.schublade.store.Mailbox;
import app.schublade.store.OrderStore;
import app.schublade.store.PlaceStore;
import app.schublade.store.Places;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.springframework.stereotype.Component;

/** Takes over what another mail program marked or moved, unless the user has changed the same message since. */
@Component
class MarkSync {
    private final FilingStore filing;
    private final PlaceStore places;
    private final OrderStore orders;

    MarkSync(FilingStore filing, PlaceStore places, OrderStore orders) {
        this.filing = filing;
        this.places = places;
        this.orders = orders;
    }

    /**
     * Compares marks as seen on the server with those known here.
     *
     * @return false if some differ because the server has not been told yet what the user did
     */
    boolean compare(
            Account account, Mailbox mailbox, Collection<Sighting> sightings, Map<Long, CopyStore.Copy> copies) {
        if (copies.isEmpty()) {
            return true;
        }
        Places known = places.of(account.userId(), null);
        Map<Long, UnaryOperator<State>> changes = new HashMap<>();
        for (Sighting sighting : sightings) {
            CopyStore.Copy copy = copies.get(sighting.uid());
            if (copy != null
                    && !taken(mailbox.keywords(), copy.state(), sighting, known).equals(copy.state())) {
                changes.put(copy.messageId(), state -> taken(mailbox.keywords(), state, sighting, known));
            }
        }
        return accept(account, changes);
    }

    /** A message was found in another folder than it was known to be in, marked as seen there. */
    void found(Account account, long messageId, Mailbox mailbox, boolean keywords, Sighting sighting) {
        Places known = places.of(account.userId(), null);
        accept(account, Map.of(messageId, state -> taken(keywords, state.in(mailbox.folderId()), sighting, known)));
    }

    private boolean accept(Account account, Map<Long, UnaryOperator<State>> changes) {
        if (changes.isEmpty()) {
            return true;
        }
        Set<Long> waiting = orders.waiting(account.id());
        Map<Long, UnaryOperator<State>> certain = new HashMap<>(changes);
        certain.keySet().removeAll(waiting);
        if (!certain.isEmpty()) {
            filing.accept(account.userId(), certain);
        }
        return certain.size() == changes.size();
    }

    private static State taken(boolean keywords, State state, Sighting sighting, Places known) {
        State marked = LetterOpener.marked(state, sighting, known);
        return keywords ? marked : marked.labelled(state.labels()).categorised(state.category());
    }
}
