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
import app.schublade.core.filing.Term.Kind;
import app.schublade.core.filing.Text;
import app.schublade.core.filing.Text.Match;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.problem.InputProblem;
import app.schublade.web.rules.RuleForm.Deed;
import app.schublade.web.rules.RuleForm.Doing;
import app.schublade.web.rules.RuleForm.Part;
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
                        new Effect.Label(new LabelRef(2, FolderPath.parse("Objects/Ships")), true),
                        new Effect.Categorise(new CategoryRef(3, "Next")),
                        new Effect.MarkRead(true)),
                true);
        assertThat(RuleForm.of(rule, new NoNames()))
                .isEqualTo(new RuleForm(
                        4,
                        "Lenders",
                        false,
                        List.of(
                                new Line(Kind.SENDER, "halden.example, kestrel.example"),
                                new Line(Kind.SUBJECT, "loan"),
                                new Line(Kind.LIST, "rowers.example")),
                        List.of(new Line(Kind.SENT_TO, "loans@quay.example"), new Line(Kind.ACCOUNT, "Museum")),
                        List.of(
                                new Doing(Deed.FILE, "Loans / Halden"),
                                new Doing(Deed.LABEL, "Objects / Ships"),
                                new Doing(Deed.CATEGORY, "Next"),
                                new Doing(Deed.READ, "")),
                        true));
    }

    /** Every kind of condition, typed, kept and shown again, says the same. */
    @Test
    void whatIsTypedMeansWhatIsShown() {
        List<Line> lines = List.of(
                new Line(Kind.SENDER, "anna@quay.example, *.wharf.example"),
                new Line(Kind.REPLY_TO, "quay.example"),
                new Line(Kind.SENDER_NAME, Match.IS, true, "Anna", 0),
                new Line(Kind.SENT_TO, "+shop, *@quay.example"),
                new Line(Kind.BODY, Match.REGEX, false, "a{2,3}", 0),
                new Line(Kind.SUBJECT_OR_BODY, Match.PHRASE, false, "loan agreement", 0),
                new Line(Kind.HEADER, Match.CONTAINS, false, "X-Project: lanterns, lamps", 0),
                new Line(Kind.ANY, Match.WORDS, false, "", 0),
                new Line(Kind.IS, Match.WORDS, false, "addressed to me alone, automated mail", 1),
                new Line(Kind.ALL, Match.WORDS, true, "", 1),
                new Line(Kind.ATTACHMENT_NAME, Match.WORDS, false, "*.pdf", 2),
                new Line(Kind.ATTACHMENT_LARGER, Match.WORDS, false, "2.5 MB", 2),
                new Line(Kind.ATTACHMENT_KIND, Match.WORDS, false, "image", 1),
                new Line(Kind.LARGER, "20 KB"),
                new Line(Kind.SMALLER, "900 bytes"),
                new Line(Kind.DATES, "2026-12-20 to 2027-01-06"),
                new Line(Kind.DATES, "until 2027-01-06"),
                new Line(Kind.WEEKDAYS, "Saturday, Sunday"),
                new Line(Kind.HOURS, "18 to 8"),
                new Line(Kind.LABEL, "Objects / Ships"),
                new Line(Kind.CATEGORY, "Next"),
                new Line(Kind.FLAGGED, ""));
        NoNames names = new NoNames();
        List<Condition> conditions =
                Line.terms(lines).stream().map(term -> term.condition(names)).toList();
        assertThat(Line.of(conditions, names)).isEqualTo(lines);
    }

    @ParameterizedTest
    @CsvSource({
        "BODY, REGEX, '(', is no regular expression",
        "BODY, REGEX, '((a{1000}){1000}){1000}', repeats too much",
        "BODY, REGEX, '(abcdefghijklmnopqrstuvwxyz){999}', repeats too much",
        "HEADER, IS, 'no colon', names no header field",
        "LARGER, IS, big, is no size",
        "DATES, IS, 2026-02-31 to 2026-03-01, there is no such day",
        "DATES, IS, 2026-03-01, are no dates",
        "DATES, IS, 2026-03-02 to 2026-03-01, is before the first",
        "WEEKDAYS, IS, Noday, is no day of the week",
        "HOURS, IS, 25 to 26, Hours go from 0 to 24",
        "IS, IS, nonsense, is nothing that is known of a message"
    })
    void whatMeansNothingIsSaid(Kind kind, Match match, String text, String said) {
        List<Line> lines = List.of(new Line(kind, match, false, text, 0));
        assertThatThrownBy(() -> Line.terms(lines).get(0).condition(new NoNames()))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining(said);
    }

    @Test
    void linesComeAndGo() {
        RuleForm form = RuleForm.EMPTY.plus(Part.WHEN).plus(Part.WHEN).plus(Part.THEN);
        assertThat(form.when()).hasSize(2);
        assertThat(form.then()).hasSize(2);
        assertThat(form.minus(Part.WHEN, 0)
                        .minus(Part.WHEN, 7)
                        .minus(Part.WHEN, -1)
                        .when())
                .hasSize(1);
        assertThat(form.moves()).isFalse();
    }

    @Test
    void aGroupGrowsAndGoesWithItsLines() {
        List<Line> lines = List.of(
                new Line(Kind.ANY, ""), new Line(Kind.SENDER, Match.WORDS, false, "a", 1), new Line(Kind.LIST, "b"));
        List<Line> longer = Line.plus(lines, 0);
        assertThat(longer).hasSize(4);
        assertThat(longer.get(2)).isEqualTo(new Line(Kind.SENDER, Match.WORDS, false, "", 1));
        assertThat(Line.minus(longer, 0)).containsExactly(new Line(Kind.LIST, "b"));
        assertThat(Line.terms(List.of(new Line(Kind.ANY, ""))))
                .as("nothing in it")
                .isEmpty();
    }

    @Test
    void whatComesFromThePageIsLimited() {
        List<String> none = List.of();
        assertThat(Line.lines(none, none, none, none, none)).isEmpty();
        assertThat(Line.lines(List.of("SENDER"), none, none, List.of("x".repeat(5000)), none)
                        .get(0)
                        .text())
                .hasSize(2000);
        assertThat(Line.lines(List.of("SENDER", "SUBJECT"), none, none, List.of("a, b"), List.of("7")))
                .containsExactly(new Line(Kind.SENDER, "a, b"));
        assertThatThrownBy(() ->
                        Line.lines(Collections.nCopies(41, "SENDER"), none, none, Collections.nCopies(41, "x"), none))
                .hasMessage("A rule has at most 40 lines in each part.");
        assertThatThrownBy(() -> Line.lines(List.of("BOMB"), none, none, List.of("x"), none))
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
