package app.schublade.sync;

import app.schublade.mail.Credentials;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.Semaphore;
import java.util.concurrent.ThreadLocalRandom;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
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
    /** Where one command tells that nothing has changed. */
    private static final Duration LOOK_AT_EVERYTHING_CHEAPLY = Duration.ofSeconds(10);
    /** After a look that left messages missing. */
    private static final Duration LOOK_AGAIN = Duration.ofSeconds(3);

    private static final Duration LOOK_AT_MARKS = Duration.ofSeconds(5);
    private static final Duration LOOK_AT_POP = Duration.ofSeconds(60);
    private static final Duration POLL = Duration.ofMillis(1500);
    private static final int LONGEST_PAUSE_SECONDS = 300;
    private static final int READ_AGAIN = 100;

    private final long id;
    private final int version;
    private final WorkerTools tools;
    private final Semaphore wake = new Semaphore(0);
    private final AtomicInteger failures = new AtomicInteger();
    private final FetchPace pace = new FetchPace(() -> failures.set(0));
    private @Nullable Thread thread;
    private volatile boolean waitsForUser;
    private volatile boolean stopped;
    private volatile boolean newsElsewhere;
    private volatile @Nullable ImapConnection open;

    AccountWorker(long id, int version, WorkerTools tools) {
        this.id = id;
        this.version = version;
        this.tools = tools;
    }

    /** Of the account's servers and settings that it works with. */
    int version() {
        return version;
    }

    void start() {
        thread = tools.background().start("account-" + id, this::run);
    }

    /** Whether it does its work, or rightly waits for its user; else something has ended it that should not. */
    boolean isRunning() {
        Thread running = thread;
        return waitsForUser || (running != null && running.isAlive());
    }

    /** There may be something to do: new mail, or an order. */
    void wake() {
        wake.release();
    }

    /** There is something new in another folder than the Inbox. */
    void lookEverywhere() {
        newsElsewhere = true;
        wake();
    }

    /** Ends the work at once and waits for it. */
    void stop() {
        stopped = true;
        wake.release();
        close();
        Thread running = thread;
        try {
            if (running != null) {
                running.join(5000);
            }
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
        while (!stopped) {
            try {
                Account account = tools.accounts().byId(id).orElse(null);
                if (account == null || account.state().waitsForUser()) {
                    waitsForUser = true;
                    return;
                }
                serve(account);
            } catch (RuntimeException | Error e) {
                // The database is away, or there is a mistake here. Neither may end the work for good, or be kept
                // quiet.
                LOG.error("The work for account {} failed", id, e);
                Duration pause = pause(failures.incrementAndGet());
                tellOfFailure(e, pause);
                awaitAll(pause);
            }
        }
    }

    private void tellOfFailure(Throwable failure, Duration pause) {
        String trouble = tools.database().noteWhetherFull(failure)
                ? "Its mail cannot be stored: the disk of the database is full. It stays at its server meanwhile."
                : "Its mail could not be stored or told of: something failed here, not at its server."
                        + " It is tried again; the log has the details.";
        try {
            tools.accounts()
                    .byId(id)
                    .ifPresent(account -> tools.progress()
                            .trouble(
                                    account,
                                    Account.AccountState.STUCK,
                                    trouble,
                                    Instant.now().plus(pause)));
        } catch (RuntimeException e) {
            LOG.error("That account {} failed could not be noted", id, e); // The database itself is away.
        }
    }

    private void serve(Account account) {
        try {
            if (account.hosts().protocol() == Account.Protocol.POP3) {
                fetch(account);
            } else {
                converse(account);
            }
        } catch (MailException e) {
            if (stopped) {
                return;
            }
            Duration pause = pause(failures.incrementAndGet());
            boolean hopeless = e.kind().needsUser()
                    && !(e.kind() == MailException.FailureKind.LOGIN_REFUSED
                            && tools.keyring().anotherMayDo(id));
            tools.progress()
                    .trouble(
                            account,
                            hopeless ? waits(e.kind()) : Account.AccountState.AWAY,
                            e.getMessage(),
                            hopeless ? null : Instant.now().plus(pause));
            if (!hopeless) {
                awaitAll(pause);
            }
        }
    }

    private static Account.AccountState waits(MailException.FailureKind kind) {
        return kind == MailException.FailureKind.LOGIN_REFUSED
                ? Account.AccountState.LOGIN_REFUSED
                : Account.AccountState.NEEDS_USER;
    }

    /** Longer after each failure, and not as long as others that failed at the same moment. */
    static Duration pause(int failures) {
        long seconds = Math.min(LONGEST_PAUSE_SECONDS, 1L << Math.min(failures, 9));
        return Duration.ofMillis(seconds * 500 + ThreadLocalRandom.current().nextLong(seconds * 500));
    }

    /** Waits a whole time, whatever there is to do meanwhile; only the end of the work cuts it short. */
    private void awaitAll(Duration time) {
        long end = System.nanoTime() + time.toNanos();
        for (long left = time.toNanos(); left > 0 && !stopped; left = end - System.nanoTime()) {
            await(Duration.ofNanos(left));
        }
    }

    private void await(Duration time) {
        try {
            wake.tryAcquire(time.toMillis(), TimeUnit.MILLISECONDS);
            wake.drainPermits();
        } catch (InterruptedException e) {
            stopped = true;
        }
    }

    /** POP3: a conversation is short, and shows only what was there when it began. */
    private void fetch(Account account) throws MailException {
        PopLook look = new PopLook(account, tools, Intake.MAX_BYTES, () -> failures.set(0));
        while (!stopped) {
            look.look(tools.keyring().of(account), PATIENCE);
            failures.set(0);
            tools.progress().connected(account);
            boolean caughtUp = tools.catchUp(account);
            awaitAll(caughtUp ? LOOK_AT_POP : Duration.ofMillis(1)); // What the user does is nothing to its server.
        }
    }

    private void converse(Account account) throws MailException {
        Credentials credentials = tools.keyring().of(account);
        try (ImapConnection imap = ImapConnection.open(account.host(), credentials, PATIENCE);
                InboxWatch watch = new InboxWatch(account, tools.keyring(), tools.background(), this::wake)) {
            open = imap;
            FolderLook look = new FolderLook(account, tools, imap, pace);
            OrderRunner orders = new OrderRunner(account, tools, imap);
            FolderOrders folders = new FolderOrders(account, tools, imap);
            do { // First, so that a copy made by a move that was cut off is not taken for another message.
                folders.rename();
                orders.run();
            } while (orders.waitForNames());
            folders.run();
            boolean clear = look.everything(() -> {
                endIfStopped();
                look.inbox().look();
                orders.run();
            });
            failures.set(0);
            tools.progress().connected(account);
            tools.progress().tell(account, "Connected to " + account.host() + ".");
            tools.mailboxes().inbox(id).ifPresent(inbox -> readAgain(account, inbox));
            watch.start();
            stayInAgreement(account, imap, look, orders, folders, watch, clear);
        } finally {
            open = null;
        }
    }

    /** What an older version could not read. */
    private void readAgain(Account account, Mailbox inbox) {
        while (!stopped && !tools.storing().readAgain(account, inbox, READ_AGAIN)) {
            tools.progress().tell(account, "Messages that could not be read are read again.");
        }
    }

    private void stayInAgreement(
            Account account,
            ImapConnection imap,
            FolderLook look,
            OrderRunner orders,
            FolderOrders folders,
            InboxWatch watch,
            boolean allSeen)
            throws MailException {
        DraftCopies drafts = new DraftCopies(account, tools, imap);
        Duration usualPause = imap.looksCheaply() ? LOOK_AT_EVERYTHING_CHEAPLY : LOOK_AT_EVERYTHING;
        Duration pause = allSeen ? usualPause : LOOK_AGAIN;
        long everything = System.nanoTime();
        long marks = everything;
        while (!stopped) {
            folders.rename();
            boolean clear = orders.run() && look.inbox().look();
            folders.run();
            newsElsewhere |= drafts.save();
            if (!clear || newsElsewhere || isOver(everything, pause)) {
                newsElsewhere = false;
                pause = look.everything(this::endIfStopped) ? usualPause : LOOK_AGAIN;
                everything = System.nanoTime();
            } else if (isOver(marks, LOOK_AT_MARKS)) {
                look.inbox().marks();
                marks = System.nanoTime();
            }
            if (tools.catchUp(account)) {
                await(watch.isWatching() ? LOOK_AT_MARKS : POLL);
            }
        }
    }

    /** @param since a reading of {@link System#nanoTime} */
    static boolean isOver(long since, Duration time) {
        return System.nanoTime() - since > time.toNanos();
    }

    private void endIfStopped() {
        if (stopped) {
            close();
        }
    }
}
