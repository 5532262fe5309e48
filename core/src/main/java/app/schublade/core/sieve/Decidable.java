package app.schublade.core.sieve;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/**
 * What a script can tell of a condition: servers read some mail otherwise than it is read here, and know less.
 *
 * @param surely holds only where the condition does
 * @param possibly holds wherever the condition does
 * @param doubts of which mail a server cannot tell: “mail with …”; empty if the two tests are one
 */
record Decidable(Test surely, Test possibly, Set<String> doubts) {
    Decidable {
        doubts = Set.copyOf(doubts);
    }

    /** What a server tells exactly. */
    static Decidable exactly(Test test) {
        return new Decidable(test, test, Set.of());
    }

    /** What a server knows nothing of. */
    static Decidable unknown(String doubt) {
        return new Decidable(Test.FALSE, Test.TRUE, Set.of(doubt));
    }

    /** What a test tells exactly but of some mail. */
    static Decidable unless(Test unclear, Test test, String doubt) {
        if (test.equals(Test.FALSE)) {
            return new Decidable(Test.FALSE, unclear, Set.of(doubt));
        }
        return new Decidable(both(List.of(not(unclear), test)), either(List.of(unclear, test)), Set.of(doubt));
    }

    Decidable not() {
        return new Decidable(not(possibly), not(surely), doubts);
    }

    static Decidable all(List<Decidable> parts) {
        return new Decidable(
                both(parts.stream().map(Decidable::surely).toList()),
                both(parts.stream().map(Decidable::possibly).toList()),
                doubts(parts));
    }

    static Decidable any(List<Decidable> parts) {
        return new Decidable(
                either(parts.stream().map(Decidable::surely).toList()),
                either(parts.stream().map(Decidable::possibly).toList()),
                doubts(parts));
    }

    private static Set<String> doubts(List<Decidable> parts) {
        Set<String> doubts = new TreeSet<>();
        parts.forEach(part -> doubts.addAll(part.doubts));
        return doubts;
    }

    static Test not(Test test) {
        if (test.equals(Test.TRUE) || test.equals(Test.FALSE)) {
            return test.equals(Test.TRUE) ? Test.FALSE : Test.TRUE;
        }
        return test.is("not") ? test.tests().get(0) : Test.not(test);
    }

    static Test both(List<Test> tests) {
        List<Test> kept = without(tests, Test.TRUE);
        return kept.contains(Test.FALSE) ? Test.FALSE : Test.all(kept);
    }

    static Test either(List<Test> tests) {
        List<Test> kept = without(tests, Test.FALSE);
        return kept.contains(Test.TRUE) ? Test.TRUE : Test.any(kept);
    }

    private static List<Test> without(List<Test> tests, Test neutral) {
        List<Test> kept = new ArrayList<>(tests);
        kept.removeIf(neutral::equals);
        return kept;
    }
}
