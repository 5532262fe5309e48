package app.schublade.sync;

import app.schublade.store.account.Account;
import app.schublade.store.account.AccountEventStore;
import app.schublade.store.account.AccountStore;
import app.schublade.store.base.MailChanged;
import java.time.Instant;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/** Tells users how their accounts are doing, and writes down what happened. */
@Component
class AccountReports {
    private static final Logger LOG = LoggerFactory.getLogger(AccountReports.class);

    private final AccountStore accounts;
    private final AccountEventStore log;
    private final ApplicationEventPublisher events;

    AccountReports(AccountStore accounts, AccountEventStore log, ApplicationEventPublisher events) {
        this.accounts = accounts;
        this.log = log;
        this.events = events;
    }

    void connected(Account account) {
        report(account, Account.AccountState.CONNECTED, null, null);
    }

    /** The host cannot be reached, or lets nobody in, until a time, or until the user does something. */
    void trouble(Account account, Account.AccountState state, String trouble, @Nullable Instant nextTry) {
        report(account, state, trouble, nextTry); // First: on a disk without room this may still be possible.
        tell(account, trouble);
    }

    private void report(
            Account account, Account.AccountState state, @Nullable String trouble, @Nullable Instant nextTry) {
        accounts.report(account.id(), state, trouble, nextTry);
        changed(account);
    }

    /** Pages show the account anew. */
    void changed(Account account) {
        events.publishEvent(new MailChanged(account.userId(), Set.of()));
    }

    void importing(Account account, int imported, int toImport) {
        accounts.reportImport(account.id(), imported, toImport);
        changed(account);
    }

    /** Writes into the account's log of events. */
    void tell(Account account, String what) {
        LOG.info("{}: {}", account.address(), what);
        log.add(account.id(), what);
    }
}
