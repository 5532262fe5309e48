package app.schublade.store;

import java.time.Duration;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The users and their logins. */
@Repository
public class UserStore {
    private final JdbcClient jdbc;
    private final PlaceStore places;

    public UserStore(JdbcClient jdbc, PlaceStore places) {
        this.jdbc = jdbc;
        this.places = places;
    }

    /** A user; the password is hashed. */
    public record User(long id, String login, String name, String password) {}

    public Optional<User> byLogin(String login) {
        return jdbc.sql("select id, login, name, password from app_user where login = ?")
                .param(login)
                .query(User.class)
                .optional();
    }

    public boolean isEmpty() {
        return jdbc.sql("select count(*) from app_user").query(Long.class).single() == 0;
    }

    /** Adds a user with the folders and categories that everybody starts with. */
    @Transactional
    public User add(String login, String name, String hashedPassword) {
        long id = jdbc.sql("insert into app_user (login, name, password) values (?, ?, ?) returning id")
                .params(login, name, hashedPassword)
                .query(Long.class)
                .single();
        places.furnish(id);
        return byLogin(login).orElseThrow();
    }

    /** Adds the first user, who owns the installation; false if somebody was there already. */
    @Transactional
    public boolean addOwner(String login, String name, String hashedPassword) {
        jdbc.sql("lock table app_user in exclusive mode").update();
        if (!isEmpty()) {
            return false;
        }
        add(login, name, hashedPassword);
        return true;
    }

    /** How long this login must still wait after failed tries; zero if not at all. */
    public Duration wait(String login) {
        // Three tries are free; then 2, 4, 8 … seconds, at most five minutes.
        return jdbc.sql("""
                        select greatest(0, extract(epoch from last_at + make_interval(secs => least(300, 2 ^ (failures - 2)))
                               - now())) from login_failure where login = ? and failures >= 3
                        """)
                .param(login)
                .query(Double.class)
                .optional()
                .map(seconds -> Duration.ofMillis((long) (seconds * 1000)))
                .orElse(Duration.ZERO);
    }

    public void countFailure(String login) {
        jdbc.sql("""
                        insert into login_failure (login, failures, last_at) values (?, 1, now())
                        on conflict (login) do update set last_at = now(),
                            failures = case when login_failure.last_at < now() - interval '1 hour' then 1
                                       else login_failure.failures + 1 end
                        """).param(login.substring(0, Math.min(login.length(), 200))).update();
    }

    public void forgetFailures(String login) {
        jdbc.sql("delete from login_failure where login = ?").param(login).update();
    }
}
