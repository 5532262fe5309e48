package app.schublade.core.message;

import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Whose mail the user does not want to see.
 *
 * @param values addresses, and domains for everybody there; in lower case, see {@link People#value}
 */
public record BlockedSenders(Set<String> values) {
    public static final BlockedSenders NOBODY = new BlockedSenders(Set.of());

    /** Longer ones are no names of domains (RFC 1035, section 2.3.4), and would take long to walk up. */
    private static final int LONGEST = 255;

    public BlockedSenders {
        values = Set.copyOf(values);
    }

    /**
     * What of the values a sender is blocked by, or null: the address, its domain, or one above it. A key person is blocked by
     * the address alone, not with everybody else at the domain.
     */
    public @Nullable String by(Address sender, boolean keyPerson) {
        if (values.contains(sender.key())) {
            return sender.key();
        }
        String domain = sender.domain();
        boolean asked = !keyPerson && !values.isEmpty() && domain.length() <= LONGEST;
        for (int from = 0; asked && from < domain.length(); ) {
            String above = domain.substring(from);
            if (values.contains(above)) {
                return above;
            }
            int dot = domain.indexOf('.', from);
            from = dot < 0 ? domain.length() : dot + 1;
        }
        return null;
    }
}
