package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Reading;
import app.schublade.core.message.Message;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.LabelRef;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What {@code docs/rules.md} says of its examples is so. */
class RulesDocumentTest {
    private static final Path DOCUMENT = Path.of("../docs/rules.md");
    private static final OwnAddresses TILDA = new OwnAddresses("tilda@quay.example", Set.of("loans@quay.example"));
    private static final State NEW = new State(1, true, false, null, Set.of());

    /** A row of one of the document's tables. */
    record Example(String line, String message, String holds) {}

    static List<Example> examples() throws IOException {
        try (Stream<String> lines = Files.lines(DOCUMENT)) {
            return lines.filter(line -> line.startsWith("| ") && !line.startsWith("| The line"))
                    .map(line -> line.substring(2, line.length() - 2).split(" \\| ", -1))
                    .map(cells -> new Example(cells[0], cells[1], cells[2]))
                    .toList();
        }
    }

    @Test
    void thereAreExamples() throws IOException {
        assertThat(examples()).hasSizeGreaterThan(50);
    }

    @ParameterizedTest
    @MethodSource("examples")
    void isSo(Example example) {
        Condition condition = term(example.line()).condition(new Nothing());
        String held = condition.heldBy(new RuleInput(message(example.message()), NEW));
        assertThat(held == null ? "no" : held).isEqualTo(example.holds());
    }

    /** {@code "not subject / has / port"}. */
    private static Term term(String line) {
        boolean negated = line.startsWith("not ");
        String[] parts = (negated ? line.substring(4) : line).split(" / ", -1);
        Term.TermKind kind = Arrays.stream(Term.TermKind.values())
                .filter(one -> one.words().equals(parts[0]))
                .findFirst()
                .orElseThrow(() -> new AssertionError("There is no line about " + parts[0]));
        Text.Match match = Arrays.stream(Text.Match.values())
                .filter(one -> kind.isText() && one.words().equals(parts[1]))
                .findFirst()
                .orElse(null);
        String values = parts[parts.length - 1].replace("&lt;", "<").replace("&gt;", ">");
        List<String> all = match == Text.Match.REGEX ? List.of(values) : List.of(values.split("(, |: )", -1));
        return new Term(kind, match, negated, all, List.of());
    }

    /** Header fields with semicolons between them; the body after two of them. */
    private static Message message(String cell) {
        String[] parts = cell.replace("&lt;", "<").replace("&gt;", ">").split(";; ?", 2);
        String header = parts[0].replace(";", "\r\n");
        String from = header.contains("From:") ? "" : "From: anna@wharf.example\r\n";
        String body = parts.length < 2 ? "Dear Tilda,\r\n" : parts[1].replace("<br>", "\r\n");
        byte[] source = (from + header + "\r\nContent-Type: text/plain; charset=utf-8\r\n\r\n" + body)
                .getBytes(StandardCharsets.UTF_8);
        ParsedMail mail = MimeReader.read(source);
        return Reading.of(1, TILDA, mail, source.length, Reading.traits(TILDA, mail))
                .received(LocalDateTime.of(2026, 11, 25, 7, 30))
                .build();
    }

    /** The examples name nothing of a user's own. */
    private static final class Nothing implements Term.Names {
        @Override
        public InAccount.Ref account(String value) {
            throw new AssertionError(value);
        }

        @Override
        public LabelRef label(String value) {
            throw new AssertionError(value);
        }

        @Override
        public CategoryRef category(String value) {
            throw new AssertionError(value);
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
            throw new AssertionError(account);
        }

        @Override
        public String of(LabelRef label) {
            throw new AssertionError(label);
        }

        @Override
        public String of(CategoryRef category) {
            throw new AssertionError(category);
        }
    }
}
