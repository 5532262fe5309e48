package app.schublade.standin.world;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/** The text files of the demo world and the little that all of them have in common. */
final class Resources {
    private Resources() {}

    static String text(String name) {
        try (InputStream in = Resources.class.getResourceAsStream(name)) {
            if (in == null) {
                throw new IllegalStateException(name + " is missing from the jar");
            }
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** The blocks that begin with this mark at the start of a line, without the mark and what stands before the first. */
    static List<String> blocks(String text, String mark) {
        return Arrays.stream(Pattern.compile("(?m)^" + Pattern.quote(mark)).split(text, -1))
                .skip(1)
                .toList();
    }

    /** Reads {@code " | name value | name"}. */
    static Map<String, String> options(String text) {
        Map<String, String> options = new LinkedHashMap<>();
        for (String option : text.split(" \\| ", -1)) {
            String[] words = option.strip().split(" ", 2);
            if (!words[0].isEmpty()) {
                options.put(words[0], words.length > 1 ? words[1].strip() : "");
            }
        }
        return options;
    }
}
