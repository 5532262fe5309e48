package app.schublade.store.user;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.user.LoginStore.Try;
import app.schublade.testing.Cabinet;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

@ExtendWith(Cabinet.Extension.class)
class LoginStoreTest {
    private static final AtomicInteger NUMBERS = new AtomicInteger();

    private final Cabinet cabinet;
    private final LoginStore logins;
    private final String login = "somebody" + NUMBERS.incrementAndGet();
    private final String address = "192.0.2." + NUMBERS.incrementAndGet();

    LoginStoreTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        logins = cabinet.bean(LoginStore.class);
    }

    private Try stranger() {
        return new Try(login, address, null);
    }

    /** As if so much time had gone by. */
    private void later(Duration time) {
        cabinet.jdbc
                .sql("update login_try set last_at = last_at - make_interval(secs => ?)")
                .param(time.toSeconds())
                .update();
    }

    @Test
    void wrongPasswordsSlowTheNextTriesAndARightOneIsSoonPossible() {
        for (int i = 0; i < 3; i++) {
            assertThat(logins.begin(stranger())).isZero();
        }
        Duration first = logins.begin(stranger());
        assertThat(first).isPositive();
        later(Duration.ofSeconds(3));
        assertThat(logins.begin(stranger())).as("after waiting").isZero();
        assertThat(logins.begin(stranger())).isGreaterThan(first);
        later(Duration.ofSeconds(10));
        assertThat(logins.begin(stranger())).isZero();
        logins.succeeded(stranger());
        assertThat(logins.begin(stranger())).as("all is forgotten").isZero();
    }

    @Test
    void noNumberOfFailuresOverflows() {
        logins.begin(stranger());
        for (int failures : List.of(10, 1026, 100_000, Integer.MAX_VALUE - 1)) {
            cabinet.jdbc
                    .sql("update login_try set failures = ?, last_at = now()")
                    .param(failures)
                    .update();
            assertThat(logins.begin(stranger())).isBetween(Duration.ofSeconds(200), Duration.ofSeconds(301));
            later(Duration.ofMinutes(6));
            assertThat(logins.begin(stranger())).isZero();
        }
        later(Duration.ofHours(2));
        assertThat(logins.begin(stranger())).isZero();
        assertThat(logins.failures(login)).contains(1);
    }

    @Test
    void ofManyGuessesAtOnceOnlyTheFreeOnesAreCompared() throws Exception {
        ExecutorService threads = Executors.newFixedThreadPool(20);
        List<Callable<Duration>> guesses = IntStream.range(0, 40)
                .mapToObj(i -> (Callable<Duration>) () -> logins.begin(stranger()))
                .toList();
        int compared = 0;
        for (Future<Duration> one : threads.invokeAll(guesses)) {
            compared += one.get().isZero() ? 1 : 0;
        }
        threads.shutdown();
        assertThat(compared).isEqualTo(3);
    }

    @Test
    void oneAddressThatTriesManyLoginsIsSlowedToo() {
        int may = 0;
        for (int i = 0; i < 100; i++) {
            may += logins.begin(new Try(login + "-" + i, address, null)).isZero() ? 1 : 0;
        }
        assertThat(may).isEqualTo(50);
        assertThat(logins.begin(new Try(login, address + "1", null)))
                .as("another address")
                .isZero();
    }

    @Test
    void strangersDoNotLockOutAKnownBrowser() {
        UserStore.User user = cabinet.users.add(login, "Somebody", "-");
        String token = logins.remember(user.id(), null);
        for (int i = 0; i < 10; i++) {
            logins.begin(stranger());
        }
        assertThat(logins.begin(stranger())).isPositive();
        assertThat(logins.begin(new Try(login, address, token))).isZero();
        assertThat(logins.begin(new Try(login, address, "made up")))
                .as("of nobody")
                .isPositive();
        assertThat(logins.begin(new Try(login + "x", address + "2", token)))
                .as("for another login it is a stranger")
                .isZero();
        logins.forgetOthers(user.id(), null);
        assertThat(logins.begin(new Try(login, address, token))).as("forgotten").isPositive();
    }

    @Test
    void rowsOfMadeUpLoginsAreSwept() {
        logins.begin(new Try("x".repeat(100_000), address, null));
        later(Duration.ofHours(3));
        logins.sweep();
        assertThat(cabinet.jdbc
                        .sql("select count(*) from login_try where last_at < now() - interval '2 hours'")
                        .query(Integer.class)
                        .single())
                .isZero();
    }
}
