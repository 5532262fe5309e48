package app.schublade.store.account;

import app.schublade.core.filing.InAccount;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.place.Tone;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailHost;
import java.time.Instant;
import java.time.LocalDate;
import java.util.LinkedHashSet;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An account of a user.
 *
 * @param code two letters or digits, shown on a block
 * @param aliases other addresses that reach it, some of them patterns with {@code *}
 * @param version grows when something changed that its synchronisation must begin anew with
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
        Hosts hosts,
        Settings settings,
        Status status,
        int version) {
    /** As rules name it. */
    public InAccount.Ref ref() {
        return new InAccount.Ref(id, name);
    }

    /** How mail is received. */
    public enum Protocol {
        IMAP,
        /** RFC 1939: fetched from an Inbox, and filed only here. */
        POP3
    }

    /**
     * The servers of an account.
     *
     * @param sending null if no mail can be sent from it yet
     */
    public record Hosts(
            Protocol protocol, MailHost receiving, @Nullable MailHost sending, Credentials.CredentialKind proof) {
        /** An IMAP host with a password, and nowhere to send from. */
        public static Hosts imap(MailHost receiving) {
            return new Hosts(Protocol.IMAP, receiving, null, Credentials.CredentialKind.PASSWORD);
        }
    }

    /**
     * What the user may choose.
     *
     * @param importSince older mail stays on the server only; null for all of it
     * @param keepOnServer whether mail that was fetched by POP3 stays on the server too
     */
    public record Settings(String signature, @Nullable LocalDate importSince, boolean keepOnServer) {
        public static final Settings USUAL = new Settings("", null, true);
    }

    /** What is going on between Schublade and the account's server. */
    public enum AccountState {
        /** Added, never connected yet. */
        NEW,
        /** Mail that was there before is being fetched. */
        IMPORTING,
        CONNECTED,
        /** Cannot be reached; tried again by itself. */
        AWAY,
        /** Its mail cannot be stored or told of for a reason that lies here; tried again by itself. */
        STUCK,
        /** The password was refused; not tried again before the user gave another. */
        LOGIN_REFUSED,
        /** Something else that only the user can decide, such as a certificate that nobody vouches for. */
        NEEDS_USER;

        /** Whether it would be useless to try again without the user. */
        public boolean waitsForUser() {
            return this == LOGIN_REFUSED || this == NEEDS_USER;
        }

        public boolean isTrouble() {
            return this == AWAY || this == STUCK || waitsForUser();
        }
    }

    /**
     * How an account is doing.
     *
     * @param trouble a sentence for the user, or null if all is well
     * @param since when the state began
     * @param nextTry when a host that is away is tried again
     * @param served whether a process looks after it at present; its state is the last known one else
     */
    public record Status(
            AccountState state,
            @Nullable String trouble,
            Instant since,
            @Nullable Instant nextTry,
            int imported,
            int toImport,
            boolean served) {
        /** Whether no mail is fetched, for whatever reason. */
        public boolean isTrouble() {
            return state.isTrouble() || (state == AccountState.CONNECTED && !served);
        }
    }

    public Account {
        aliases = List.copyOf(aliases);
    }

    public OwnAddresses ownAddresses() {
        return new OwnAddresses(address, new LinkedHashSet<>(aliases));
    }

    /** The host that mail is received from. */
    public MailHost host() {
        return hosts.receiving();
    }

    public AccountState state() {
        return status.state();
    }

    /** What a new account is made of, without what only the store knows. */
    public record Draft(
            String code,
            String name,
            Tone tone,
            String address,
            List<String> aliases,
            Hosts hosts,
            Settings settings,
            String secret) {}
}
