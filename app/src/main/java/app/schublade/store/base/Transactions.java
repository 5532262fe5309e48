package app.schublade.store.base;

import java.util.List;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Does pieces of something as a transaction each: what is too large for one. */
@Component
public class Transactions {
    /** Messages that one transaction should not have more of. */
    public static final int MOST = 5_000;

    /** What more than one transaction is needed for, in parts of {@link #MOST}. */
    public static <T> List<List<T>> parts(List<T> all) {
        return IntStream.iterate(0, from -> from < all.size(), from -> from + MOST)
                .mapToObj(from -> all.subList(from, Math.min(all.size(), from + MOST)))
                .toList();
    }

    /** Within the transaction that is going on, or in one of its own. */
    @Transactional
    public <T> T in(Supplier<T> work) {
        return work.get();
    }
}
