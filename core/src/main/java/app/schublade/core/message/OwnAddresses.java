package app.schublade.core.message;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The addresses of one account: the main one and its aliases, in lower case.
 *
 * <p>A plus-address that is not itself an alias counts as the address before the plus (RFC 5233):
 * mail to {@code tilda+boats@...} was sent to {@code tilda@...}.
 */
public record OwnAddresses(String main, Set<String> aliases) {
    public OwnAddresses {
        main = main.toLowerCase(Locale.ROOT);
        Set<String> folded = new LinkedHashSet<>();
        aliases.forEach(alias -> folded.add(alias.toLowerCase(Locale.ROOT)));
        aliases = Set.copyOf(folded);
    }

    /** Which of the recipients are this account's own, in the order given, each once. */
    public List<String> among(Collection<Address> recipients) {
        Set<String> own = new LinkedHashSet<>();
        for (Address recipient : recipients) {
            String known = recognise(recipient.key());
            if (known != null) {
                own.add(known);
            }
        }
        return new ArrayList<>(own);
    }

    /** The first alias among addresses that {@link #among} returned; null if only the main one was used. */
    public @Nullable String aliasIn(List<String> sentTo) {
        for (String address : sentTo) {
            if (!address.equals(main)) {
                return address;
            }
        }
        return null;
    }

    private @Nullable String recognise(String address) {
        if (address.equals(main) || aliases.contains(address)) {
            return address;
        }
        int plus = address.indexOf('+');
        int at = address.lastIndexOf('@');
        return plus > 0 && plus < at ? recognise(address.substring(0, plus) + address.substring(at)) : null;
    }
}
