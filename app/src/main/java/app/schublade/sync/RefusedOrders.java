package app.schublade.sync;

import app.schublade.core.filing.State;
import app.schublade.store.Account;
import app.schublade.store.FilingStore;
import app.schublade.store.IntakeStore;
import app.schublade.store.OrderStore;
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
    private final IntakeStore intake;
    private final Synchroniser synchroniser;

    public RefusedOrders(OrderStore orders, FilingStore filing, IntakeStore intake, Synchroniser synchroniser) {
        this.orders = orders;
        this.intake = intake;
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
        intake.remove(account.userId(), copies);
        filing.accept(account.userId(), changes);
        return given;
    }
}
