package app.schublade.web.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.web.rules.RuleForm.Kind;
import app.schublade.web.rules.RuleForm.Line;
import app.schublade.web.rules.RuleForm.Part;
import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.Test;

class RuleFormTest {
    @Test
    void aRuleIsShownLineByLine() {
        Rule rule = new Rule(
                4,
                "Lenders",
                false,
                List.of(
                        new Condition.Sender(List.of("halden.example", "kestrel.example")),
                        new Condition.SubjectHas(List.of("loan")),
                        new Condition.MailingList(List.of("rowers.example"))),
                List.of(
                        new Condition.SentTo(List.of("loans@quay.example")),
                        new Condition.InAccount(List.of(new Condition.AccountRef(1, "Museum")))),
                List.of(
                        new Effect.FileInto(new FolderRef(1, FolderPath.parse("Loans/Halden"))),
                        new Effect.Label(new LabelRef(2, FolderPath.parse("Objects/Ships")), true),
                        new Effect.Categorise(new CategoryRef(3, "Next")),
                        new Effect.MarkRead(true)),
                true);
        assertThat(RuleForm.of(rule))
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
                                new Line(Kind.FILE, "Loans / Halden"),
                                new Line(Kind.LABEL, "Objects / Ships"),
                                new Line(Kind.CATEGORY, "Next"),
                                new Line(Kind.READ, "")),
                        true));
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
    void whatComesFromThePageIsLimited() {
        assertThat(RuleForm.lines(null, null)).isEmpty();
        assertThat(RuleForm.lines(List.of("SENDER"), List.of("x".repeat(5000)))
                        .get(0)
                        .text())
                .hasSize(2000);
        assertThat(RuleForm.lines(List.of("SENDER", "SUBJECT"), List.of("a, b")))
                .containsExactly(new Line(Kind.SENDER, "a, b"));
        assertThatThrownBy(() -> RuleForm.lines(Collections.nCopies(21, "SENDER"), Collections.nCopies(21, "x")))
                .hasMessage("A rule has at most 20 lines in each part.");
        assertThatThrownBy(() -> RuleForm.lines(List.of("BOMB"), List.of("x")))
                .isInstanceOf(IllegalArgumentException.class);
    }
}
