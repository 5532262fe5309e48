package app.schublade.e2e;

import app.schublade.standin.DemoAccount;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.sync.Synchroniser;
import app.schublade.testing.Await;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Somebody who has just come brings their accounts together. */
@ExtendWith(Office.Extension.class)
class NewcomerJourneyTest {
    private final Office office;

    NewcomerJourneyTest(Office office) {
        this.office = office;
    }

    @Test
    void accountsAreBroughtTogetherByAddressAndPasswordAlone() {
        CurrentUser person = office.person();
        try (Standin hosts = new Standin(Standin.Options.forTests(80));
                Window window = new Window(office)) {
            office.publishes(hosts);
            window.logIn(person, Office.PASSWORD);
            AccountsPage accounts = new AccountsPage(window);
            accounts.isRefused(DemoAccount.ALL.get(0).address(), "not it");
            for (DemoAccount demo : DemoAccount.ALL) {
                accounts.add(demo.address(), DemoAccount.PASSWORD);
            }
            accounts.lists("Lanternquay", "Northlights-tour", "Brackwater-rowing", "Marwick-post");
            accounts.moveUp("Marwick-post");
            accounts.lists("Lanternquay", "Northlights-tour", "Marwick-post", "Brackwater-rowing");
            office.bean(AccountStore.class).of(person.id()).forEach(this::isImported);
            accounts.choose("Lanternquay").rename("Museum").claims("loans@lanternquay.example");
            accounts.takesOut("Northlights-tour").lists("Museum", "Marwick-post", "Brackwater-rowing");
            office.bean(AccountStore.class)
                    .of(person.id())
                    .forEach(account -> office.bean(Synchroniser.class).forget(account.id()));
        }
    }

    private void isImported(Account account) {
        Await.until("imported", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
    }
}
