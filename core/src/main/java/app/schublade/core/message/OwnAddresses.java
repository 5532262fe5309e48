package app.schublade.core.message;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The addresses of one account: the main one and its aliases, in lower case. An alias with {@code *} is a pattern: all
 * addresses that it fits are aliases.
 *
 * <p>A plus-address that is not itself an alias counts as the address before the plus (RFC 5233):
 * mail to {@code tilda+boats@...} was sent to {@code tilda@...}.
 */
public record OwnAddresses(String main, Set<String> aliases) {
    private static final int MAX_CANDIDATES = 5;
    /** RFC 5321, section 4.5.3.1.3. */
    private static final int MAX_LENGTH = 254;

    public OwnAddresses {
        main = Address.key(main);
        Set<String> folded = new LinkedHashSet<>();
        aliases.forEach(alias -> folded.add(Address.key(alias)));
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

    /**
     * Addresses that may be aliases of this account that nobody has told of: those that the server delivered to, and
     * those it was sent to in a domain of the account's own. Plus-addresses of known ones are among them.
     *
     * @param delivered where the servers say it was delivered (Delivered-To)
     * @param sent To of a message that came by no mailing list
     */
    public List<String> candidates(Collection<Address> delivered, Collection<Address> sent) {
        Set<String> domains = new LinkedHashSet<>();
        domains.add(domain(main));
        aliases.forEach(alias -> domains.add(domain(alias)));
        Set<String> found = new LinkedHashSet<>();
        delivered.forEach(one -> found.add(one.key()));
        sent.stream()
                .map(Address::key)
                .filter(one -> domains.contains(domain(one)))
                .forEach(found::add);
        found.removeIf(one -> one.equals(main)
                || aliases.contains(one)
                || fitsPattern(one)
                || one.indexOf('@') < 1
                || one.length() > MAX_LENGTH);
        return found.stream().limit(MAX_CANDIDATES).toList();
    }

    private static String domain(String address) {
        return address.substring(address.lastIndexOf('@') + 1);
    }

    private @Nullable String recognise(String address) {
        if (address.equals(main) || aliases.contains(address) || fitsPattern(address)) {
            return address;
        }
        int plus = address.indexOf('+');
        int at = address.lastIndexOf('@');
        return plus > 0 && plus < at ? recognise(address.substring(0, plus) + address.substring(at)) : null;
    }

    private boolean fitsPattern(String address) {
        return aliases.stream().anyMatch(alias -> isPattern(alias) && fits(alias, address));
    }

    public static boolean isPattern(String alias) {
        return alias.indexOf('*') >= 0;
    }

    /** Whether addresses can be made that fit a pattern: it says all of them but one piece before the {@code @}. */
    public static boolean makesAddresses(String alias) {
        return alias.indexOf('*') >= 0
                && alias.indexOf('*') == alias.lastIndexOf('*')
                && alias.indexOf('*') < alias.indexOf('@');
    }

    /** Whether an address fits a pattern; each {@code *} stands for any signs but {@code @}. */
    public static boolean fits(String pattern, String address) {
        String[] pieces = Address.key(pattern).split("\\*", -1);
        if (pieces.length == 1) {
            return pieces[0].equals(address);
        }
        if (!address.startsWith(pieces[0])) {
            return false;
        }
        int at = pieces[0].length();
        for (int i = 1; i < pieces.length; i++) {
            // Each piece where it first fits leaves most room for the rest; the last one must end the address.
            int next = i == pieces.length - 1 ? address.length() - pieces[i].length() : address.indexOf(pieces[i], at);
            if (next < at
                    || !address.startsWith(pieces[i], next)
                    || address.substring(at, next).contains("@")) {
                return false;
            }
            at = next + pieces[i].length();
        }
        return true;
    }
}
