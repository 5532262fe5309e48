package app.schublade.core.sieve;

import app.schublade.core.filing.Attached;
import app.schublade.core.filing.Condition;
import app.schublade.core.filing.FromList;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Text;
import app.schublade.core.filing.Text.Match;
import app.schublade.core.filing.Text.Where;
import app.schublade.core.filing.Traits;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Knows the tests again that {@link TestWriter} writes for one condition, though they look like several. */
final class Recogniser {
    private final TestWriter writer;
    private final TraitTests traits;

    Recogniser(SieveWorld world) {
        writer = new TestWriter(world);
        traits = new TraitTests(world.own());
    }

    Optional<Condition> condition(Test test) {
        if (test.equals(Test.TRUE) || test.equals(Test.FALSE)) {
            return Optional.empty();
        }
        Optional<Condition> trait = traits.trait(test).map(one -> new Traits(List.of(one)));
        return trait.or(() -> words(test))
                .or(() -> Stream.of(lists(test), recipients(test), names(test), kinds(test))
                        .filter(one -> isWrittenAs(one, test))
                        .findFirst());
    }

    private boolean isWrittenAs(Condition condition, Test test) {
        try {
            return writer.test(condition).equals(test);
        } catch (Unsayable e) {
            return false;
        }
    }

    private static Stream<Comparison> parts(Test test) {
        return (test.is("anyof") ? test.tests().stream() : Stream.of(test)).map(Comparison::new);
    }

    private static Condition lists(Test test) {
        return new FromList(new Comparison(test)
                .values().stream()
                        .filter(value -> !value.startsWith("*"))
                        .map(Recogniser::plain)
                        .toList());
    }

    private static Condition recipients(Test test) {
        return new SentTo(parts(test)
                .filter(part -> part.test.is("address"))
                .flatMap(part -> part.part.equals("detail")
                        ? part.values().stream().map(tag -> "+" + tag)
                        : part.values().stream()
                                .filter(pattern -> !pattern.contains("+*@"))
                                .map(Recogniser::plain))
                .toList());
    }

    private static Condition names(Test test) {
        return new Attached(
                Attached.By.NAME,
                parts(test)
                        .filter(part -> part.fields().equals(List.of("filename")))
                        .flatMap(part -> part.values().stream())
                        .map(Recogniser::plain)
                        .toList());
    }

    private static Condition kinds(Test test) {
        return new Attached(
                Attached.By.KIND,
                parts(test)
                        .filter(part -> part.has("type") || part.has("contenttype"))
                        .flatMap(part -> part.values().stream())
                        .toList());
    }

    private static String plain(String pattern) {
        return pattern.replace("\\", "");
    }

    /** Several words, each by an expression of its own, in one place. */
    private static Optional<Condition> words(Test test) {
        if (!test.is("allof")) {
            return Optional.empty();
        }
        List<String> words = new ArrayList<>();
        for (Test part : test.tests()) {
            Test first = test.tests().get(0);
            boolean alike = part.name().equals(first.name()) && part.arguments().size() == 3;
            String word = alike && part.arguments().get(2) instanceof Argument.Strings strings
                    ? single(strings.values())
                    : null;
            if (word == null
                    || !part.arguments().subList(0, 2).equals(first.arguments().subList(0, 2))) {
                return Optional.empty();
            }
            words.add(word);
        }
        return text(test.tests().get(0), Match.WORDS, List.of(String.join(" ", words)));
    }

    private static @Nullable String single(List<String> expressions) {
        return expressions.size() == 1 ? WordPattern.read(expressions.get(0)) : null;
    }

    private static Optional<Condition> text(Test test, Match match, List<String> values) {
        if (test.is("body")) {
            return Optional.of(new Text(Where.BODY, "", match, values));
        }
        List<String> fields = new Comparison(test).fields();
        return fields.size() == 1 ? Optional.of(TestReader.field(fields.get(0), match, values)) : Optional.empty();
    }
}
