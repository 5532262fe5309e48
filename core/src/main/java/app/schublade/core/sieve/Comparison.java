package app.schublade.core.sieve;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** The arguments of a test that compares something (RFC 5228, section 2.7). */
final class Comparison {
    private static final Set<String> MATCHES = Set.of("is", "contains", "matches", "regex", "value", "count");
    private static final Set<String> PARTS = Set.of("all", "domain", "localpart", "user", "detail");

    final Test test;
    final List<Argument.Strings> texts = new ArrayList<>();
    String match = "is";
    String part = "all";
    String relation = "";
    private final List<String> others = new ArrayList<>();

    Comparison(Test test) {
        this.test = test;
        List<Argument> arguments = test.arguments();
        for (int i = 0; i < arguments.size(); i++) {
            if (arguments.get(i) instanceof Argument.Strings strings) {
                texts.add(strings);
            } else if (arguments.get(i) instanceof Argument.Tag tag) {
                boolean takesValue =
                        Set.of("value", "count", "comparator", "zone").contains(tag.name());
                String value = takesValue
                                && i + 1 < arguments.size()
                                && arguments.get(i + 1) instanceof Argument.Strings strings
                                && !strings.values().isEmpty()
                        ? strings.values().get(0)
                        : "";
                i += takesValue ? 1 : 0;
                take(tag.name(), value);
            }
        }
    }

    private void take(String tag, String value) {
        if (MATCHES.contains(tag)) {
            match = tag;
            relation = value;
        } else if (PARTS.contains(tag)) {
            part = tag;
        } else {
            others.add(tag.equals("comparator") ? value : tag);
        }
    }

    /** The names of header fields, in lower case. */
    List<String> fields() {
        return texts.isEmpty()
                ? List.of()
                : texts.get(0).values().stream()
                        .map(name -> name.toLowerCase(Locale.ROOT))
                        .toList();
    }

    List<String> values() {
        return texts.isEmpty() ? List.of() : texts.get(texts.size() - 1).values();
    }

    boolean has(String tag) {
        return others.contains(tag);
    }

    /** @throws Unsayable if it is told to compare in a way that is not known here */
    void refuseAllBut(Set<String> tags) throws Unsayable {
        for (String other : others) {
            if (other.equals("i;octet")) {
                throw new Unsayable("capital and small letters are the same here; “i;octet” tells them apart");
            }
            if (!tags.contains(other) && !other.equals("i;ascii-casemap") && !other.equals("i;unicode-casemap")) {
                throw new Unsayable("“:%s” has no counterpart here".formatted(other));
            }
        }
        if (values().stream().anyMatch(String::isEmpty)) {
            throw new Unsayable("nothing is compared with an empty text here");
        }
    }
}
