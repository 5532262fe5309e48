package app.schublade.store.account;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.store.act.Cause;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.user.UserStore;
import app.schublade.store.work.LeaseStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.dao.DuplicateKeyException;

@ExtendWith(Cabinet.Extension.class)
class AccountsAndUsersTest {
    private final Cabinet cabinet;

    AccountsAndUsersTest(Cabinet cabinet) {
        this.cabinet = cabinet;
    }

    @Test
    void theOwnerIsAddedOnceOnly() throws Exception {
        try (Cabinet empty = Cabinet.alone()) {
            assertThat(empty.users.isEmpty()).isTrue();
            assertThat(empty.users.addOwner("tilda", "Tilda", "hash")).isTrue();
            assertThat(empty.users.addOwner("mallory", "Mallory", "hash")).isFalse();
            assertThat(empty.users.byLogin("tilda"))
                    .get()
                    .extracting(UserStore.User::name)
                    .isEqualTo("Tilda");
            assertThat(empty.users.byLogin("mallory")).isEmpty();
        }
    }

    @Test
    void passwordsOfAccountsAreSealedInTheDatabase() {
        long user = cabinet.user();
        Account account = cabinet.account(user, "MU");
        byte[] stored = cabinet.jdbc
                .sql("select secret from account where id = ?")
                .param(account.id())
                .query(byte[].class)
                .single();
        assertThat(new String(stored, java.nio.charset.StandardCharsets.ISO_8859_1))
                .doesNotContain("secret of MU");
        assertThat(cabinet.accounts.secret(account.id())).isEqualTo("secret of MU");
        cabinet.accounts.connect(user, account.id(), account.hosts(), "another");
        assertThat(cabinet.accounts.secret(account.id())).isEqualTo("another");
        cabinet.accounts.connect(cabinet.user(), account.id(), account.hosts(), "stolen");
        assertThat(cabinet.accounts.secret(account.id())).isEqualTo("another");
    }

    @Test
    void anAddressAndACodeAreUsedOncePerUser() {
        long user = cabinet.user();
        cabinet.account(user, "MU");
        assertThatThrownBy(() -> cabinet.account(user, "MU")).isInstanceOf(DuplicateKeyException.class);
        cabinet.account(cabinet.user(), "MU");
    }

    @Test
    void accountsReportHowTheyAreDoing() {
        long user = cabinet.user();
        Account account = cabinet.account(user, "MU", "b@quay.example", "a@quay.example");
        assertThat(account.aliases()).containsExactlyInAnyOrder("a@quay.example", "b@quay.example");
        cabinet.accounts.reportImport(account.id(), 30, 100);
        cabinet.accounts.report(account.id(), Account.AccountState.AWAY, "The server does not answer.", Instant.EPOCH);
        Account now = cabinet.accounts.of(user).get(0);
        assertThat(now.status())
                .isEqualTo(new Account.Status(
                        Account.AccountState.AWAY,
                        "The server does not answer.",
                        now.status().since(),
                        Instant.EPOCH,
                        30,
                        100,
                        true));
    }

    /** Whose process has died was connected; it is not. */
    @Test
    void anAccountThatNobodyServesIsInTrouble() {
        long user = cabinet.user();
        Account account = cabinet.account(user, "MU");
        cabinet.accounts.report(account.id(), Account.AccountState.CONNECTED, null, null);
        cabinet.jdbc
                .sql("update account set lease_owner = null where id = ?")
                .param(account.id())
                .update();
        assertThat(cabinet.accounts.of(user).get(0).status().isTrouble()).isTrue();
        LeaseStore leases = cabinet.bean(LeaseStore.class);
        assertThat(leases.takeOver("p", account.id())).isTrue();
        assertThat(cabinet.accounts.of(user).get(0).status().isTrouble()).isFalse();
        cabinet.jdbc
                .sql("update account set lease_until = now() - interval '1 second' where id = ?")
                .param(account.id())
                .update();
        assertThat(cabinet.accounts.of(user).get(0).status().isTrouble()).isTrue();
    }

    @Test
    void anOrderWaitsUntilItIsDoneOrRefused() {
        long user = cabinet.user();
        Account account = cabinet.account(user, "MU");
        long one = cabinet.arrives(account, TestMail.from("a@b.example", "One"));
        long two = cabinet.arrives(account, TestMail.from("a@b.example", "Two"));
        long folder = cabinet.folder(user, "Loans").id();
        cabinet.filing.act(user, Cause.HAND, "x", List.of(one, two), state -> state.in(folder));
        List<OrderStore.ServerOrder> orders = cabinet.orders.next(account.id(), 10);
        assertThat(orders).hasSize(2);
        assertThat(orders.get(0).goesWith(orders.get(1))).isTrue();
        assertThat(cabinet.orders.next(account.id(), 1)).hasSize(1);
        assertThat(cabinet.orders.ahead(List.of(one, two))).containsExactlyInAnyOrder(one, two);

        cabinet.orders.done(List.of(orders.get(0).id()));
        cabinet.orders.refused(List.of(orders.get(1).id()), "No such folder");
        assertThat(cabinet.orders.next(account.id(), 10)).isEmpty();
        assertThat(cabinet.orders.refusedOf(user, account.id(), 10))
                .extracting(OrderStore.Refused::subject, OrderStore.Refused::trouble)
                .containsExactly(org.assertj.core.groups.Tuple.tuple("Two", "No such folder"));
        long stranger = cabinet.user();
        cabinet.orders.retry(stranger, account.id());
        assertThat(cabinet.orders.refusedOf(stranger, account.id(), 10)).isEmpty();
        assertThat(cabinet.orders.next(account.id(), 10)).isEmpty();
        cabinet.orders.retry(user, account.id());
        assertThat(cabinet.orders.next(account.id(), 10)).hasSize(1);
    }

    @Test
    void theLogKeepsTheLastHundredEvents() {
        long user = cabinet.user();
        Account account = cabinet.account(user, "MU");
        AccountEventStore log = new AccountEventStore(cabinet.jdbc);
        for (int i = 0; i < 130; i++) {
            log.add(account.id(), "Event " + i);
            log.add(account.id(), "Event " + i); // A repetition is no news.
        }
        assertThat(log.of(user, account.id())).hasSize(100);
        assertThat(log.of(user, account.id()).get(0).said()).isEqualTo("Event 129");
        assertThat(log.of(user, account.id()).get(99).said()).isEqualTo("Event 30");
        assertThat(log.of(cabinet.user(), account.id())).isEmpty();
    }
}
