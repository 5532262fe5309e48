package app.schublade.sync;

import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.filing.MessageRemoval;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.outgoing.OutgoingStore;
import org.springframework.stereotype.Component;

/** Takes accounts out. */
@Component
public class AccountRemover {
    private final AccountStore accounts;
    private final Synchroniser synchroniser;
    private final MessageRemoval removal;
    private final OrderStore orders;
    private final OutgoingStore outgoing;

    AccountRemover(
            AccountStore accounts,
            Synchroniser synchroniser,
            MessageRemoval removal,
            OrderStore orders,
            OutgoingStore outgoing) {
        this.accounts = accounts;
        this.synchroniser = synchroniser;
        this.removal = removal;
        this.orders = orders;
        this.outgoing = outgoing;
    }

    /**
     * Takes an account out with all that is kept of it here; its server keeps its mail. What was being written for it goes to
     * another account, if there is one that can send it.
     */
    public void remove(Account account) {
        synchroniser.forget(account.id());
        accounts.heir(account.userId(), account.id())
                .ifPresent(heir -> outgoing.handOver(account.userId(), account.id(), heir));
        removal.remove(account.userId(), orders.toFetch(account.id()));
        accounts.remove(account.userId(), account.id());
    }
}
