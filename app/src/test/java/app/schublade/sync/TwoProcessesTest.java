package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.base.MailChanged;
import app.schublade.store.filing.FilingStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.context.ApplicationListener;
import org.springframework.context.PayloadApplicationEvent;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Two processes on one database. */
class TwoProcessesTest {
    private static Office first;
    private static Office second;
    private static Standin hosts;
    private static CurrentUser person;

    @BeforeAll
    static void start() throws Exception {
        hosts = new Standin(Standin.Options.forTests(0));
        first = Office.alone();
        second = first.another();
        person = first.person();
        first.addAndImport(person, hosts, "MU");
        first.addAndImport(person, hosts, "RC");
    }

    @AfterAll
    static void stop() {
        second.close();
        first.close();
        hosts.close();
    }

    private static List<String> owners() {
        return first.bean(JdbcClient.class)
                .sql("select coalesce(lease_owner, 'nobody') from account order by id")
                .query(String.class)
                .list();
    }

    @Test
    void theyShareTheAccountsAndOneTakesOverWhatTheOtherLeaves() throws Exception {
        Await.until("each serves one", () -> Set.copyOf(owners()).size() == 2 && !owners().contains("nobody"));
        // A process that was killed says nothing any more, but its leases stand until they end.
        first.bean(JdbcClient.class).sql("""
                        update account set lease_owner = 'killed', lease_until = now() + interval '20 seconds' where code = 'RC'
                        """).update();
        long began = System.nanoTime();
        Await.until("another process has taken over", () -> !owners().contains("killed"));
        assertThat(Duration.ofNanos(System.nanoTime() - began))
                .isBetween(Duration.ofSeconds(10), Duration.ofSeconds(30));
        hosts.deliver("anna@westwharf.example", "regatta@brackwater-rowing.example", "After the kill", "Hello");
        Await.until(
                "it works", () -> Cabinet.of(first).counts(person.id(), "Inbox").equals("1/1"));
    }

    @Test
    void eachHearsOfWhatTheOtherChanges() {
        Set<Long> heard = ConcurrentHashMap.newKeySet();
        second.context().addApplicationListener((ApplicationListener<PayloadApplicationEvent<?>>) event -> {
            if (event.getPayload() instanceof MailChanged changed && changed.elsewhere()) {
                heard.add(changed.userId());
            }
        });
        Cabinet cabinet = Cabinet.of(first);
        long user = cabinet.user();
        Account account = cabinet.account(user, "AA");
        try {
            long message = cabinet.arrives(account, TestMail.from("a@b.example", "Heard"));
            Await.until("it is heard of", () -> heard.contains(user));
            heard.clear();
            first.bean(FilingStore.class).act(user, Cause.HAND, "x", List.of(message), state -> state.flagged(true));
            Await.until("it is heard of again", () -> heard.contains(user));
        } finally {
            first.bean(AccountRemover.class).remove(account);
        }
    }
}
