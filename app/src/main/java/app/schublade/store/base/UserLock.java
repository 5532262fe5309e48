package app.schublade.store.base;

import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * The first lock of every transaction that changes mail. Locks are taken in one order, so that no two transactions wait for
 * each other: the user's places (here), messages by id, counts by folder or label and account, then everything else. Changes
 * of messages share the first one; whoever changes or removes places holds it alone. It is let go as the transaction ends.
 *
 * <p>Should two transactions stop each other all the same, {@link TryAgain} does the one that lost once more.
 */
@Component
public class UserLock {
    /** Apart from the locks of conversations, which have one number. */
    private static final int SPACE = 1;

    private final JdbcClient jdbc;

    UserLock(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** The user's places stay as they are meanwhile. */
    public void shared(long userId) {
        jdbc.sql("select pg_advisory_xact_lock_shared(?, ?)")
                .params(SPACE, (int) userId)
                .query()
                .singleRow();
    }

    /** Nobody changes the user's messages or places meanwhile. */
    public void alone(long userId) {
        jdbc.sql("select pg_advisory_xact_lock(?, ?)")
                .params(SPACE, (int) userId)
                .query()
                .singleRow();
    }
}
