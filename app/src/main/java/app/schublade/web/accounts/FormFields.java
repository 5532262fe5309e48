package app.schublade.web.accounts;

import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import app.schublade.web.frame.Choice;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Reads what was typed into fields; says what is missing or wrong. */
final class FormFields {
    private FormFields() {}

    /** @throws InputProblem if nothing was typed */
    static String needed(@Nullable String value, String what) {
        if (value == null || value.isBlank()) {
            throw new InputProblem("Please enter " + what + ".");
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
            throw new InputProblem("“%s” is not an address; it needs one @.".formatted(address));
        }
        return address;
    }

    static String code(@Nullable String value) {
        String code = needed(value, "a two-letter code").toUpperCase(Locale.ROOT);
        if (!code.matches("[A-Z0-9]{2}")) {
            throw new InputProblem("The code is two letters or digits, not “%s”.".formatted(code));
        }
        return code;
    }

    static Tone tone(@Nullable String value) {
        return Choice.of(Tone.class, needed(value, "a colour"));
    }

    /** A day as the browser writes it; null if none was entered. */
    static @Nullable LocalDate day(@Nullable String value) {
        try {
            return value == null || value.isBlank() ? null : LocalDate.parse(value.strip());
        } catch (DateTimeParseException e) {
            throw new InputProblem("“%s” is not a day; it is written 2024-11-30.".formatted(value), e);
        }
    }
}
