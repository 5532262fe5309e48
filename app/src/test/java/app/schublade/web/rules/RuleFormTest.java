package app.schublade.web.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.FromList;
import app.schublade.core.filing.InAccount;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Term;
import app.schublade.core.filing.Term.TermKind;
import app.schublade.core.filing.Text;
import app.schublade.core.filing.Text.Match;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.problem.InputProblem;
import app.schublade.web.rules.RuleForm.ActionLine;
import app.schublade.web.rules.RuleForm.FormPart;
import app.schublade.web.rules.RuleForm.RuleAction;
import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RuleFormTest {
    @Test
    void aRuleIsShownLineByLine() {
        Rule rule = new Rule(
                4,
                "Lenders",
                false,
                List.of(
                        Correspondent.sender("halden.example", "kestrel.example"),
                        Text.subject("loan"),
                        new FromList(List.of("rowers.example"))),
                List.of(
                        new SentTo(List.of("loans@quay.example")),
                        new InAccount(List.of(new InAccount.Ref(1, "Museum")))),
                List.of(
                        new Effect.FileInto(new FolderRef(1, FolderPath.parse("Loans/Halden"))),
                        new Effect.SetLabel(new LabelRef(2, FolderPath.parse("Objects/Ships")), true),
                        new Effect.Categorise(new CategoryRef(3, "Next")),
                        new Effect.MarkRead(true)),
                true);
        assertThat(RuleForm.of(rule, new NoNames()))
                .isEqualTo(new RuleForm(
                        4,
                        "Lenders",
                        false,
                        List.of(
                                new ConditionLine(TermKind.SENDER, "halden.example, kestrel.example"),
                                new ConditionLine(TermKind.SUBJECT, "loan"),
                                new ConditionLine(TermKind.LIST, "rowers.example")),
                        List.of(
                                new ConditionLine(TermKind.SENT_TO, "loans@quay.example"),
                                new ConditionLine(TermKind.ACCOUNT, "Museum")),
                        List.of(
                                new ActionLine(RuleAction.FILE, "Loans / Halden"),
                                new ActionLine(RuleAction.LABEL, "Objects / Ships"),
                                new ActionLine(RuleAction.CATEGORY, "Next"),
                                new ActionLine(RuleAction.READ, "")),
                        true));
    }

    /** Every kind of condition, typed, kept and shown again, says the same. */
    @Test
    void whatIsTypedMeansWhatIsShown() {
        List<ConditionLine> lines = List.of(
                new ConditionLine(TermKind.SENDER, "anna@quay.example, *.wharf.example"),
                new ConditionLine(TermKind.REPLY_TO, "quay.example"),
                new ConditionLine(TermKind.SENDER_NAME, Match.IS, true, "Anna", 0),
                new ConditionLine(TermKind.SENT_TO, "+shop, *@quay.example"),
                new ConditionLine(TermKind.BODY, Match.REGEX, false, "a{2,3}", 0),
                new ConditionLine(TermKind.SUBJECT_OR_BODY, Match.PHRASE, false, "loan agreement", 0),
                new ConditionLine(TermKind.HEADER, Match.CONTAINS, false, "X-Project: lanterns, lamps", 0),
                new ConditionLine(TermKind.ANY, Match.WORDS, false, "", 0),
                new ConditionLine(TermKind.IS, Match.WORDS, false, "addressed to me alone, automated mail", 1),
                new ConditionLine(TermKind.ALL, Match.WORDS, true, "", 1),
                new ConditionLine(TermKind.ATTACHMENT_NAME, Match.WORDS, false, "*.pdf", 2),
                new ConditionLine(TermKind.ATTACHMENT_LARGER, Match.WORDS, false, "2.5 MB", 2),
                new ConditionLine(TermKind.ATTACHMENT_KIND, Match.WORDS, false, "image", 1),
                new ConditionLine(TermKind.LARGER, "20 KB"),
                new ConditionLine(TermKind.SMALLER, "900 bytes"),
                new ConditionLine(TermKind.DATES, "2026-12-20 to 2027-01-06"),
                new ConditionLine(TermKind.DATES, "until 2027-01-06"),
                new ConditionLine(TermKind.WEEKDAYS, "Saturday, Sunday"),
                new ConditionLine(TermKind.HOURS, "18 to 8"),
                new ConditionLine(TermKind.LABEL, "Objects / Ships"),
                new ConditionLine(TermKind.CATEGORY, "Next"),
                new ConditionLine(TermKind.FLAGGED, ""));
        NoNames names = new NoNames();
        List<Condition> conditions = ConditionLine.terms(lines).stream()
                .map(term -> term.condition(names))
                .toList();
        assertThat(ConditionLine.of(conditions, names)).isEqualTo(lines);
    }

    @ParameterizedTest
    @CsvSource({
        "BODY, REGEX, '(', is not a regular expression",
        "BODY, REGEX, '((a{1000}){1000}){1000}', repeats too much",
        "BODY, REGEX, '(abcdefghijklmnopqrstuvwxyz){999}', repeats too much",
        "HEADER, IS, 'no colon', names no header field",
        "LARGER, IS, big, is not a size",
        "DATES, IS, 2026-02-31 to 2026-03-01, there is no such day",
        "DATES, IS, in spring, are not dates",
        "DATES, IS, 2026-03-02 to 2026-03-01, is before the first",
        "WEEKDAYS, IS, Noday, is not a day of the week",
        "HOURS, IS, 25 to 26, Hours go from 0 to 24",
        "IS, IS, nonsense, is not known of a message"
    })
    void whatMeansNothingIsSaid(TermKind kind, Match match, String text, String said) {
        List<ConditionLine> lines = List.of(new ConditionLine(kind, match, false, text, 0));
        assertThatThrownBy(() -> ConditionLine.terms(lines).get(0).condition(new NoNames()))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining(said);
    }

    @Test
    void linesComeAndGo() {
        RuleForm form = RuleForm.EMPTY.plus(FormPart.WHEN).plus(FormPart.WHEN).plus(FormPart.THEN);
        assertThat(form.when()).hasSize(2);
        assertThat(form.then()).hasSize(2);
        assertThat(form.minus(FormPart.WHEN, 0)
                        .minus(FormPart.WHEN, 7)
                        .minus(FormPart.WHEN, -1)
                        .when())
                .hasSize(1);
        assertThat(form.moves()).isFalse();
    }

    @Test
    void aGroupGrowsAndGoesWithItsLines() {
        List<ConditionLine> lines = List.of(
                new ConditionLine(TermKind.ANY, ""),
                new ConditionLine(TermKind.SENDER, Match.WORDS, false, "a", 1),
                new ConditionLine(TermKind.LIST, "b"));
        List<ConditionLine> longer = ConditionLine.plus(lines, 0);
        assertThat(longer).hasSize(4);
        assertThat(longer.get(2)).isEqualTo(new ConditionLine(TermKind.SENDER, Match.WORDS, false, "", 1));
        assertThat(ConditionLine.minus(longer, 0)).containsExactly(new ConditionLine(TermKind.LIST, "b"));
        assertThat(ConditionLine.terms(List.of(new ConditionLine(TermKind.ANY, ""))))
                .as("nothing in it")
                .isEmpty();
    }

    @Test
    void whatComesFromThePageIsLimited() {
        List<String> none = List.of();
        assertThat(ConditionLine.lines(none, none, none, none, none)).isEmpty();
        assertThat(ConditionLine.lines(List.of("SENDER"), none, none, List.of("x".repeat(5000)), none)
                        .get(0)
                        .text())
                .hasSize(2000);
        assertThat(ConditionLine.lines(List.of("SENDER", "SUBJECT"), none, none, List.of("a, b"), List.of("7")))
                .containsExactly(new ConditionLine(TermKind.SENDER, "a, b"));
        assertThatThrownBy(() -> ConditionLine.lines(
                        Collections.nCopies(41, "SENDER"), none, none, Collections.nCopies(41, "x"), none))
                .hasMessage("A rule has at most 40 lines in each part.");
        assertThatThrownBy(() -> ConditionLine.lines(List.of("BOMB"), none, none, List.of("x"), none))
                .isInstanceOf(InputProblem.class);
    }

    /** Names everything that is asked for. */
    private static final class NoNames implements Term.Names {
        @Override
        public InAccount.Ref account(String value) {
            return new InAccount.Ref(1, value);
        }

        @Override
        public LabelRef label(String value) {
            return new LabelRef(1, FolderPath.parse(value));
        }

        @Override
        public CategoryRef category(String value) {
            return new CategoryRef(1, value);
        }

        @Override
        public String group(String value) {
            throw new AssertionError(value);
        }

        @Override
        public Condition called(Correspondent.Role role, String name) {
            throw new AssertionError(name);
        }

        @Override
        public List<String> lists(String name) {
            throw new AssertionError(name);
        }

        @Override
        public String of(InAccount.Ref account) {
            return account.name();
        }

        @Override
        public String of(LabelRef label) {
            return label.path().shown();
        }

        @Override
        public String of(CategoryRef category) {
            return category.name();
        }
    }
}
