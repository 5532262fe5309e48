package app.schublade.web.desk;

import app.schublade.web.frame.WrittenElements;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.thymeleaf.dialect.IDialect;

/** What of a list code writes. */
@Configuration
class RowElements {
    @Bean
    @SuppressWarnings("unchecked") // The template says what it is given.
    IDialect listDialect() {
        return new WrittenElements(
                "list",
                Map.of(
                        "rows",
                        values -> RowWriter.write(
                                (List<RowView>) Objects.requireNonNull(values.apply("rows")),
                                (MessageList) Objects.requireNonNull(values.apply("listing")),
                                (String) values.apply("more"))));
    }
}
