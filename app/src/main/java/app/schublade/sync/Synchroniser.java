package app.schublade.sync;

import app.schublade.store.account.Account;
import app.schublade.store.base.MailChanged;
import app.schublade.store.work.LeaseStore;
import java.time.Duration;
import java.util.Iterator;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ScheduledFuture;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/**
 * Runs one worker for each account that this process holds the lease of, from the start of the application to its end.
 * Several processes on one database share the accounts; what one leaves behind the others take over.
 */
@Component
public class Synchroniser implements SmartLifecycle {
    private static final Logger LOG = LoggerFactory.getLogger(Synchroniser.class);
    private static final Duration RENEW = Duration.ofSeconds(5);

    private final String process;
    private final LeaseStore leases;
    private final WorkerTools tools;
    private final Map<Long, AccountWorker> workers = new ConcurrentHashMap<>();
    private final Set<Long> forgotten = ConcurrentHashMap.newKeySet();
    private volatile boolean running;
    private long renewed;
    private @Nullable ScheduledFuture<?> renewing;

    /** @param process a name that no other process has; one that starts again under its name has its accounts back at once */
    public Synchroniser(@Value("${schublade.process:}") String process, LeaseStore leases, WorkerTools tools) {
        this.process = process.isEmpty() ? UUID.randomUUID().toString() : process;
        this.leases = leases;
        this.tools = tools;
    }

    @Override
    public void start() {
        running = true;
        renewed = System.nanoTime();
        tools.background().later("leases", Duration.ZERO, this::renew);
        renewing = tools.background().every("leases", RENEW, this::renew);
    }

    private synchronized void renew() {
        if (!running) {
            return;
        }
        try {
            Map<Long, Integer> held = leases.renew(process);
            renewed = System.nanoTime();
            workers.keySet().removeIf(account -> !held.containsKey(account) && stopped(account));
            held.forEach(this::serve);
            share();
        } catch (RuntimeException e) {
            LOG.warn("The leases could not be renewed: {}", e.getMessage());
            tools.database().noteWhetherFull(e);
            if (System.nanoTime() - renewed > LeaseStore.TERM.toNanos()) {
                stopAll(); // Others may serve these accounts by now.
            }
        }
    }

    private void share() {
        int share = leases.share();
        for (Iterator<Long> each = workers.keySet().iterator(); workers.size() > share && each.hasNext(); ) {
            long account = each.next();
            stopped(account);
            each.remove();
            leases.release(process, Set.of(account));
        }
        if (workers.size() < share) {
            leases.takeOver(process, share - workers.size(), forgotten).forEach(this::serve);
        }
    }

    private boolean stopped(long account) {
        AccountWorker worker = workers.get(account);
        if (worker != null) {
            worker.stop();
        }
        return true;
    }

    /** Begins to serve an account, anew if it has been given other servers or settings since. */
    private void serve(long account, int version) {
        AccountWorker before = workers.get(account);
        if (before != null && before.version() == version && before.isRunning()) {
            return;
        }
        stopped(account);
        AccountWorker worker = new AccountWorker(account, version, tools);
        workers.put(account, worker);
        worker.start();
    }

    /** Begins to serve an account at once; one that this process serves already is served anew. */
    public synchronized void serve(Account account) {
        forgotten.remove(account.id());
        if (running && leases.takeOver(process, account.id())) {
            stopped(account.id());
            workers.remove(account.id());
            serve(account.id(), account.version());
        }
    }

    /** Ends the work for an account; what was begun is complete after the next start. */
    public synchronized void forget(long account) {
        forgotten.add(account);
        stopped(account);
        workers.remove(account);
        leases.release(process, Set.of(account));
    }

    /** Somebody changed mail: its servers are told at once. */
    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    public void mailChanged(MailChanged changed) {
        changed.accounts().forEach(this::wake);
    }

    /** There may be something to do for an account. */
    public void wake(long account) {
        AccountWorker worker = workers.get(account);
        if (worker != null) {
            worker.wake();
        }
    }

    /** Something was put into a folder of an account by another way than its orders. */
    void lookEverywhere(long account) {
        AccountWorker worker = workers.get(account);
        if (worker != null) {
            worker.lookEverywhere();
        }
    }

    @EventListener
    public void missed(MailChanged.Missed missed) {
        workers.values().forEach(AccountWorker::wake);
    }

    private void stopAll() {
        workers.values().forEach(AccountWorker::stop);
        workers.clear();
    }

    @Override
    public synchronized void stop() {
        running = false;
        if (renewing != null) {
            renewing.cancel(true);
        }
        stopAll();
        try {
            leases.leave(process);
        } catch (RuntimeException e) {
            LOG.warn("The leases could not be given back; others take over when they end: {}", e.getMessage());
        }
    }

    @Override
    public boolean isRunning() {
        return running;
    }
}
