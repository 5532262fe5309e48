package app.schublade.sync;

import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
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
        check(draft.host(), draft.password());
        Account account = accounts.add(userId, draft);
        synchroniser.serve(account);
        return account;
    }

    /** Replaces the password of an account and connects with it. */
    public void changePassword(long userId, Account account, String password) throws MailException {
        check(account.host(), password);
        accounts.changePassword(userId, account.id(), password);
        accounts.byId(account.id()).ifPresent(synchroniser::serve);
    }

    private static void check(MailHost host, String password) throws MailException {
        ImapConnection.open(host, password, PATIENCE).close();
    }
}
