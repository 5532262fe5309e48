package app.schublade.core.sieve;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * A test of a script (RFC 5228, section 5).
 *
 * @param name in lower case
 * @param tests those inside of {@code allof}, {@code anyof} and {@code not}
 */
record Test(String name, List<Argument> arguments, List<Test> tests) {
    static final Test TRUE = new Test("true", List.of(), List.of());
    static final Test FALSE = new Test("false", List.of(), List.of());

    /** Which extension a test or a tag of it belongs to. */
    private static final Map<String, String> EXTENSIONS = Map.ofEntries(
            Map.entry("body", "body"),
            Map.entry("currentdate", "date"),
            Map.entry("date", "date"),
            Map.entry("envelope", "envelope"),
            Map.entry("string", "variables"),
            Map.entry(":regex", "regex"),
            Map.entry(":value", "relational"),
            Map.entry(":count", "relational"),
            Map.entry(":detail", "subaddress"),
            Map.entry(":user", "subaddress"),
            Map.entry(":mime", "mime"));

    Test {
        arguments = List.copyOf(arguments);
        tests = List.copyOf(tests);
    }

    static Test of(String name, Argument... arguments) {
        return new Test(name, List.of(arguments), List.of());
    }

    static Test not(Test test) {
        return new Test("not", List.of(), List.of(test));
    }

    static Test all(List<Test> tests) {
        return several("allof", tests, TRUE);
    }

    static Test any(List<Test> tests) {
        return several("anyof", tests, FALSE);
    }

    private static Test several(String name, List<Test> tests, Test none) {
        return tests.isEmpty() ? none : tests.size() == 1 ? tests.get(0) : new Test(name, List.of(), tests);
    }

    boolean is(String other) {
        return name.equals(other);
    }

    /** The extensions (RFC 5228, section 2.10.5) that this test and those in it need. */
    Set<String> extensions() {
        Set<String> needed = new TreeSet<>();
        Stream.concat(
                        Stream.of(name),
                        arguments.stream()
                                .filter(Argument.Tag.class::isInstance)
                                .map(tag -> ":" + ((Argument.Tag) tag).name()))
                .filter(EXTENSIONS::containsKey)
                .forEach(part -> needed.add(EXTENSIONS.get(part)));
        if (arguments.contains(Argument.text("i;ascii-numeric"))) {
            needed.add("comparator-i;ascii-numeric");
        }
        tests.forEach(test -> needed.addAll(test.extensions()));
        return needed;
    }
}
