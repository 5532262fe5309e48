package app.schublade.sync;

import app.schublade.core.filing.State;
import app.schublade.store.account.Account;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.filing.MessageRemoval;
import app.schublade.store.filing.OrderStore;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What becomes of orders that a server has refused: asked again, or given up. */
@Component
public class RefusedOrders {
    private final OrderStore orders;
    private final FilingStore filing;
    private final MessageRemoval removal;
    private final Synchroniser synchroniser;

    public RefusedOrders(OrderStore orders, FilingStore filing, MessageRemoval removal, Synchroniser synchroniser) {
        this.orders = orders;
        this.removal = removal;
        this.filing = filing;
        this.synchroniser = synchroniser;
    }

    public void askAgain(Account account) {
        orders.retry(account.userId(), account.id());
        synchroniser.wake(account.id());
    }

    /** The messages are shown where the server has them, and marked as there; copies that it did not make are gone. */
    @Transactional
    public int putBack(Account account) {
        Map<Long, UnaryOperator<State>> changes = new HashMap<>();
        orders.refusedMoves(account.userId(), account.id())
                .forEach((message, folder) -> changes.put(message, state -> state.in(folder)));
        Set<Long> copies = orders.refusedCopies(account.userId(), account.id());
        int given = orders.giveUp(account.userId(), account.id());
        removal.remove(account.userId(), copies);
        filing.accept(account.userId(), changes);
        return given;
    }
}
