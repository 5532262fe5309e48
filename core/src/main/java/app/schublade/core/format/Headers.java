package app.schublade.core.format;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.apache.james.mime4j.stream.Field;

/**
 * A message's header fields, decoded when they are asked for. Of very many only the first are known, of very long ones the
 * beginning.
 */
public final class Headers {
    public static final Headers NONE = new Headers(List.of());

    private static final int MAX_FIELDS = 200;
    private static final int MAX_VALUE = 2000;

    private final List<Field> fields;

    Headers(List<Field> fields) {
        this.fields = fields.subList(0, Math.min(fields.size(), MAX_FIELDS));
    }

    /** The values of a field, whatever case its name is written in. */
    public List<String> values(String name) {
        return fields.stream()
                .filter(field -> field.getName().equalsIgnoreCase(name))
                .map(Headers::value)
                .toList();
    }

    /** The values of all fields by their names in lower case. */
    public Map<String, List<String>> all() {
        Map<String, List<String>> all = new HashMap<>();
        fields.forEach(
                field -> all.computeIfAbsent(field.getName().toLowerCase(Locale.ROOT), name -> new ArrayList<>(1))
                        .add(value(field)));
        return all;
    }

    private static String value(Field field) {
        return MimeReader.limit(Charsets.decodeWords(MimeReader.raw(field)), MAX_VALUE);
    }
}
