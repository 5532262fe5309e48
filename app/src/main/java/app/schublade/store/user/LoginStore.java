package app.schublade.store.user;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.time.Duration;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/**
 * How often somebody has tried to log in, and with which browsers users have logged in before.
 *
 * <p>A try is counted before the password is compared, in one statement, so that many at once are not all compared. After
 * some free ones each further try has to wait twice as long, five minutes at most. Strangers are counted by the login they
 * try and by their address; a browser that is known to belong to the user is counted by itself.
 */
@Repository
public class LoginStore {
    /** Wrong passwords that cost nothing: of one login, and of one address that may be many people's. */
    private static final int FREE_OF_LOGIN = 3;

    private static final int FREE_OF_ADDRESS = 50;
    private static final int LONGEST_WAIT_SECONDS = 300;
    private static final int MOST_DOUBLINGS = 20;
    private static final int FORGOTTEN_SECONDS = 3600;
    private static final int MAX_KEY = 200;
    private static final int TOKEN_BYTES = 24;
    private static final String WAIT =
            "make_interval(secs => least(:longest, 2 ^ least(:doublings, t.failures - :free + 1)))";

    private final JdbcClient jdbc;
    private final SecureRandom random = new SecureRandom();

    public LoginStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * Who tries.
     *
     * @param login as typed, in lower case
     * @param address of the network that the try comes from
     * @param browser the token that an earlier login gave to the browser; or null
     */
    public record Try(
            String login, String address, @Nullable String browser) {}

    /** Counts a try. Returns how long it must still wait; zero if it may be made now. */
    @Transactional
    public Duration begin(Try one) {
        if (isKnown(one)) {
            return begin(ofBrowser(one), FREE_OF_LOGIN);
        }
        Duration byAddress = begin(ofAddress(one), FREE_OF_ADDRESS);
        return byAddress.isZero() ? begin(ofLogin(one), FREE_OF_LOGIN) : byAddress;
    }

    private Duration begin(String key, int free) {
        boolean may = jdbc.sql("""
                        insert into login_try as t (key, failures, last_at) values (:key, 1, now())
                        on conflict (key) do update set last_at = now(), failures =
                            case when t.last_at < now() - make_interval(secs => :forgotten) then 1 else least(t.failures, 100000) + 1 end
                        where t.failures < :free or t.last_at < now() - make_interval(secs => :forgotten)
                            or t.last_at +\s""" + WAIT + " <= now() returning 1")
                .param("key", key)
                .param("free", free)
                .param("forgotten", FORGOTTEN_SECONDS)
                .param("longest", LONGEST_WAIT_SECONDS)
                .param("doublings", MOST_DOUBLINGS)
                .query(Integer.class)
                .optional()
                .isPresent();
        if (may) {
            return Duration.ZERO;
        }
        double seconds = jdbc.sql(
                        "select extract(epoch from t.last_at + " + WAIT + " - now()) from login_try t where key = :key")
                .param("key", key)
                .param("free", free)
                .param("longest", LONGEST_WAIT_SECONDS)
                .param("doublings", MOST_DOUBLINGS)
                .query(Double.class)
                .optional()
                .orElse(0.0);
        return Duration.ofMillis(Math.max(1, (long) (seconds * 1000)));
    }

    /** The password was right: what was counted of this login is forgotten, and the address gets its try back. */
    @Transactional
    public void succeeded(Try one) {
        jdbc.sql("delete from login_try where key in (?, ?)")
                .params(ofLogin(one), ofBrowser(one))
                .update();
        jdbc.sql("update login_try set failures = greatest(0, failures - 1) where key = ?")
                .param(ofAddress(one))
                .update();
    }

    private boolean isKnown(Try one) {
        return one.browser() != null
                && jdbc.sql("""
                        select exists (select from known_browser b join app_user u on u.id = b.user_id
                            where b.token_hash = ? and u.login = ?)
                        """)
                        .params(hash(one.browser()), one.login())
                        .query(Boolean.class)
                        .single();
    }

    private static String ofLogin(Try one) {
        return limited("login " + one.login());
    }

    private static String ofAddress(Try one) {
        return limited("address " + one.address());
    }

    private static String ofBrowser(Try one) {
        return "browser " + hash(one.browser() == null ? "" : one.browser());
    }

    private static String limited(String key) {
        return key.length() <= MAX_KEY ? key : "digest " + hash(key);
    }

    private static String hash(String text) {
        try {
            return HexFormat.of()
                    .formatHex(MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("Every Java has SHA-256", e);
        }
    }

    /** From now on a browser is known as the user's. Returns the token that it is to keep: the one that it has, or a new one. */
    public String remember(long userId, @Nullable String browser) {
        String token = browser;
        if (token == null || token.length() > MAX_KEY) {
            byte[] bytes = new byte[TOKEN_BYTES];
            random.nextBytes(bytes);
            token = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
        }
        // A token belongs to one user: somebody else who uses the same browser gets one too, in its place.
        jdbc.sql("""
                        insert into known_browser (token_hash, user_id) values (?, ?)
                        on conflict (token_hash) do update set user_id = excluded.user_id, last_at = now()
                        """).params(hash(token), userId).update();
        return token;
    }

    /** No browser is known as the user's any more, but one. */
    public void forgetOthers(long userId, @Nullable String browser) {
        jdbc.sql("delete from known_browser where user_id = ? and token_hash <> ?")
                .params(userId, hash(browser == null ? "" : browser))
                .update();
    }

    /** Sweeps what is of no use any more. */
    public void sweep() {
        jdbc.sql("delete from login_try where last_at < now() - interval '2 hours'")
                .update();
        jdbc.sql("delete from known_browser where last_at < now() - interval '200 days'")
                .update();
    }

    /** How many failures are counted of a login. */
    public Optional<Integer> failures(String login) {
        return jdbc.sql("select failures from login_try where key = ?")
                .param(limited("login " + login))
                .query(Integer.class)
                .optional();
    }
}
