package app.schublade.sync;

import app.schublade.store.Account;
import app.schublade.store.AccountStore;
import app.schublade.store.MailChanged;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/** Runs one worker for each account, from the start of the application to its end. */
@Component
public class Synchroniser implements SmartLifecycle {
    private final AccountStore accounts;
    private final WorkerTools tools;
    private final Map<Long, AccountWorker> workers = new ConcurrentHashMap<>();
    private volatile boolean running;

    public Synchroniser(AccountStore accounts, WorkerTools tools) {
        this.accounts = accounts;
        this.tools = tools;
    }

    @Override
    public void start() {
        running = true;
        accounts.all().forEach(this::serve);
    }

    /** Begins to serve an account; one that is served already is served anew, with what is stored of it now. */
    public void serve(Account account) {
        if (!running) {
            return;
        }
        forget(account.id());
        AccountWorker worker = new AccountWorker(account.id(), tools);
        workers.put(account.id(), worker);
        worker.start();
    }

    /** Ends the work for an account; what was begun is complete after the next start. */
    public void forget(long account) {
        AccountWorker worker = workers.remove(account);
        if (worker != null) {
            worker.stop();
        }
    }

    /** Somebody changed mail: its servers are told at once. */
    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    public void mailChanged(MailChanged changed) {
        for (long id : changed.accounts()) {
            AccountWorker worker = workers.get(id);
            if (worker != null) {
                worker.wake();
            }
        }
    }

    @Override
    public void stop() {
        running = false;
        workers.values().forEach(AccountWorker::stop);
        workers.clear();
    }

    @Override
    public boolean isRunning() {
        return running;
    }
}
