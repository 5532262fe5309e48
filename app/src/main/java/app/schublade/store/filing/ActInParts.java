package app.schublade.store.filing;

import app.schublade.core.filing.State;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import app.schublade.store.act.TakenBack;
import app.schublade.store.base.Transactions;
import app.schublade.store.base.UserLock;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Takes all messages out of a place, some at a time, and does away with the place as the last ones leave it; as one act. */
@Component
public class ActInParts {
    private static final Logger LOG = LoggerFactory.getLogger(ActInParts.class);

    private final FilingStore filing;
    private final Acts acts;
    private final UserLock users;
    private final Transactions transactions;
    private final ChangeEvents changes;

    ActInParts(FilingStore filing, Acts acts, UserLock users, Transactions transactions, ChangeEvents changes) {
        this.filing = filing;
        this.acts = acts;
        this.users = users;
        this.transactions = transactions;
        this.changes = changes;
    }

    /** Finds messages that are still there, but not more than {@link Transactions#MOST}. */
    @FunctionalInterface
    public interface Remaining extends Supplier<List<Long>> {}

    /** What is done as the last messages leave. */
    @FunctionalInterface
    public interface Ending {
        void end(long batch);
    }

    /**
     * Should it be cut off, the place is there still, with what has not been taken out of it.
     *
     * @param beginning what belongs to the act and comes before all
     */
    public ActOutcome run(
            long userId, String title, Runnable beginning, Remaining left, UnaryOperator<State> change, Ending ending) {
        long batch = transactions.in(() -> {
            users.alone(userId);
            long begun = filing.begin(userId, Cause.HAND, title);
            acts.goOn(begun, beginning);
            return begun;
        });
        ActOutcome all = new ActOutcome(batch, title, List.of(), 0);
        try {
            for (boolean over = false; !over; ) {
                AtomicBoolean last = new AtomicBoolean();
                ActOutcome part = transactions.in(() -> {
                    users.alone(userId);
                    filing.stillGoingOn(batch);
                    List<Long> some = left.get();
                    last.set(some.size() < Transactions.MOST);
                    ActOutcome moved = filing.actFurther(userId, Cause.HAND, title, some, change, batch);
                    if (last.get()) {
                        acts.goOn(batch, () -> ending.end(batch));
                    }
                    return moved;
                });
                all = all.and(part);
                over = last.get() || part.changed().isEmpty();
            }
        } catch (TakenBack e) {
            LOG.info("{} was undone before it had ended.", title);
        }
        changes.tellAll(userId);
        return all;
    }
}
