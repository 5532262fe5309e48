package app.schublade.sync;

import app.schublade.mail.Credentials;
import app.schublade.mail.MailException;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** What lets Schublade into the servers of an account: its password, or a token that is renewed in time. */
@Component
class Keyring {
    private static final Duration EARLY = Duration.ofSeconds(60);

    private final AccountStore accounts;
    private final SignIn signIn;
    private final Map<Long, SignIn.Tokens> tokens = new ConcurrentHashMap<>();
    private final Set<Long> untried = ConcurrentHashMap.newKeySet();

    Keyring(AccountStore accounts, SignIn signIn) {
        this.accounts = accounts;
        this.signIn = signIn;
    }

    /** @throws MailException if no token is given any more, or nobody can be asked for one */
    Credentials of(Account account) throws MailException {
        String secret = accounts.secret(account.id());
        return account.hosts().proof() == Credentials.CredentialKind.PASSWORD
                ? Credentials.password(secret)
                : Credentials.token(token(account.id(), secret));
    }

    private String token(long account, String secret) throws MailException {
        SignIn.Tokens known = tokens.get(account);
        if (known != null && known.until().isAfter(Instant.now().plus(EARLY))) {
            untried.remove(account);
            return known.access();
        }
        Grant grant = Grant.parse(secret);
        SignIn.Tokens fresh = signIn.refresh(grant);
        if (fresh.refresh() != null) {
            // Before anything else: the old one is void from now on.
            accounts.renewSecret(account, new Grant(grant.server(), fresh.refresh()).text());
        }
        tokens.put(account, fresh);
        untried.add(account);
        return fresh.access();
    }

    /** What was given for an account was refused. Returns whether something else may do: not for passwords. */
    boolean anotherMayDo(long account) {
        return tokens.remove(account) != null && !untried.contains(account);
    }
}
