package app.schublade.store;

import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Documents in columns of the database. */
final class Json {
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    private Json() {}

    static String write(Object value) {
        return MAPPER.writeValueAsString(value);
    }

    static <T> T read(String document, TypeReference<T> type) {
        return MAPPER.readValue(document, type);
    }
}
