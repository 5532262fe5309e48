package app.schublade.web.frame;

import app.schublade.store.base.Database;
import app.schublade.store.work.HealthStore;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/**
 * How Schublade is doing, for a monitor: 200 if it works, 503 if the database is away. Figures only, for it is answered
 * without a login.
 */
@RestController
class HealthController {
    private static final Logger LOG = LoggerFactory.getLogger(HealthController.class);

    private final HealthStore store;

    HealthController(HealthStore store) {
        this.store = store;
    }

    @GetMapping("/health")
    ResponseEntity<String> health() {
        try {
            HealthStore.Health health = store.health();
            return answer(HttpStatus.OK, """
                    {"database": "up", "accounts": %d, "accountsInTrouble": %d, "ordersWaiting": %d, "oldestOrderSeconds": %d, "messagesToIndex": %d}
                    """.formatted(
                    health.accounts(), health.troubled(), health.orders(), health.oldestOrder(), health.toIndex()));
        } catch (DataAccessException e) {
            LOG.error("The database does not tell how it is", e);
            return answer(
                    HttpStatus.SERVICE_UNAVAILABLE,
                    "{\"database\": \"%s\"}%n".formatted(Database.isAway(e) ? "away" : "failing"));
        }
    }

    private static ResponseEntity<String> answer(HttpStatus status, String document) {
        return ResponseEntity.status(status)
                .contentType(MediaType.APPLICATION_JSON)
                .cacheControl(CacheControl.noStore())
                .body(document);
    }
}
