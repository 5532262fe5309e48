package app.schublade.store.base;

import java.util.function.Supplier;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Does pieces of something as a transaction each: what is too large for one. */
@Component
public class Transactions {
    /** Messages that one transaction should not have more of. */
    public static final int MOST = 5_000;

    /** Within the transaction that is going on, or in one of its own. */
    @Transactional
    public <T> T in(Supplier<T> work) {
        return work.get();
    }
}
