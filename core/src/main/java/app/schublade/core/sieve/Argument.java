package app.schublade.core.sieve;

import java.util.List;

/** What follows the name of a command or a test (RFC 5228, section 2.6). */
sealed interface Argument {

    /** A string, or a list of them: the same wherever one is allowed. */
    record Strings(List<String> values) implements Argument {
        public Strings {
            values = List.copyOf(values);
        }
    }

    record Count(long value) implements Argument {}

    /** {@code :contains}; without its colon, in lower case. */
    record Tag(String name) implements Argument {}

    static Argument tag(String name) {
        return new Tag(name);
    }

    static Argument text(String... values) {
        return new Strings(List.of(values));
    }

    static Argument text(List<String> values) {
        return new Strings(values);
    }
}
