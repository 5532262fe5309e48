package app.schublade.core.sieve;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Reading;
import app.schublade.core.message.Message;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** What a script does when a server runs it (sieve-test of Debian's dovecot-sieve) is what the rules do here. */
class SieveOutcomeTest {
    /** More, and others, for a long run: {@code -Dsieve.books=25000 -Dsieve.seed=8}. */
    private static final int BOOKS = Integer.getInteger("sieve.books", 80);

    private static final int LETTERS = 4;
    private static final Pattern STORED = Pattern.compile("store message in folder: (.*)");
    private static final Pattern FLAGS = Pattern.compile("add IMAP flags: (.*)");

    private final SieveWorld world = new Harbour();

    @TempDir
    Path directory = Path.of("");

    /** Where a message lies in the end, and with which flags. */
    private record Outcome(String folder, Set<String> flags) {}

    @BeforeEach
    void configure() throws IOException {
        boolean root = System.getProperty("user.name").equals("root");
        String user = root ? "nobody" : System.getProperty("user.name");
        Files.setPosixFilePermissions(directory, PosixFilePermissions.fromString("rwxrwxrwx"));
        Files.writeString(
                directory.resolve("server.conf"),
                """
                mail_uid = %s
                first_valid_uid = 1
                first_valid_gid = 1
                mail_home = %s
                mail_location = maildir:%s/mail
                log_path = /dev/stderr
                """.formatted(user, directory, directory) + (root ? "mail_gid = nogroup\n" : ""));
    }

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
                assertThat(onServer(written.script(), letter))
                        .as("%s%n%s", written.script(), new String(letter, StandardCharsets.US_ASCII))
                        .isEqualTo(here);
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
        assertThat(stored(written.script(), letter))
                .containsExactlyInAnyOrder(world.mailbox(copies), world.mailbox(target));
        SieveReader.Read read = SieveReader.read(written.script(), world);
        assertThat(read.remarks()).isEmpty();
        assertThat(read.rules())
                .extracting(Rule::then)
                .isEqualTo(rules.stream().map(Rule::then).toList());
    }

    private List<String> stored(String script, byte[] letter) throws Exception {
        return carriedOut(script, letter)
                .lines()
                .map(STORED::matcher)
                .filter(Matcher::find)
                .map(stored -> stored.group(1).strip())
                .toList();
    }

    private Outcome here(List<Rule> rules, byte[] letter, LocalDateTime now) {
        ParsedMail mail = MimeReader.read(letter);
        Message message = Reading.of(1, Harbour.OWN, mail, letter.length, Reading.traits(Harbour.OWN, mail))
                .received(now)
                .build();
        State state = new State(1, true, false, null, Set.of());
        Verdict verdict = new RuleBook(rules).file(message, state);
        State after = state;
        for (Verdict.Hit hit : verdict.hits()) {
            for (Effect effect : hit.effects()) {
                after = effect.on(after);
            }
        }
        Set<String> flags = new TreeSet<>();
        if (!after.unread()) {
            flags.add("\\seen");
        }
        if (after.flagged()) {
            flags.add("\\flagged");
        }
        for (LabelRef label : Harbour.LABELS) {
            if (after.labels().contains(label.id())) {
                flags.add(world.keyword(label));
            }
        }
        for (CategoryRef category : Harbour.CATEGORIES) {
            if (Long.valueOf(category.id()).equals(after.category())) {
                flags.add(world.keyword(category));
            }
        }
        long folder = after.folder();
        return new Outcome(
                Harbour.FOLDERS.stream()
                        .filter(one -> one.id() == folder)
                        .map((FolderRef one) -> world.mailbox(one))
                        .findFirst()
                        .orElse("INBOX"),
                flags);
    }

    /** What the interpreter says that it does. */
    private String carriedOut(String script, byte[] letter) throws Exception {
        Path sieve = Files.writeString(directory.resolve("rules.sieve"), script);
        Path mail = Files.write(directory.resolve("letter.eml"), letter);
        Files.deleteIfExists(directory.resolve("rules.svbin"));
        Process process = new ProcessBuilder(
                        "/usr/bin/sieve-test",
                        "-c",
                        directory.resolve("server.conf").toString(),
                        "-r",
                        "nobody@elsewhere.example",
                        sieve.toString(),
                        mail.toString())
                .redirectErrorStream(true)
                .start();
        String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(process.waitFor(20, TimeUnit.SECONDS)).isTrue();
        assertThat(process.exitValue()).as("%s%n%s", said, script).isZero();
        return said;
    }

    private Outcome onServer(String script, byte[] letter) throws Exception {
        String said = carriedOut(script, letter);
        List<String> folders = new ArrayList<>();
        Set<String> flags = new TreeSet<>();
        said.lines().forEach(line -> {
            Matcher stored = STORED.matcher(line);
            Matcher flagged = FLAGS.matcher(line);
            if (stored.find()) {
                folders.add(stored.group(1).strip());
            } else if (flagged.find()) {
                flags.addAll(List.of(flagged.group(1).strip().split(" ", -1)));
            }
        });
        assertThat(folders).as(said).hasSize(1);
        return new Outcome(folders.get(0), flags);
    }
}
