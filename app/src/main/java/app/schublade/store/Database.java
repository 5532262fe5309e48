package app.schublade.store;

import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.CannotGetJdbcConnectionException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.CannotCreateTransactionException;

/** The database as whoever runs Schublade asks after it. */
@Repository
public class Database {
    /** Connection exceptions, and a server that is being shut down or has crashed (PostgreSQL, appendix A). */
    private static final Pattern BROKEN = Pattern.compile("08|57P0[123]");

    /** A file could not be made larger (PostgreSQL, appendix A). */
    private static final String NO_ROOM = "53100";

    /** So long after it was seen last that its disk is full, it is taken to be. */
    private static final Duration FULL_FOR = Duration.ofMinutes(2);

    private static final Duration KNOWN_FOR = Duration.ofSeconds(10);

    private final JdbcClient jdbc;
    private @Nullable Health known;
    private Instant askedAt = Instant.EPOCH;
    private volatile @Nullable Instant full;

    public Database(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * How everything is doing, over all users.
     *
     * @param accounts how many there are
     * @param troubled of how many no mail is fetched at present
     * @param orders how many changes the mail servers have not been told of yet
     * @param oldestOrder since when the first of them waits, in seconds; 0 if none does
     * @param toIndex messages that cannot be found by their words yet
     */
    public record Health(int accounts, int troubled, int orders, long oldestOrder, int toIndex) {}

    /**
     * As it was at most ten seconds ago: whoever asks often does not keep the database busy.
     *
     * @throws org.springframework.dao.DataAccessException if the database does not answer
     */
    public synchronized Health health() {
        if (known == null || askedAt.plus(KNOWN_FOR).isBefore(Instant.now())) {
            known = null;
            known = ask();
            askedAt = Instant.now();
        }
        return known;
    }

    private Health ask() {
        return jdbc.sql("""
                        select (select count(*) from account) as accounts,
                            (select count(*) from account where state = any(:trouble)
                                or lease_owner is null or lease_until < now()) as troubled,
                            (select count(*) from server_order where trouble is null) as orders,
                            (select coalesce(extract(epoch from now() - min(at)), 0) from server_order where trouble is null)
                                as oldest,
                            (select count(*) from (select from message m where not exists
                                (select from message_search s where s.message_id = m.id) limit 100000) unindexed) as to_index
                        """)
                .param(
                        "trouble",
                        Arrays.stream(Account.State.values())
                                .filter(Account.State::isTrouble)
                                .map(Enum::name)
                                .toArray(String[]::new))
                .query((row, number) -> new Health(
                        row.getInt("accounts"),
                        row.getInt("troubled"),
                        row.getInt("orders"),
                        row.getLong("oldest"),
                        row.getInt("to_index")))
                .single();
    }

    /** Whether the reason of a problem is that no connection was to be had. Then nothing has been begun with it. */
    public static boolean isAway(@Nullable Throwable problem) {
        return hasCause(
                problem,
                one -> one instanceof CannotGetJdbcConnectionException
                        || one instanceof CannotCreateTransactionException);
    }

    /** Whether the reason of a problem is that a connection broke while it was used. What was asked for last may have been done. */
    public static boolean isBroken(@Nullable Throwable problem) {
        return hasCause(
                problem,
                one -> one instanceof SQLException refused
                        && BROKEN.matcher(String.valueOf(refused.getSQLState())).lookingAt());
    }

    /** Whether the reason of a problem is that there is no room on the database's disk. What was asked for was not kept. */
    public static boolean hasNoRoom(@Nullable Throwable problem) {
        return hasCause(problem, one -> one instanceof SQLException refused && NO_ROOM.equals(refused.getSQLState()));
    }

    private static boolean hasCause(@Nullable Throwable problem, Predicate<Throwable> wanted) {
        for (Throwable one = problem; one != null; one = one.getCause()) {
            if (wanted.test(one)) {
                return true;
            }
        }
        return false;
    }

    /** Remembers for {@link #isFull} whether that was the reason of a problem, and returns it. */
    public boolean noteWhetherFull(Throwable problem) {
        boolean noRoom = hasNoRoom(problem);
        if (noRoom) {
            full = Instant.now();
        }
        return noRoom;
    }

    /** Whether something could not be kept lately because its disk is full. */
    public boolean isFull() {
        Instant seen = full;
        return seen != null && seen.plus(FULL_FOR).isAfter(Instant.now());
    }

    /** Passwords of accounts as they are kept: for whoever has to know whether a key opens them. */
    List<byte[]> sealed() {
        return jdbc.sql("select secret from account where octet_length(secret) > 0")
                .query(byte[].class)
                .list();
    }
}
