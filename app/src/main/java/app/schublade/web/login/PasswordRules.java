package app.schublade.web.login;

import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/** What a password must be. */
final class PasswordRules {
    private static final int MIN = 10;
    /** bcrypt reads no further. */
    private static final int MAX_BYTES = 72;

    private PasswordRules() {}

    /** A sentence, or null if it will do. */
    static @Nullable String problem(String password) {
        if (password.length() < MIN) {
            return "The password needs at least %d characters.".formatted(MIN);
        }
        if (password.getBytes(StandardCharsets.UTF_8).length > MAX_BYTES) {
            return "The password is too long; %d bytes are the limit.".formatted(MAX_BYTES);
        }
        return password.indexOf('\0') < 0 ? null : "The password has a character in it that cannot be typed.";
    }
}
