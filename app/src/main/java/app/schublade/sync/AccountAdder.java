package app.schublade.sync;

import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.store.Account;
import app.schublade.store.AccountStore;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Adds accounts, and gives them new passwords, once their server has let Schublade in. */
@Component
public class AccountAdder {
    private static final Duration PATIENCE = Duration.ofSeconds(15);

    private final AccountStore accounts;
    private final Synchroniser synchroniser;

    public AccountAdder(AccountStore accounts, Synchroniser synchroniser) {
        this.accounts = accounts;
        this.synchroniser = synchroniser;
    }

    /**
     * Adds an account and begins to serve it.
     *
     * @throws MailException if the server does not let Schublade in; nothing is kept then
     */
    public Account add(long userId, Account.Draft draft) throws MailException {
        check(draft.hosts(), draft.secret());
        Account account = accounts.add(userId, draft);
        synchroniser.serve(account);
        return account;
    }

    /** Gives an account other servers or another password, once they have let Schublade in, and connects with them. */
    public void connect(long userId, Account account, Account.Hosts hosts, String secret) throws MailException {
        check(hosts, secret);
        accounts.connect(userId, account.id(), hosts, secret);
        accounts.byId(account.id()).ifPresent(synchroniser::serve);
    }

    private static void check(Account.Hosts hosts, String secret) throws MailException {
        ImapConnection.open(hosts.receiving(), secret, PATIENCE).close();
    }
}
