package app.schublade.core.message;

import java.net.IDN;
import java.util.Locale;

/**
 * One mailbox of a header such as {@code From} or {@code To} (RFC 5322, section 3.4).
 *
 * @param name the display name, empty where there is none
 * @param email the address as it was written, empty where the header had none
 */
public record Address(String name, String email) {
    /** RFC 1035, section 2.3.4. */
    private static final int MAX_DOMAIN = 255;

    /** Stands in for a header that is missing or cannot be read. */
    public static final Address UNKNOWN = new Address("", "");

    /** What addresses are compared by: see {@link #key(String)}. */
    public String key() {
        return key(email);
    }

    /**
     * An address or a domain as it is compared: in lower case, and an international domain in its ASCII form (RFC 5890), so
     * that both ways to write it are one.
     */
    public static String key(String written) {
        String lower = written.toLowerCase(Locale.ROOT);
        int at = lower.lastIndexOf('@');
        String domain = lower.substring(at + 1);
        if (domain.chars().allMatch(sign -> sign < 0x80) || domain.length() > MAX_DOMAIN) {
            return lower;
        }
        try {
            return lower.substring(0, at + 1)
                    + IDN.toASCII(domain, IDN.ALLOW_UNASSIGNED).toLowerCase(Locale.ROOT);
        } catch (IllegalArgumentException e) {
            return lower; // No domain, but something that somebody wrote in its place.
        }
    }

    /** What follows the last {@code @}, as it is compared; empty where there is none. */
    public String domain() {
        String key = key();
        int at = key.lastIndexOf('@');
        return at < 0 ? "" : key.substring(at + 1);
    }

    /** The name, or the address where there is no name. */
    public String shown() {
        if (!name.isBlank()) {
            return name;
        }
        return email.isBlank() ? "Unknown sender" : email;
    }
}
