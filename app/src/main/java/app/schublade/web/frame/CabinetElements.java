package app.schublade.web.frame;

import app.schublade.core.place.PathTree;
import app.schublade.store.place.Places;
import java.util.Map;
import java.util.Objects;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.thymeleaf.dialect.IDialect;

/** What of the cabinet code writes. */
@Configuration
class CabinetElements {
    @Bean
    @SuppressWarnings("unchecked") // The template says what it is given.
    IDialect cabinetDialect() {
        return new WrittenElements(
                "cabinet",
                Map.of(
                        "drawers",
                        values -> CabinetWriter.drawers(
                                (Frame.View) Objects.requireNonNull(values.apply("view")),
                                (PathTree<Places.Folder>) Objects.requireNonNull(values.apply("tree"))),
                        "tabs",
                        values -> CabinetWriter.tabs(
                                (Frame.View) Objects.requireNonNull(values.apply("view")),
                                (PathTree<Places.Label>) Objects.requireNonNull(values.apply("tree")))));
    }
}
