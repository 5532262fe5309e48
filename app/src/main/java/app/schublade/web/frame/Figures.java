package app.schublade.web.frame;

import app.schublade.store.Database;
import io.micrometer.core.instrument.Gauge;
import io.micrometer.core.instrument.MeterRegistry;
import io.micrometer.core.instrument.binder.MeterBinder;
import java.util.function.ToDoubleFunction;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;

/** The figures of {@code /health} among the metrics; while the database does not tell them, they are no number. */
@Component
class Figures implements MeterBinder {
    private final Database database;

    Figures(Database database) {
        this.database = database;
    }

    @Override
    public void bindTo(MeterRegistry registry) {
        gauge(registry, "schublade.accounts", "Accounts", Database.Health::accounts);
        gauge(registry, "schublade.accounts.trouble", "Accounts whose mail is not fetched", Database.Health::troubled);
        gauge(registry, "schublade.orders", "Changes that mail servers have not been told of", Database.Health::orders);
        gauge(
                registry,
                "schublade.orders.oldest",
                "Seconds the first of them has waited",
                Database.Health::oldestOrder);
        gauge(registry, "schublade.index.waiting", "Messages not found by their words yet", Database.Health::toIndex);
    }

    private void gauge(
            MeterRegistry registry, String name, String description, ToDoubleFunction<Database.Health> figure) {
        Gauge.builder(name, () -> value(figure)).description(description).register(registry);
    }

    private double value(ToDoubleFunction<Database.Health> figure) {
        try {
            return figure.applyAsDouble(database.health());
        } catch (DataAccessException e) {
            return Double.NaN;
        }
    }
}
