package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import app.schublade.core.message.Trait;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RuleBookTest {
    private static final long INBOX = 1;
    private static final FolderRef SCHOOLS = new FolderRef(7, FolderPath.parse("Schools"));
    private static final FolderRef LOANS = new FolderRef(8, FolderPath.parse("Loans/Halden"));
    private static final Effect INTO_SCHOOLS = new Effect.FileInto(SCHOOLS);
    private static final Effect INTO_LOANS = new Effect.FileInto(LOANS);
    private static final Effect NEXT = new Effect.Categorise(new CategoryRef(2, "Next"));
    private static final Effect CONTRACT = new Effect.SetLabel(new LabelRef(5, FolderPath.parse("Contract")), true);

    private static final Message VISIT = Message.from(
                    3, new Address("Westwharf", "Office@Westwharf.example"), "Visit of class 4b: the Pörtrait room")
            .sentTo(List.of("schools@lanternquay.example"), List.of())
            .list("rowers.brackwater.example")
            .build();
    private static final State NEW = new State(INBOX, true, false, null, Set.of());

    private static Rule rule(long id, List<Condition> when, List<Condition> unless, boolean last, Effect... then) {
        return new Rule(id, "Rule " + id, true, when, unless, List.of(then), last);
    }

    private static Condition condition(String kind, String... values) {
        return switch (kind) {
            case "from" -> new Correspondent(Correspondent.Role.SENDER, List.of(values));
            case "subject" -> Text.subject(values);
            case "alias" -> new SentTo(List.of(values));
            case "list" -> new FromList(List.of(values));
            default -> new InAccount(List.of(new InAccount.Ref(Long.parseLong(values[0]), "Museum")));
        };
    }

    @ParameterizedTest
    @CsvSource({
        "from, office@westwharf.example, from office@westwharf.example",
        "from, Westwharf.Example, from westwharf.example",
        "from, @westwharf.example, from @westwharf.example",
        "from, wharf.example, ",
        "from, westwharf, ",
        "subject, class visit, subject has “class visit”",
        "subject, PORTRAIT, subject has “PORTRAIT”",
        "subject, port, ",
        "subject, ..., ",
        "alias, SCHOOLS@lanternquay.example, sent to schools@lanternquay.example",
        "alias, press@lanternquay.example, ",
        "list, rowers.brackwater.example, mailing list rowers.brackwater.example",
        "list, other.example, ",
        "account, 3, account Museum",
        "account, 4, "
    })
    void conditionsHoldForAReason(String kind, String value, String reason) {
        assertThat(condition(kind, value).heldBy(new RuleInput(VISIT, NEW))).isEqualTo(reason);
    }

    @Test
    void severalValuesMeanAnyOfThem() {
        assertThat(condition("from", "a.example", "westwharf.example").heldBy(new RuleInput(VISIT, NEW)))
                .isEqualTo("from westwharf.example");
        assertThat(condition("subject", "port", "visit").heldBy(new RuleInput(VISIT, NEW)))
                .isEqualTo("subject has “visit”");
    }

    @Test
    void allConditionsMustHoldAndNoException() {
        Condition alias = condition("alias", "schools@lanternquay.example");
        Condition other = condition("subject", "invoice");
        Condition visit = condition("subject", "visit");
        RuleBook book = new RuleBook(List.of(
                rule(1, List.of(alias, visit), List.of(other), false, NEXT),
                rule(2, List.of(alias, other), List.of(), false, NEXT),
                rule(3, List.of(alias), List.of(visit), false, NEXT),
                rule(4, List.of(), List.of(), false, NEXT),
                new Rule(5, "off", false, List.of(alias), List.of(), List.of(NEXT), false)));
        assertThat(book.file(VISIT, NEW).hits()).singleElement().satisfies(hit -> {
            assertThat(hit.rule().id()).isEqualTo(1);
            assertThat(hit.reasons()).containsExactly("sent to schools@lanternquay.example", "subject has “visit”");
        });
    }

    @Test
    void theFirstFolderWinsAndAdditionsAddUp() {
        List<Condition> always = List.of(condition("account", "3"));
        Verdict verdict = new RuleBook(List.of(
                        rule(1, always, List.of(), false, CONTRACT),
                        rule(2, always, List.of(), false, INTO_SCHOOLS, NEXT),
                        rule(3, always, List.of(), true, INTO_LOANS, new Effect.MarkRead(true)),
                        rule(4, always, List.of(), false, new Effect.Flag(true))))
                .file(VISIT, NEW);
        State state = NEW;
        for (Verdict.Hit hit : verdict.hits()) {
            state = hit.on(state);
        }
        assertThat(state).isEqualTo(new State(7, false, false, 2L, Set.of(5L)));
        assertThat(verdict.hits()).extracting(Verdict.Hit::number).containsExactly(1, 2, 3);
        assertThat(verdict.of(3).orElseThrow().outranked()).containsExactly(INTO_LOANS);
    }

    @Test
    void everyRuleExplainsItself() {
        Condition school = condition("from", "westwharf.example");
        RuleBook book = new RuleBook(List.of(
                rule(1, List.of(school, condition("subject", "invoice")), List.of(), false, NEXT),
                rule(2, List.of(school), List.of(condition("subject", "visit")), false, NEXT),
                new Rule(3, "off", false, List.of(school), List.of(), List.of(NEXT), false),
                rule(4, List.of(school), List.of(), false, INTO_SCHOOLS),
                rule(5, List.of(school), List.of(), true, INTO_LOANS),
                rule(6, List.of(school), List.of(), false, NEXT),
                rule(7, List.of(), List.of(), false, NEXT)));
        List<Explanation> all = book.explain(VISIT, NEW);
        assertThat(all)
                .extracting(Explanation::says)
                .containsExactly(
                        "does not act: not everything under When holds",
                        "does not act: an exception holds",
                        "is off",
                        "acts",
                        "acts, but an earlier rule has chosen the folder",
                        "is not asked: rule 5 says “no later rules”",
                        "does not act: it has no condition");
        assertThat(all).extracting(Explanation::acts).containsExactly(false, false, false, true, false, false, false);
        assertThat(all.get(0).checks())
                .containsExactly(
                        new Explanation.Check("from westwharf.example", true, false),
                        new Explanation.Check("subject has “invoice”", false, false));
        assertThat(all.get(1).checks().get(1)).isEqualTo(new Explanation.Check("subject has “visit”", true, true));
    }

    @Test
    void rulesReadAsSentences() {
        assertThat(rule(
                                1,
                                List.of(
                                        condition("alias", "loans@x.example"),
                                        condition("from", "a.example", "b.example")),
                                List.of(condition("subject", "newsletter")),
                                true,
                                INTO_LOANS,
                                CONTRACT)
                        .sentence())
                .isEqualTo("sent to loans@x.example, from a.example or b.example; unless subject has “newsletter”"
                        + " → file into Loans / Halden, label Contract, no later rules");
    }

    @Test
    void trialRunCountsWhatWouldHappen() {
        Condition school = condition("from", "westwharf.example");
        Rule earlier = rule(1, List.of(condition("subject", "invoice")), List.of(), false, INTO_LOANS);
        Rule stop = rule(2, List.of(condition("subject", "private")), List.of(), true);
        Rule tried = rule(3, List.of(school), List.of(), false, INTO_SCHOOLS);
        TrialRun trial =
                new TrialRun(new RuleBook(List.of(earlier, stop, tried)), tried, INBOX, LocalDate.of(2026, 11, 25));
        look(trial, "Visit", new State(INBOX, true, false, null, Set.of()));
        look(trial, "Visit", new State(INBOX, false, true, null, Set.of()));
        look(trial, "Visit", new State(99, true, false, null, Set.of()));
        look(trial, "Visit", new State(7, true, false, null, Set.of()));
        look(trial, "Invoice", new State(INBOX, true, false, null, Set.of()));
        look(trial, "Private", new State(INBOX, true, false, null, Set.of()));
        Message other = Message.from(3, new Address("", "a@b.example"), "Visit").build();
        assertThat(trial.look(other, new State(INBOX, true, false, null, Set.of()), false))
                .isEmpty();
        assertThat(trial.figures())
                .isEqualTo(new TrialRun.TrialFigures(7, 6, 3, 2, 1, 1, 2, 2, 1, 0, new TreeMap<>(Map.of(1, 1, 2, 1))));
    }

    private static void look(TrialRun trial, String subject, State state) {
        trial.look(
                Message.from(3, new Address("", "a@westwharf.example"), subject)
                        .traits(Set.of(Trait.KEY_PERSON))
                        .build(),
                state,
                state.folder() != INBOX);
    }

    @Test
    void undoIsTheInverseOfAnyRunOfEffects() {
        Random random = new Random(11);
        for (int i = 0; i < 2000; i++) {
            State before = randomState(random);
            State after = randomState(random);
            assertThat(new Change(before, after).undo(after)).isEqualTo(before);
        }
    }

    @Test
    void undoLeavesWhatWasChangedSince() {
        State before = new State(INBOX, true, false, null, Set.of(1L));
        State after = new State(7, false, false, 2L, Set.of(1L, 5L));
        State now = new State(8, false, true, 2L, Set.of(5L, 6L));
        assertThat(new Change(before, after).undo(now)).isEqualTo(new State(8, true, true, null, Set.of(6L)));
    }

    private static State randomState(Random random) {
        Set<Long> labels = new TreeSet<>();
        random.longs(random.nextInt(4), 0, 5).forEach(labels::add);
        Long category = random.nextBoolean() ? null : random.nextLong(3);
        return new State(random.nextLong(4), random.nextBoolean(), random.nextBoolean(), category, labels);
    }

    @Test
    void aCategoryThatSaysSoFlagsWithADueDateAsManyDaysAfterTheArrival() {
        Effect soon = new Effect.Categorise(new CategoryRef(2, "Soon", 3));
        RuleBook book = new RuleBook(List.of(rule(1, List.of(condition("account", "3")), List.of(), false, soon)));
        State after = book.file(VISIT, NEW).hits().get(0).on(NEW);
        assertThat(after.category()).isEqualTo(2);
        assertThat(after.flagged()).isTrue();
        assertThat(after.due())
                .isEqualTo(DayTime.on(VISIT.received().toLocalDate().plusDays(3)));
    }
}
