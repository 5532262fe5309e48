package app.schublade.store.filing;

import java.util.List;
import org.springframework.stereotype.Component;

/** Writes changes of messages that are locked: their rows and counts, the orders for their servers; and tells of them. */
@Component
class ChangeWriter {
    private final MessageWriter writer;
    private final OrderWriter orders;
    private final ChangeEvents events;

    ChangeWriter(MessageWriter writer, OrderWriter orders, ChangeEvents events) {
        this.writer = writer;
        this.orders = orders;
        this.events = events;
    }

    /** What was done here, which the servers are to do too. */
    void write(long userId, List<Step> steps) {
        if (!steps.isEmpty()) {
            orders.order(steps);
            adopt(userId, steps);
        }
    }

    /** What is so on the server already. */
    void adopt(long userId, List<Step> steps) {
        if (!steps.isEmpty()) {
            writer.store(steps);
            events.tell(userId, steps);
        }
    }

    /** After categories were ranked anew. */
    void rank(long userId) {
        writer.rank(userId);
    }

    /** Something may be to be done on the servers of all accounts. */
    void tellAll(long userId) {
        events.tellAll(userId);
    }
}
