package app.schublade.store.base;

import java.util.Set;

/**
 * Told to the rest of the application when a transaction that changed a user's mail or places is complete.
 *
 * @param accounts whose mail servers may have orders waiting
 * @param elsewhere whether another process changed it
 */
public record MailChanged(long userId, Set<Long> accounts, boolean elsewhere) {
    public MailChanged {
        accounts = Set.copyOf(accounts);
    }

    /** This process changed something. */
    public MailChanged(long userId, Set<Long> accounts) {
        this(userId, accounts, false);
    }

    /** Told when changes of other processes may have been missed: anything may be different. */
    public record Missed() {}
}
