package app.schublade.store.filing;

import app.schublade.store.base.MailChanged;
import app.schublade.work.Background;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.postgresql.PGNotification;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.SmartLifecycle;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/**
 * Tells the processes that share a database of each other's changes, through PostgreSQL's NOTIFY: it is part of the
 * transaction, so that nothing is told of what was rolled back, and nothing is forgotten that was committed.
 */
@Component
class ChangeWire implements SmartLifecycle {
    private static final Logger LOG = LoggerFactory.getLogger(ChangeWire.class);
    private static final int LISTEN_MILLIS = 1000;
    private static final long RETRY_MILLIS = 1000;

    private final String origin = UUID.randomUUID().toString();
    private final JdbcClient jdbc;
    private final DataSource source;
    private final ApplicationEventPublisher events;
    private final Background background;
    private volatile boolean running;
    private @Nullable Thread thread;

    ChangeWire(JdbcClient jdbc, DataSource source, ApplicationEventPublisher events, Background background) {
        this.background = background;
        this.jdbc = jdbc;
        this.source = source;
        this.events = events;
    }

    @TransactionalEventListener(phase = TransactionPhase.BEFORE_COMMIT, fallbackExecution = true)
    public void tell(MailChanged changed) {
        if (!changed.elsewhere()) {
            String accounts = changed.accounts().stream().map(String::valueOf).collect(Collectors.joining(","));
            jdbc.sql("select pg_notify('mail_changed', ?)::text")
                    .param(origin + " " + changed.userId() + " " + accounts)
                    .query((row, number) -> "")
                    .list();
        }
    }

    @Override
    public void start() {
        running = true;
        thread = background.start("change-wire", this::listen);
    }

    private void listen() {
        boolean again = false;
        while (running) {
            try (Connection connection = source.getConnection();
                    Statement statement = connection.createStatement()) {
                statement.execute("listen mail_changed");
                if (again) {
                    events.publishEvent(new MailChanged.Missed());
                }
                hearAll(connection.unwrap(PGConnection.class));
                statement.execute("unlisten mail_changed");
            } catch (SQLException | RuntimeException | Error e) {
                LOG.warn("Changes of other processes are not heard of for a moment", e);
                again = true;
                pause();
            }
        }
    }

    private void hearAll(PGConnection connection) throws SQLException {
        while (running) {
            for (PGNotification notification : connection.getNotifications(LISTEN_MILLIS)) {
                hear(notification.getParameter());
            }
        }
    }

    private void hear(String told) {
        String[] words = told.split(" ", 3);
        if (words.length < 3 || words[0].equals(origin)) {
            return;
        }
        Set<Long> accounts = Arrays.stream(words[2].split(",", -1))
                .filter(word -> !word.isEmpty())
                .map(Long::valueOf)
                .collect(Collectors.toSet());
        events.publishEvent(new MailChanged(Long.parseLong(words[1]), accounts, true));
    }

    private void pause() {
        try {
            Thread.sleep(RETRY_MILLIS);
        } catch (InterruptedException e) {
            running = false;
        }
    }

    @Override
    public void stop() {
        running = false;
        Thread listener = thread;
        if (listener != null) {
            try {
                listener.join(2L * LISTEN_MILLIS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }

    @Override
    public boolean isRunning() {
        return running;
    }
}
