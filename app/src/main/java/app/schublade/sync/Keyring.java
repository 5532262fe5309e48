package app.schublade.sync;

import app.schublade.mail.Credentials;
import app.schublade.store.Account;
import app.schublade.store.AccountStore;
import org.springframework.stereotype.Component;

/** What lets Schublade into the servers of an account. */
@Component
class Keyring {
    private final AccountStore accounts;

    Keyring(AccountStore accounts) {
        this.accounts = accounts;
    }

    Credentials of(Account account) {
        return Credentials.password(accounts.secret(account.id()));
    }
}
