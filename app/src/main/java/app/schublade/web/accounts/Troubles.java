package app.schublade.web.accounts;

import app.schublade.store.account.Account;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.find.IndexStore;
import app.schublade.store.intake.AsideStore;
import app.schublade.store.intake.KeptStore;
import java.util.List;
import org.springframework.stereotype.Component;

/** What of an account's mail its server refused to do, or does not give, or is not ready here. */
@Component
class Troubles {
    private static final int REFUSED_SHOWN = 20;

    private final OrderStore orders;
    private final AsideStore aside;
    private final KeptStore kept;
    private final IndexStore index;

    Troubles(OrderStore orders, AsideStore aside, KeptStore kept, IndexStore index) {
        this.index = index;
        this.kept = kept;
        this.orders = orders;
        this.aside = aside;
    }

    /**
     * What stands on an account's page.
     *
     * @param refused what its server refused to do
     * @param aside messages that its server lists and does not give
     * @param kept messages that were kept as they came, because they could not be read
     * @param toIndex how many messages cannot be found by their words yet
     */
    record ShownTrouble(
            List<OrderStore.Refused> refused, List<AsideStore.Aside> aside, List<KeptStore.Kept> kept, int toIndex) {}

    ShownTrouble of(Account account) {
        return new ShownTrouble(
                orders.refusedOf(account.userId(), account.id(), REFUSED_SHOWN),
                aside.of(account.userId(), account.id()),
                kept.of(account.userId(), account.id()),
                index.toIndex(account.id()));
    }

    /** What is put aside is asked for at the next look. */
    void askAgain(Account account) {
        aside.again(account.id());
    }
}
