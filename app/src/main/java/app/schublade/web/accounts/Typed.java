package app.schublade.web.accounts;

import app.schublade.core.place.Tone;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Reads what was typed into fields; says what is missing or wrong. */
final class Typed {
    private Typed() {}

    /** @throws IllegalArgumentException if nothing was typed */
    static String needed(@Nullable String value, String what) {
        if (value == null || value.isBlank()) {
            throw new IllegalArgumentException("Please enter " + what + ".");
        }
        return value.strip();
    }

    /** What was typed, without spaces around it; null if nothing was. */
    static @Nullable String filled(@Nullable String value) {
        return value == null || value.isBlank() ? null : value.strip();
    }

    static String address(@Nullable String value) {
        String address = needed(value, "the address").toLowerCase(Locale.ROOT);
        if (!address.matches("[^@\\s]+@[^@\\s]+")) {
            throw new IllegalArgumentException("“%s” is not an address; it needs one @.".formatted(address));
        }
        return address;
    }

    static String code(@Nullable String value) {
        String code = needed(value, "a two-letter code").toUpperCase(Locale.ROOT);
        if (!code.matches("[A-Z0-9]{2}")) {
            throw new IllegalArgumentException("The code is two letters or digits, not “%s”.".formatted(code));
        }
        return code;
    }

    static Tone tone(@Nullable String value) {
        try {
            return Tone.valueOf(needed(value, "a colour"));
        } catch (IllegalArgumentException e) {
            throw new IllegalArgumentException("There is no colour “%s”.".formatted(value), e);
        }
    }

    /** A day as the browser writes it; null if none was entered. */
    static @Nullable LocalDate day(@Nullable String value) {
        try {
            return value == null || value.isBlank() ? null : LocalDate.parse(value.strip());
        } catch (DateTimeParseException e) {
            throw new IllegalArgumentException("“%s” is not a day; it is written 2024-11-30.".formatted(value), e);
        }
    }
}
