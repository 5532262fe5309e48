package app.schublade.web.frame;

import app.schublade.core.problem.InputProblem;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Reads what a page sends in place of one of a few names, or of a small number. */
public final class Choice {
    private static final int MAX_DIGITS = 9;
    private static final int MAX_REPEATED = 40;

    private Choice() {}

    /** @throws InputProblem if there is no such name */
    public static <E extends Enum<E>> E of(Class<E> type, @Nullable String name) {
        String wanted = name == null ? "" : name.strip().toUpperCase(Locale.ROOT);
        for (E one : type.getEnumConstants()) {
            if (one.name().equals(wanted)) {
                return one;
            }
        }
        throw new InputProblem("“%s” cannot be chosen here. Please load the page anew.".formatted(shown(wanted)));
    }

    /** @throws InputProblem if it is no number from 0 up to nine digits */
    public static int number(@Nullable String digits) {
        String text = digits == null ? "" : digits.strip();
        if (text.isEmpty()
                || text.length() > MAX_DIGITS
                || !text.chars().allMatch(sign -> sign >= '0' && sign <= '9')) {
            throw new InputProblem("“%s” is not a number that is possible here.".formatted(shown(text)));
        }
        return Integer.parseInt(text);
    }

    private static String shown(String text) {
        return text.length() <= MAX_REPEATED ? text : text.substring(0, MAX_REPEATED) + "…";
    }
}
