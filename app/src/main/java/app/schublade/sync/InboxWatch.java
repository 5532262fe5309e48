package app.schublade.sync;

import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.store.account.Account;
import app.schublade.work.Background;
import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Waits on a connection of its own for the server to tell of new mail (IMAP IDLE, RFC 2177). */
final class InboxWatch implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(InboxWatch.class);
    /** Servers may end an idle connection after half an hour, and networks sooner. */
    private static final Duration RENEW = Duration.ofMinutes(9);

    private static final long RETRY_MILLIS = 10_000;

    private final Account account;
    private final Keyring keyring;
    private final Runnable changed;
    private final Background background;
    private @Nullable Thread thread;
    private volatile boolean watching;
    private volatile boolean closed;
    private volatile @Nullable ImapConnection open;

    InboxWatch(Account account, Keyring keyring, Background background, Runnable changed) {
        this.account = account;
        this.keyring = keyring;
        this.changed = changed;
        this.background = background;
    }

    void start() {
        thread = background.start("watch-" + account.id(), this::run);
    }

    /** Whether the server will tell of new mail; if not, it must be asked. */
    boolean isWatching() {
        return watching;
    }

    private void run() {
        while (!closed) {
            try (ImapConnection imap = ImapConnection.open(account.host(), keyring.of(account), RENEW)) {
                open = imap;
                if (!imap.canWatch()) {
                    return;
                }
                imap.open("INBOX");
                watching = true;
                imap.watch(changed);
            } catch (MailException e) {
                if (e.kind().needsUser()) {
                    closed = true; // The worker meets the same, and tells.
                }
                LOG.debug("{} is not watched: {}", account.address(), e.getMessage());
            } catch (RuntimeException | Error e) {
                LOG.error("{} is not watched for a moment", account.address(), e);
            } finally {
                watching = false;
            }
            pause();
        }
    }

    private void pause() {
        try {
            Thread.sleep(closed ? 0 : RETRY_MILLIS);
        } catch (InterruptedException e) {
            closed = true;
        }
    }

    @Override
    public void close() {
        closed = true;
        ImapConnection connection = open;
        if (connection != null) {
            connection.close();
        }
        if (thread != null) {
            thread.interrupt();
        }
    }
}
