package app.schublade.core.sieve;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Text;
import app.schublade.core.filing.Traits;
import app.schublade.core.message.Message;
import app.schublade.core.message.Trait;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.sieve.Interpreter.Outcome;
import app.schublade.core.sieve.SieveWriter.Written;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;

/** A server does what the rules do here, or it leaves the message alone. */
class FilingScriptTest {
    /** More, and others, for a long run: {@code -Dsieve.books=25000 -Dsieve.seed=8}. */
    private static final int BOOKS = Integer.getInteger("sieve.books", 80);

    private static final int LETTERS = 4;
    private static final String MARK = "FiledHere";
    private static final Set<String> ALL = Set.of(
            "body",
            "copy",
            "date",
            "envelope",
            "fileinto",
            "imap4flags",
            "mailbox",
            "regex",
            "relational",
            "variables",
            "comparator-i;ascii-numeric");
    private static final List<String> ZONES =
            List.of("UTC", "Europe/Berlin", "America/St_Johns", "Asia/Kolkata", "Pacific/Auckland");

    @TempDir
    Path directory = Path.of("");

    private static FilingScript writer(ZoneId zone) {
        return new FilingScript(new Harbour(), ALL, MARK, zone, Instant.now());
    }

    private static Set<Outcome> marked(List<Outcome> outcomes) {
        Set<Outcome> marked = new HashSet<>();
        for (Outcome one : outcomes) {
            one.flags().add(MARK);
            marked.add(one);
        }
        return marked;
    }

    @org.junit.jupiter.api.Test
    void itDoesWhatTheRulesDoHereOrNothing() throws Exception {
        Random random = new Random(Integer.getInteger("sieve.seed", 7));
        Interpreter interpreter = new Interpreter(directory);
        int decided = 0;
        int filed = 0;
        for (int i = 0; i < BOOKS; i++) {
            ZoneId zone = ZoneId.of(ZONES.get(random.nextInt(ZONES.size())));
            LocalDateTime now = LocalDateTime.now(zone);
            RandomLetters made = new RandomLetters(random, now.toLocalDate()).awkward();
            List<Rule> rules = Stream.iterate(1, number -> number + 1)
                    .limit(1 + random.nextInt(6))
                    .map(made::rule)
                    .toList();
            Written written = writer(zone).write(rules);
            for (int j = 0; j < LETTERS; j++) {
                byte[] letter = made.letter();
                List<Outcome> there = interpreter.outcomes(written.script(), letter);
                boolean isMarked = there.stream().anyMatch(one -> one.flags().contains(MARK));
                if (!isMarked) {
                    assertThat(there)
                            .as("left alone:%n%s", written.script())
                            .containsExactly(new Outcome("INBOX", Set.of()));
                    continue;
                }
                Message message = made.known(FiledHere.message(letter).received(now));
                assertThat(Set.copyOf(there))
                        .as("%s%n%s%n%s", rules, written.script(), new String(letter, StandardCharsets.ISO_8859_1))
                        .isEqualTo(marked(FiledHere.outcomes(written.rules(), message)));
                decided++;
                filed += there.get(0).folder().equals("INBOX") ? 0 : 1;
            }
        }
        System.out.printf("%d of %d decided by the script, %d filed%n", decided, BOOKS * LETTERS, filed);
        assertThat(decided).as("messages that a server decided on").isGreaterThan(BOOKS * LETTERS / 4);
        assertThat(filed).as("messages that a server filed").isGreaterThan(BOOKS * LETTERS / 32);
    }

    private static Rule rule(int number, Condition when, Effect... then) {
        return new Rule(number, "Rule " + number, true, List.of(when), List.of(), List.of(then), false);
    }

    private static Written write(Rule... rules) {
        return writer(ZoneId.of("UTC")).write(List.of(rules));
    }

    private List<Outcome> there(Written written, String letter) throws Exception {
        return new Interpreter(directory).outcomes(written.script(), letter.getBytes(StandardCharsets.UTF_8));
    }

    private static final Effect LOANS = new Effect.FileInto(Harbour.FOLDERS.get(0));
    private static final Effect SCHOOLS = new Effect.FileInto(Harbour.FOLDERS.get(2));

    @org.junit.jupiter.api.Test
    void copiesHaveTheFlagsThatTheMessageHasInTheEnd() throws Exception {
        Written written = write(
                rule(1, Correspondent.sender("wharf.example"), new Effect.CopyInto(Harbour.FOLDERS.get(2))),
                rule(2, Correspondent.sender("wharf.example"), new Effect.Flag(true), LOANS));
        assertThat(written.remarks())
                .extracting(SieveWriter.WritingRemark::leftOut)
                .doesNotContain(true);
        assertThat(there(written, "From: a@wharf.example\r\nSubject: x\r\n\r\nx"))
                .containsExactlyInAnyOrder(
                        new Outcome("Schools", Set.of("\\flagged", MARK)),
                        new Outcome("Loans", Set.of("\\flagged", MARK)));
    }

