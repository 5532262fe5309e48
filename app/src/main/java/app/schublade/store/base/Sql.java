package app.schublade.store.base;

import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * A part of a statement with the values of its named parameters.
 *
 * @param parameters by name; no two parts of one statement give one name two values
 */
public record Sql(String text, Map<String, Object> parameters) {
    public Sql {
        parameters = Map.copyOf(parameters);
    }

    public static Sql of(String text) {
        return new Sql(text, Map.of());
    }

    public Sql with(String name, Object value) {
        Map<String, Object> more = new HashMap<>(parameters);
        more.put(name, value);
        return new Sql(text, more);
    }

    /** Both, one behind the other. */
    public Sql plus(Sql other) {
        Map<String, Object> all = new HashMap<>(parameters);
        all.putAll(other.parameters);
        return new Sql(text + other.text, all);
    }

    public Sql plus(String more) {
        return new Sql(text + more, parameters);
    }

    /** Parts in brackets with a word between them. */
    public static Sql joined(Collection<Sql> parts, String word) {
        Map<String, Object> all = new HashMap<>();
        parts.forEach(part -> all.putAll(part.parameters));
        return new Sql(parts.stream().map(Sql::text).collect(Collectors.joining(word, "(", ")")), all);
    }

    public JdbcClient.StatementSpec on(JdbcClient jdbc) {
        return jdbc.sql(text).params(parameters);
    }
}
