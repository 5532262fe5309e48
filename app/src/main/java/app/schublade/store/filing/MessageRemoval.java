package app.schublade.store.filing;

import app.schublade.store.base.MailChanged;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Takes messages out of the database. */
@Repository
public class MessageRemoval {
    private final MessageLock locks;
    private final MessageWriter writer;
    private final OrderStore orders;
    private final ApplicationEventPublisher events;

    MessageRemoval(MessageLock locks, MessageWriter writer, OrderStore orders, ApplicationEventPublisher events) {
        this.locks = locks;
        this.writer = writer;
        this.orders = orders;
        this.events = events;
    }

    /**
     * Takes out messages that their server no longer has anywhere, or never had; with those of their copies that no server has
     * made yet, and the copies of these. Returns the folders that they lay in.
     */
    @Transactional
    public Set<Long> remove(long userId, Collection<Long> messages) {
        Set<Long> all = new TreeSet<>(messages);
        Map<Long, Moving> locked = locks.lock(userId, all);
        // Of what is locked nobody makes another copy. What is found may come before what is locked: then it is tried
        // again.
        while (all.addAll(orders.uncopied(all))) {
            locked = locks.lock(userId, all);
        }
        List<Moving> gone = List.copyOf(locked.values());
        if (!gone.isEmpty()) {
            writer.remove(gone);
            events.publishEvent(new MailChanged(userId, Set.of()));
        }
        return gone.stream().map(moving -> moving.state().folder()).collect(Collectors.toSet());
    }
}
