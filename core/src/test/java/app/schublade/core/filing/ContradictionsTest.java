package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.message.Trait;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What no message can have is said, and nothing else is. */
class ContradictionsTest {
    private static final LocalDate MONDAY = LocalDate.of(2026, 11, 23);

    private static Condition from(String... values) {
        return Correspondent.sender(values);
    }

    private static Condition is(Trait... traits) {
        return new Traits(List.of(traits));
    }

    private static Condition subject(String value) {
        return new Text(Text.Where.SUBJECT, "", Text.Match.IS, List.of(value));
    }

    private static Condition hours(int from, int to) {
        return ReceivedAt.between(60 * from, 60 * to);
    }

    private static Condition days(@Nullable LocalDate first, @Nullable LocalDate last, DayOfWeek... days) {
        return new ReceivedAt(first, last, Set.of(days), 0, ReceivedAt.DAY);
    }

    private static Condition account(long... ids) {
        return new InAccount(Arrays.stream(ids)
                .mapToObj(id -> new InAccount.Ref(id, "A" + id))
                .toList());
    }

    static Stream<Arguments> pairs() {
        Condition anna = from("anna@wharf.example");
        return Stream.of(
                Arguments.of(anna, from("ben@wharf.example"), true),
                Arguments.of(anna, from("wharf.example"), false),
                Arguments.of(anna, from("quay.example", "*.wharf.example"), false),
                Arguments.of(from("*.wharf.example"), from("east.wharf.example"), false),
                Arguments.of(from("wharf.example"), from("east.wharf.example"), true),
                Arguments.of(
                        new Correspondent(Correspondent.Role.REPLY_TO, List.of("a@x.example")),
                        new Correspondent(Correspondent.Role.REPLY_TO, List.of("b@x.example")),
                        false),
                Arguments.of(new FromList(List.of("a.example")), new FromList(List.of("b.example")), true),
                Arguments.of(
                        new FromList(List.of("a.example")), new FromList(List.of("b.example", "a.example")), false),
                Arguments.of(account(1), account(2, 3), true),
                Arguments.of(account(1, 2), account(2, 3), false),
                Arguments.of(new Sized(false, true, 5000), new Sized(false, false, 5001), true),
                Arguments.of(new Sized(false, true, 5000), new Sized(false, false, 5002), false),
                Arguments.of(new Sized(true, true, 5000), new Sized(false, false, 5000), false),
                Arguments.of(hours(8, 12), hours(12, 8), true),
                Arguments.of(hours(8, 12), hours(22, 9), false),
                Arguments.of(days(MONDAY, MONDAY), days(MONDAY.plusDays(1), null), true),
                Arguments.of(days(null, null, DayOfWeek.MONDAY), days(null, null, DayOfWeek.FRIDAY), true),
                Arguments.of(days(MONDAY, MONDAY.plusDays(3), DayOfWeek.FRIDAY), anna, true),
                Arguments.of(days(MONDAY, MONDAY.plusDays(4), DayOfWeek.FRIDAY), anna, false),
                Arguments.of(days(MONDAY, MONDAY.plusYears(9), DayOfWeek.FRIDAY), anna, false),
                Arguments.of(is(Trait.TO_ME), is(Trait.ONLY_COPIED, Trait.NOT_ADDRESSED), true),
                Arguments.of(is(Trait.TO_ME, Trait.ANSWER), is(Trait.ONLY_COPIED), false),
                Arguments.of(is(Trait.TO_ME_ALONE), is(Trait.TO_ME), false),
                Arguments.of(is(Trait.TO_ME_ALONE), is(Trait.NOT_ADDRESSED), true),
                Arguments.of(is(Trait.NEW_SENDER), is(Trait.KNOWN_SENDER), true),
                Arguments.of(subject("Invoice"), subject("INVOICE"), false),
                Arguments.of(subject("Invoice"), subject("Offer"), true),
                Arguments.of(anna, new Not(from("wharf.example")), true),
                Arguments.of(anna, new Not(from("ben@wharf.example")), false),
                Arguments.of(anna, new Group(false, List.of()), true),
                Arguments.of(anna, new Group(false, List.of(from("a@x.example"), from("b@x.example"))), true),
                Arguments.of(anna, new Group(false, List.of(from("a@x.example"), subject("x"))), false),
                Arguments.of(subject("x"), new Group(true, List.of(anna, from("ben@wharf.example"))), true));
    }

    @ParameterizedTest
    @MethodSource("pairs")
    void pairsThatExcludeEachOtherAreFoundInEitherOrder(Condition one, Condition other, boolean excluded) {
        assertThat(found(List.of(one, other), List.of())).isEqualTo(excluded);
        assertThat(found(List.of(other, one), List.of())).isEqualTo(excluded);
    }

    private static boolean found(List<Condition> when, List<Condition> unless) {
        return Contradictions.in(new Rule(1, "R", true, when, unless, List.of(), false))
                .isPresent();
    }

    @Test
    void anExceptionThatTakesAllAwayIsFound() {
        assertThat(found(List.of(from("anna@wharf.example")), List.of(from("wharf.example"))))
                .isTrue();
        assertThat(found(List.of(from("wharf.example")), List.of(from("anna@wharf.example"))))
                .isFalse();
    }

    @Test
    void itIsSaidInWords() {
        Rule rule = new Rule(
                1,
                "R",
                true,
                List.of(from("anna@wharf.example"), from("ben@wharf.example")),
                List.of(),
                List.of(),
                false);
        assertThat(Contradictions.in(rule)).contains("from anna@wharf.example and from ben@wharf.example");
    }

    /** Of generated rules: whatever is found to be impossible takes none of the generated mail. */
    @Test
    void whatIsFoundTakesNothing() {
        int found = 0;
        for (int seed = 0; seed < 3000; seed++) {
            RandomMail random = new RandomMail(new Random(seed));
            List<Condition> when = new ArrayList<>(random.rule(1).when());
            when.addAll(random.rule(2).when());
            Rule rule = new Rule(
                    1, "R", true, when, random.rule(3).when(), random.rule(4).then(), false);
            if (Contradictions.in(rule).isEmpty()) {
                continue;
            }
            found++;
            RuleBook book = new RuleBook(List.of(rule));
            for (int i = 0; i < 40; i++) {
                assertThat(book.file(random.message(), random.state()).hits())
                        .as(rule.sentence())
                        .isEmpty();
            }
        }
        assertThat(found).as("the cases are worth comparing").isGreaterThan(100);
    }
}
