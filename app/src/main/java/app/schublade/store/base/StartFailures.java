package app.schublade.store.base;

import java.sql.SQLException;
import org.flywaydb.core.api.FlywayException;
import org.flywaydb.core.api.exception.FlywayValidateException;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.diagnostics.FailureAnalysis;
import org.springframework.boot.diagnostics.FailureAnalyzer;

/** Why Schublade does not start, in a sentence, with the way out; a stack trace tells nobody who runs it. */
final class StartFailures implements FailureAnalyzer {
    private static final String AWAY = "08";
    private static final String RESTORE =
            "The database was not changed. Run the version that it was made by, or bring back a backup: ./schublade restore FILE --replace";

    @Override
    public @Nullable FailureAnalysis analyze(Throwable failure) {
        StartProblem known = cause(failure, StartProblem.class);
        if (known != null) {
            return new FailureAnalysis(known.getMessage(), known.wayOut(), failure);
        }
        SQLException refused = cause(failure, SQLException.class);
        if (refused != null && String.valueOf(refused.getSQLState()).startsWith(AWAY)) {
            return new FailureAnalysis(
                    "The database does not answer: " + refused.getMessage(),
                    "Is it running, and are spring.datasource.url, username and password right? ./schublade doctor looks.",
                    failure);
        }
        if (cause(failure, FlywayValidateException.class) != null) {
            return new FailureAnalysis(
                    "The database was brought to its shape by another version of Schublade than this one.",
                    RESTORE,
                    failure);
        }
        FlywayException migration = cause(failure, FlywayException.class);
        return migration == null
                ? null
                : new FailureAnalysis(
                        "The database could not be brought to the shape of this version: " + migration.getMessage(),
                        RESTORE,
                        failure);
    }

    private static <T extends Throwable> @Nullable T cause(Throwable failure, Class<T> type) {
        for (Throwable one = failure; one != null; one = one.getCause()) {
            if (type.isInstance(one)) {
                return type.cast(one);
            }
        }
        return null;
    }
}
