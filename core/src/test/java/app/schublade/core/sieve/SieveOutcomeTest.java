package app.schublade.core.sieve;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.place.FolderRef;
import app.schublade.core.sieve.Interpreter.Outcome;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;

/** What a script does when a server runs it (sieve-test of Debian's dovecot-sieve) is what the rules do here. */
class SieveOutcomeTest {
    /** More, and others, for a long run: {@code -Dsieve.books=25000 -Dsieve.seed=8}. */
    private static final int BOOKS = Integer.getInteger("sieve.books", 80);

    private static final int LETTERS = 4;
    private final SieveWorld world = new Harbour();

    @TempDir
    Path directory = Path.of("");

    @org.junit.jupiter.api.Test
    void whatServersDoIsWhatTheRulesDo() throws Exception {
        Random random = new Random(Integer.getInteger("sieve.seed", 7));
        int filed = 0;
        for (int i = 0; i < BOOKS; i++) {
            LocalDateTime now = LocalDateTime.now(java.time.ZoneId.systemDefault());
            RandomLetters made = new RandomLetters(random, now.toLocalDate());
            List<Rule> rules = Stream.iterate(1, number -> number + 1)
                    .limit(1 + random.nextInt(6))
                    .map(made::rule)
                    .toList();
            SieveWriter.Written written = new SieveWriter(world).write(rules);
            assertThat(written.remarks()).as("all of it can be said").isEmpty();
            SieveReader.Read read = SieveReader.read(written.script(), world);
            for (int j = 0; j < LETTERS; j++) {
                byte[] letter = made.letter();
                Outcome here = here(rules, letter, now);
                assertThat(new Interpreter(directory).outcomes(written.script(), letter))
                        .as("%s%n%s", written.script(), new String(letter, StandardCharsets.US_ASCII))
                        .containsExactly(here);
                assertThat(here(read.rules(), letter, now))
                        .as("read back:%n%s%n%s", written.script(), read)
                        .isEqualTo(here);
                filed += here.folder().equals("INBOX") ? 0 : 1;
            }
            assertThat(read.remarks()).as(written.script()).isEmpty();
        }
        assertThat(filed).as("cases in which something was filed").isGreaterThan(BOOKS * LETTERS / 5);
    }

    @org.junit.jupiter.api.Test
    void aCopyLiesInItsFolderBesideTheMessageAndIsReadBack() throws Exception {
        FolderRef copies = Harbour.FOLDERS.get(0);
        FolderRef target = Harbour.FOLDERS.get(1);
        Condition loan = Correspondent.sender("b.example");
        List<Rule> rules = List.of(
                new Rule(1, "Copy", true, List.of(loan), List.of(), List.of(new Effect.CopyInto(copies)), false),
                new Rule(2, "File", true, List.of(loan), List.of(), List.of(new Effect.FileInto(target)), false));
        SieveWriter.Written written = new SieveWriter(world).write(rules);
        assertThat(written.remarks()).isEmpty();
        byte[] letter =
                "From: a@b.example\r\nSubject: The loan\r\n\r\nDear Tilda\r\n".getBytes(StandardCharsets.US_ASCII);
        assertThat(new Interpreter(directory).outcomes(written.script(), letter))
                .extracting(Outcome::folder)
                .containsExactlyInAnyOrder(world.mailbox(copies), world.mailbox(target));
        SieveReader.Read read = SieveReader.read(written.script(), world);
        assertThat(read.remarks()).isEmpty();
        assertThat(read.rules())
                .extracting(Rule::then)
                .isEqualTo(rules.stream().map(Rule::then).toList());
    }

    private static Outcome here(List<Rule> rules, byte[] letter, LocalDateTime now) {
        return FiledHere.outcomes(rules, FiledHere.message(letter).received(now).build())
                .get(0);
    }
}
