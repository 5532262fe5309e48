package app.schublade.store.filing;

import app.schublade.store.base.MailChanged;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Tells the rest of the application of changes, when their transaction is complete. */
@Component
public class ChangeEvents {
    private final JdbcClient jdbc;
    private final ApplicationEventPublisher events;

    ChangeEvents(JdbcClient jdbc, ApplicationEventPublisher events) {
        this.jdbc = jdbc;
        this.events = events;
    }

    /** Messages of some accounts are changed. */
    void tell(long userId, List<Step> steps) {
        events.publishEvent(new MailChanged(
                userId, steps.stream().map(step -> step.moving().accountId()).collect(Collectors.toSet())));
    }

    /** Something may be to be done on the servers of all accounts. */
    public void tellAll(long userId) {
        List<Long> accounts = jdbc.sql("select id from account where user_id = ?")
                .param(userId)
                .query(Long.class)
                .list();
        events.publishEvent(new MailChanged(userId, Set.copyOf(accounts)));
    }
}
