package app.schublade.sync;

import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.store.Account;
import java.time.Duration;
import java.util.concurrent.Semaphore;
import java.util.concurrent.ThreadLocalRandom;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Serves one account in a thread of its own: connects, imports, fetches new mail, carries out orders, and begins again
 * when the connection breaks. All that it does can be cut off anywhere and is complete after the next look.
 */
final class AccountWorker {
    private static final Logger LOG = LoggerFactory.getLogger(AccountWorker.class);
    private static final Duration PATIENCE = Duration.ofSeconds(60);
    private static final Duration LOOK_AT_EVERYTHING = Duration.ofSeconds(30);
    /** After a look that left messages missing. */
    private static final Duration LOOK_AGAIN = Duration.ofSeconds(3);

    private static final Duration LOOK_AT_MARKS = Duration.ofSeconds(5);
    private static final Duration POLL = Duration.ofMillis(1500);
    private static final int LONGEST_PAUSE_SECONDS = 60;
    private static final int INDEX_BATCH = 500;

    private final long id;
    private final WorkerTools tools;
    private final Thread thread;
    private final Semaphore wake = new Semaphore(0);
    private volatile boolean stopped;
    private volatile @Nullable ImapConnection open;

    AccountWorker(long id, WorkerTools tools) {
        this.id = id;
        this.tools = tools;
        this.thread = new Thread(this::run, "account-" + id);
        this.thread.setDaemon(true);
    }

    void start() {
        thread.start();
    }

    /** There may be something to do: new mail, or an order. */
    void wake() {
        wake.release();
    }

    /** Ends the work at once and waits for it. */
    void stop() {
        stopped = true;
        wake.release();
        close();
        try {
            thread.join(5000);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void close() {
        ImapConnection connection = open;
        if (connection != null) {
            connection.close();
        }
    }

    private void run() {
        int failures = 0;
        while (!stopped) {
            Account account = tools.accounts().byId(id).orElse(null);
            if (account == null || account.state() == Account.State.LOGIN_REFUSED) {
                return;
            }
            try {
                serve(account);
            } catch (MailException e) {
                failures = tools.accounts().byId(id).map(Account::state).orElse(Account.State.AWAY)
                                == Account.State.CONNECTED
                        ? 0
                        : failures;
                report(account, e);
            } catch (RuntimeException e) {
                LOG.error("The work for {} failed", account.address(), e);
                report(account, Account.State.AWAY, "Something went wrong here; it is tried again. " + e.getMessage());
            }
            if (!stopped) {
                pause(++failures);
            }
        }
    }

    private void report(Account account, MailException e) {
        boolean refused = e.kind() == MailException.Kind.LOGIN_REFUSED;
        report(account, refused ? Account.State.LOGIN_REFUSED : Account.State.AWAY, e.getMessage());
    }

    private void report(Account account, Account.State state, @Nullable String trouble) {
        if (!stopped) {
            LOG.info("{}: {}", account.address(), trouble);
            tools.progress().state(account, state, trouble);
        }
    }

    /** Waits longer after each failure, and not as long as others that failed at the same moment. */
    private void pause(int failures) {
        long seconds = Math.min(LONGEST_PAUSE_SECONDS, 1L << Math.min(failures, 6));
        await(Duration.ofMillis(seconds * 500 + ThreadLocalRandom.current().nextLong(seconds * 500)));
    }

    private void await(Duration time) {
        try {
            wake.tryAcquire(time.toMillis(), TimeUnit.MILLISECONDS);
            wake.drainPermits();
        } catch (InterruptedException e) {
            stopped = true;
        }
    }

    private void serve(Account account) throws MailException {
        String password = tools.accounts().password(id);
        try (ImapConnection imap = ImapConnection.open(account.host(), password, PATIENCE);
                InboxWatch watch = new InboxWatch(account, password, this::wake)) {
            open = imap;
            FolderLook look = new FolderLook(account, tools, imap);
            OrderRunner orders = new OrderRunner(account, tools, imap);
            boolean clear = look.everything(() -> {
                endIfStopped();
                look.inboxNews();
                orders.run();
            });
            tools.progress().state(account, Account.State.CONNECTED, null);
            watch.start();
            stayInAgreement(look, orders, watch, clear ? LOOK_AT_EVERYTHING : LOOK_AGAIN);
        } finally {
            open = null;
        }
    }

    private void stayInAgreement(FolderLook look, OrderRunner orders, InboxWatch watch, Duration firstPause)
            throws MailException {
        Duration pause = firstPause;
        long everything = System.nanoTime();
        long marks = everything;
        while (!stopped) {
            boolean clear = orders.run() && look.inboxNews();
            if (!clear || isOver(everything, pause)) {
                pause = look.everything(this::endIfStopped) ? LOOK_AT_EVERYTHING : LOOK_AGAIN;
                everything = System.nanoTime();
            } else if (isOver(marks, LOOK_AT_MARKS)) {
                look.inboxMarks();
                marks = System.nanoTime();
            }
            if (tools.intake().index(id, INDEX_BATCH) < INDEX_BATCH) {
                await(watch.isWatching() ? LOOK_AT_MARKS : POLL);
            }
        }
    }

    private static boolean isOver(long since, Duration time) {
        return System.nanoTime() - since > time.toNanos();
    }

    private void endIfStopped() {
        if (stopped) {
            close();
        }
    }
}
