package app.schublade.store.base;

import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.CannotGetJdbcConnectionException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.CannotCreateTransactionException;
import org.springframework.transaction.TransactionSystemException;

/** The database as whoever runs Schublade asks after it. */
@Repository
public class Database {
    /** Connection exceptions, and a server that is being shut down or has crashed (PostgreSQL, appendix A). */
    private static final Pattern BROKEN = Pattern.compile("08|57P0[123]");

    /** A file could not be made larger (PostgreSQL, appendix A). */
    private static final String NO_ROOM = "53100";

    /** So long after it was seen last that its disk is full, it is taken to be. */
    private static final Duration FULL_FOR = Duration.ofMinutes(2);

    private final JdbcClient jdbc;
    private volatile @Nullable Instant full;

    public Database(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Whether the reason of a problem is that no connection was to be had. Then nothing has been begun with it. */
    public static boolean isAway(@Nullable Throwable problem) {
        return hasCause(
                problem,
                one -> one instanceof CannotGetJdbcConnectionException
                        || one instanceof CannotCreateTransactionException);
    }

    /**
     * Whether the reason of a problem is that a connection broke while it was used. What was asked for last may have been done.
     * A transaction that can be neither committed nor rolled back has no connection any more, whatever was the matter before.
     */
    public static boolean isBroken(@Nullable Throwable problem) {
        return hasCause(
                problem,
                one -> one instanceof TransactionSystemException
                        || (one instanceof SQLException refused
                                && BROKEN.matcher(String.valueOf(refused.getSQLState()))
                                        .lookingAt()));
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
