package app.schublade.core.message;

import app.schublade.core.problem.InputProblem;
import java.util.EnumSet;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;

/**
 * Whom the user sets apart. A value is an address, or a domain for everybody there; in lower case.
 *
 * @param groups the names of groups by value
 */
public record People(Set<String> key, Map<String, Set<String>> groups) {
    public static final People NOBODY = new People(Set.of(), Map.of());

    private static final Pattern VALUE = Pattern.compile("([^@\\s,;<>]+@)?[^@\\s,;<>.]+(\\.[^@\\s,;<>.]+)+");

    public People {
        key = Set.copyOf(key);
        groups = Map.copyOf(groups);
    }

    /**
     * Reads what a person typed.
     *
     * @throws InputProblem with a sentence for the user if it is neither an address nor a domain
     */
    public static String value(String typed) {
        String value = Address.key(typed.strip());
        String bare = value.startsWith("@") ? value.substring(1) : value;
        if (!VALUE.matcher(bare).matches()) {
            throw new InputProblem("“%s” is neither an address nor a domain; write anna@wharf.example or wharf.example."
                    .formatted(typed.strip()));
        }
        return bare;
    }

    public boolean isKey(Address address) {
        return key.contains(address.key()) || key.contains(address.domain());
    }

    public Set<String> groupsOf(Address address) {
        Set<String> names = new TreeSet<>(groups.getOrDefault(address.key(), Set.of()));
        names.addAll(groups.getOrDefault(address.domain(), Set.of()));
        return names;
    }

    /** A message's traits, with that of coming from a key person if it does. */
    public Set<Trait> with(Set<Trait> traits, Address sender) {
        if (!isKey(sender)) {
            return traits;
        }
        Set<Trait> more = EnumSet.of(Trait.KEY_PERSON);
        more.addAll(traits);
        return more;
    }
}
