package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Generated rules and messages: the compiled book must decide exactly as trying every rule does, reasons and all. */
class CompiledBookTest {
    /** More for a long run: {@code -Dfiling.books=500} are 100,000 cases. */
    private static final int BOOKS = Integer.getInteger("filing.books", 180);

    private static final int MESSAGES = 200;

    @Test
    void decidesAsTryingEveryRuleDoes() {
        int hits = 0;
        for (int seed = 0; seed < BOOKS; seed++) {
            RandomMail random = new RandomMail(new Random(seed));
            List<Rule> rules =
                    IntStream.range(0, 1 + seed % 90).mapToObj(random::rule).toList();
            RuleBook book = new RuleBook(rules);
            for (int i = 0; i < MESSAGES; i++) {
                var message = random.message();
                State state = random.state();
                Verdict compiled = book.file(message, state);
                assertThat(compiled)
                        .as("seed %d, message %d: %s", seed, i, message)
                        .isEqualTo(book.fileOneByOne(message, state));
                hits += compiled.hits().size();
            }
        }
        assertThat(hits).as("the cases are worth comparing").isGreaterThan(BOOKS * MESSAGES / 2);
    }

    @Test
    void theIndexSparesMostRules() {
        RandomMail random = new RandomMail(new Random(3));
        List<Rule> rules = IntStream.range(0, 2000)
                .mapToObj(i -> new Rule(
                        i,
                        "Rule",
                        true,
                        List.of(new Correspondent(Correspondent.Role.SENDER, List.of("n%d@quay.example".formatted(i)))),
                        List.of(),
                        List.of(),
                        false))
                .toList();
        long[] candidates = new RuleIndex(rules).candidates(new RuleInput(random.message(), random.state()));
        assertThat(java.util.BitSet.valueOf(candidates).cardinality()).isLessThan(2);
    }
}
