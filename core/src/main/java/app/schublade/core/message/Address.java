package app.schublade.core.message;

import java.util.Locale;

/**
 * One mailbox of a header such as {@code From} or {@code To} (RFC 5322, section 3.4).
 *
 * @param name the display name, empty where there is none
 * @param email the address as it was written, empty where the header had none
 */
public record Address(String name, String email) {
    /** Stands in for a header that is missing or cannot be read. */
    public static final Address UNKNOWN = new Address("", "");

    /** The address in lower case: what addresses are compared by. */
    public String key() {
        return email.toLowerCase(Locale.ROOT);
    }

    /** What follows the last {@code @}, in lower case; empty where there is none. */
    public String domain() {
        int at = email.lastIndexOf('@');
        return at < 0 ? "" : key().substring(at + 1);
    }

    /** The name, or the address where there is no name. */
    public String shown() {
        if (!name.isBlank()) {
            return name;
        }
        return email.isBlank() ? "Unknown sender" : email;
    }
}