    @org.junit.jupiter.api.Test
    void wordsWithAccentsAreLeftToTheRulesHere() throws Exception {
        Written written = write(rule(1, Text.subject("uberfuhrung"), LOANS));
        assertThat(there(written, "From: a@wharf.example\r\nSubject: Überführung\r\n\r\nx"))
                .containsExactly(new Outcome("INBOX", Set.of()));
        assertThat(there(written, "From: a@wharf.example\r\nSubject: Die UBERFUHRUNG\r\n\r\nx"))
                .containsExactly(new Outcome("Loans", Set.of(MARK)));
        assertThat(written.rules()).hasSize(1);
        assertThat(written.remarks())
                .extracting(SieveWriter.WritingRemark::what)
                .first()
                .asString()
                .contains("not ASCII");
    }

    @org.junit.jupiter.api.Test
    void whatNoServerKnowsIsLeftOutWithWhatDependsOnIt() {
        Rule keyPeople = rule(1, new Traits(List.of(Trait.KEY_PERSON)), SCHOOLS);
        Rule later = rule(2, Correspondent.sender("wharf.example"), LOANS);
        Rule label = rule(3, Correspondent.sender("wharf.example"), new Effect.SetLabel(Harbour.LABELS.get(0), true));
        Written written = write(keyPeople, later, label);
        assertThat(written.rules()).containsExactly(label);
        assertThat(written.remarks())
                .filteredOn(SieveWriter.WritingRemark::leftOut)
                .extracting(SieveWriter.WritingRemark::what)
                .containsExactly(
                        "a server cannot tell which messages it is for",
                        "“Rule 1” acts here, and may change what it does");
        assertThat(write(later, keyPeople).rules()).containsExactly(later);
    }

    @org.junit.jupiter.api.Test
    void mailThatMayBeForARuleOfHereIsLeftAlone() throws Exception {
        Effect notify = new Effect.Notify(false);
        Rule first = rule(1, Correspondent.sender("anna@wharf.example"), SCHOOLS, notify);
        Rule second = rule(2, Correspondent.sender("wharf.example"), LOANS);
        Written written = write(first, second);
        assertThat(written.rules()).containsExactly(first, second);
        assertThat(there(written, "From: anna@wharf.example\r\nSubject: x\r\n\r\nx"))
                .containsExactly(new Outcome("INBOX", Set.of()));
        assertThat(there(written, "From: ben@wharf.example\r\nSubject: x\r\n\r\nx"))
                .containsExactly(new Outcome("Loans", Set.of(MARK)));
        assertThat(write(rule(1, Correspondent.sender("anna@wharf.example"), notify), second)
                        .rules())
                .as("nothing depends on whether somebody is told")
                .containsExactly(second);
    }

    @org.junit.jupiter.api.Test
    void aFolderThatIsNamedAsAVariableIsNotWritten() {
        FolderRef odd = new FolderRef(13, FolderPath.parse("${folder}"));
        assertThat(write(rule(1, Correspondent.sender("wharf.example"), new Effect.FileInto(odd)))
                        .rules())
                .isEmpty();
    }

    @org.junit.jupiter.api.Test
    void whatIsReadHereInPartOnlyIsLeftAlone() throws Exception {
        Written subject = write(rule(1, Text.subject("loan"), LOANS));
        String letter = "From: a@wharf.example\r\nSubject: %s\r\n\r\nx";
        assertThat(there(subject, letter.formatted("word ".repeat(110) + "loan")))
                .containsExactly(new Outcome("INBOX", Set.of()));
        Written many = write(rule(1, new SentTo(List.of("n150@x.example")), LOANS));
        String to = IntStream.range(0, 200).mapToObj("n%d@x.example"::formatted).collect(Collectors.joining(", "));
        assertThat(there(many, "From: a@wharf.example\r\nTo: %s\r\nSubject: x\r\n\r\nx".formatted(to)))
                .containsExactly(new Outcome("INBOX", Set.of()));
    }

    /** A server refuses a script as a whole that wants something of it which it does not know. */
    @org.junit.jupiter.api.Test
    void nothingIsWantedOfAServerThatItDoesNotKnow() {
        Random random = new Random(5);
        List<String> all = List.copyOf(ALL);
        for (int i = 0; i < 300; i++) {
            RandomLetters made = new RandomLetters(
                            random, LocalDateTime.now(ZoneId.of("UTC")).toLocalDate())
                    .awkward();
            Set<String> known = new HashSet<>(ALL);
            known.remove(all.get(random.nextInt(all.size())));
            known.remove(all.get(random.nextInt(all.size())));
            Written written = new FilingScript(new Harbour(), known, MARK, ZoneId.of("Europe/Berlin"), Instant.now())
                    .write(List.of(made.rule(1), made.rule(2), made.rule(3)));
            String wanted = written.script().lines().findFirst().orElse("");
            assertThat(ALL).filteredOn(one -> wanted.contains('"' + one + '"')).isSubsetOf(withFlags(known));
        }
    }

    /** Without flags no server gets a script. */
    private static Set<String> withFlags(Set<String> known) {
        Set<String> all = new HashSet<>(known);
        all.add("imap4flags");
        return all;
    }

    @org.junit.jupiter.api.Test
    void aServerThatKnowsLittleIsGivenLittle() {
        FilingScript writer = new FilingScript(
                new Harbour(), Set.of("fileinto", "imap4flags", "mailbox"), MARK, ZoneId.of("UTC"), Instant.EPOCH);
        Written written = writer.write(List.of(rule(1, Correspondent.sender("wharf.example"), LOANS)));
        assertThat(written.rules()).isEmpty();
        assertThat(written.remarks().get(0).what())
                .startsWith("the server does not know ")
                .contains("regex");
    }
}
