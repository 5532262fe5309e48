package app.schublade.store.base;

import tools.jackson.core.JsonGenerator;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;
import tools.jackson.databind.ser.std.StdSerializer;

/** Documents in columns of the database. */
public final class Json {
    private static final JsonMapper MAPPER = JsonMapper.builder()
            .addModule(new SimpleModule().addSerializer(String.class, new CleanText()))
            .build();

    private Json() {}

    /** A document is refused for an escaped NUL in it as text is for a plain one. */
    private static final class CleanText extends StdSerializer<String> {
        CleanText() {
            super(String.class);
        }

        @Override
        public void serialize(String text, JsonGenerator out, SerializationContext context) {
            out.writeString(TextGate.clean(text));
        }
    }

    public static String write(Object value) {
        return MAPPER.writeValueAsString(value);
    }

    public static <T> T read(String document, TypeReference<T> type) {
        return MAPPER.readValue(document, type);
    }
}
