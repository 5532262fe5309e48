package app.schublade.store;

import app.schublade.core.message.OwnAddresses;
import app.schublade.core.place.Tone;
import app.schublade.mail.MailHost;
import java.time.Instant;
import java.util.LinkedHashSet;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An account of a user.
 *
 * @param code two letters or digits, shown on a block
 * @param trouble a sentence for the user, or null if all is well
 */
public record Account(
        long id,
        long userId,
        String code,
        String name,
        Tone tone,
        String address,
        Instant addedAt,
        List<String> aliases,
        MailHost host,
        State state,
        @Nullable String trouble,
        int imported,
        int toImport) {
    /** What is going on between Schublade and the account's server. */
    public enum State {
        /** Added, never connected yet. */
        NEW,
        /** Mail that was there before is being fetched. */
        IMPORTING,
        CONNECTED,
        /** Cannot be reached; tried again by itself. */
        AWAY,
        /** The password was refused; not tried again before the user gave another. */
        LOGIN_REFUSED
    }

    public Account {
        aliases = List.copyOf(aliases);
    }

    public OwnAddresses ownAddresses() {
        return new OwnAddresses(address, new LinkedHashSet<>(aliases));
    }

    /** What a new account is made of, without what only the store knows. */
    public record Draft(
            String code,
            String name,
            Tone tone,
            String address,
            List<String> aliases,
            MailHost host,
            String password) {}
}
