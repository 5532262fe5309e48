package app.schublade.store;

import java.util.Set;

/**
 * Told to the rest of the application when a transaction that changed a user's mail or places is complete.
 *
 * @param accounts whose mail servers may have orders waiting
 */
public record MailChanged(long userId, Set<Long> accounts) {
    public MailChanged {
        accounts = Set.copyOf(accounts);
    }
}
