package app.schublade.sync;

import app.schublade.store.Account;
import app.schublade.store.AccountStore;
import app.schublade.store.MailChanged;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/** Tells users how their accounts are doing. */
@Component
class Progress {
    private final AccountStore accounts;
    private final ApplicationEventPublisher events;

    Progress(AccountStore accounts, ApplicationEventPublisher events) {
        this.accounts = accounts;
        this.events = events;
    }

    void state(Account account, Account.State state, @Nullable String trouble) {
        accounts.report(account.id(), state, trouble);
        events.publishEvent(new MailChanged(account.userId(), Set.of()));
    }

    void importing(Account account, int imported, int toImport) {
        accounts.reportImport(account.id(), imported, toImport);
        events.publishEvent(new MailChanged(account.userId(), Set.of()));
    }
}
