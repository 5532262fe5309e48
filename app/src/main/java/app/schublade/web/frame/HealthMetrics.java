package app.schublade.web.frame;

import app.schublade.store.work.HealthStore;
import io.micrometer.core.instrument.Gauge;
import io.micrometer.core.instrument.MeterRegistry;
import io.micrometer.core.instrument.binder.MeterBinder;
import java.util.function.ToDoubleFunction;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;

/** The figures of {@code /health} among the metrics; while the database does not tell them, they are no number. */
@Component
class HealthMetrics implements MeterBinder {
    private final HealthStore store;

    HealthMetrics(HealthStore store) {
        this.store = store;
    }

    @Override
    public void bindTo(MeterRegistry registry) {
        gauge(registry, "schublade.accounts", "Accounts", HealthStore.Health::accounts);
        gauge(
                registry,
                "schublade.accounts.trouble",
                "Accounts whose mail is not fetched",
                HealthStore.Health::troubled);
        gauge(
                registry,
                "schublade.orders",
                "Changes that have not reached their mail servers",
                HealthStore.Health::orders);
        gauge(
                registry,
                "schublade.orders.oldest",
                "Seconds the first of them has waited",
                HealthStore.Health::oldestOrder);
        gauge(
                registry,
                "schublade.index.waiting",
                "Messages not found by their words yet",
                HealthStore.Health::toIndex);
    }

    private void gauge(
            MeterRegistry registry, String name, String description, ToDoubleFunction<HealthStore.Health> figure) {
        Gauge.builder(name, () -> value(figure)).description(description).register(registry);
    }

    private double value(ToDoubleFunction<HealthStore.Health> figure) {
        try {
            return figure.applyAsDouble(store.health());
        } catch (DataAccessException e) {
            return Double.NaN;
        }
    }
}
