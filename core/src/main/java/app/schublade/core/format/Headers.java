package app.schublade.core.format;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** A message's header fields, decoded when they are asked for. Of very long ones the beginning is known. */
public final class Headers {
    public static final Headers NONE = new Headers(List.of());

    private static final int MAX_VALUE = 2000;

    private final List<HeaderField> fields;

    Headers(List<HeaderField> fields) {
        this.fields = List.copyOf(fields);
    }

    /** The values of a field, whatever case its name is written in. */
    public List<String> values(String name) {
        String key = name.toLowerCase(Locale.ROOT);
        return fields.stream()
                .filter(field -> field.name().equals(key))
                .map(Headers::value)
                .toList();
    }

    /** The values of all fields by their names in lower case. */
    public Map<String, List<String>> all() {
        Map<String, List<String>> all = new HashMap<>();
        fields.forEach(field ->
                all.computeIfAbsent(field.name(), name -> new ArrayList<>(1)).add(value(field)));
        return all;
    }

    private static String value(HeaderField field) {
        return MimeReader.limit(field.text(), MAX_VALUE);
    }
}
