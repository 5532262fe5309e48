package app.schublade.core.sieve;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.sieve.Interpreter.Outcome;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Scripts as other programs and people write them: what is read of one without a remark does here what the interpreter of a
 * server (sieve-test of Debian's dovecot-sieve) does with it.
 */
class ForeignScriptTest {
    /** More, and others, for a long run: {@code -Dsieve.books=25000 -Dsieve.seed=8}. */
    private static final int SCRIPTS = Integer.getInteger("sieve.books", 160);

    private static final int LETTERS = 3;

    private static final String REQUIRED = """
            require ["fileinto", "copy", "imap4flags", "relational", "comparator-i;ascii-numeric", "date", "regex"];
            """;

    private static final List<String> WORDS =
            List.of("loan", "LOANS", "museum", "no.7", "a+b", "*loan*", "?oan*", "loan*", "* *", "port", "report");
    private static final List<String> ADDRESSES = List.of(
            "anna@quay.example",
            "Ben@wharf.example",
            "quay.example",
            "wharf.example",
            "anna",
            "tilda",
            "tilda+shop",
            "*@quay.example",
            "*.example",
            "t*a",
            "quay");

    private final SieveWorld world = new Harbour();

    @TempDir
    Path directory = Path.of("");

    /** Writes what scripts are made of. */
    private record Pen(Random random, LocalDateTime now) {
        <T> T one(List<T> all) {
            return all.get(random.nextInt(all.size()));
        }

        String some(Supplier<String> piece, String between, int most) {
            return Stream.generate(piece).limit(1 + random.nextInt(most)).collect(Collectors.joining(between));
        }

        String values(List<String> all) {
            String list = some(() -> "\"" + one(all) + "\"", ", ", 2);
            return list.contains(",") || random.nextBoolean() ? "[" + list + "]" : list;
        }

        String match() {
            return one(List.of("", ":is ", ":contains ", ":matches ", ":comparator \"i;ascii-casemap\" "));
        }

        String test(int depth) {
            return switch (random.nextInt(depth > 0 ? 10 : 7)) {
                case 0 -> "header " + match() + "\"subject\" " + values(WORDS);
                case 1 ->
                    "header " + match() + one(List.of("\"X-Topic\" ", "[\"Subject\", \"X-Topic\"] ")) + values(WORDS);
                case 2 ->
                    "address " + match() + one(List.of("", ":all ", ":domain ", ":localpart "))
                            + one(List.of("\"From\" ", "[\"from\"] ", "[\"to\", \"cc\"] ")) + values(ADDRESSES);
                case 3 -> "exists " + values(List.of("x-topic", "list-id", "subject", "cc"));
                case 4 -> "size " + one(List.of(":over ", ":under ")) + one(List.of("0", "200", "1K", "3k", "1M"));
                case 5 -> clock();
                case 6 -> one(List.of("true", "false"));
                case 7 -> "not " + test(depth - 1);
                default -> one(List.of("allof", "anyof")) + " (" + some(() -> test(depth - 1), ", ", 3) + ")";
            };
        }

        private String clock() {
            LocalDate day = now.toLocalDate().plusDays(random.nextInt(3) - 1);
            int hour = random.nextInt(24);
            String relation = one(List.of("ge", "gt", "le", "lt", "eq"));
            return switch (random.nextInt(4)) {
                case 0 -> "currentdate :value \"%s\" \"date\" \"%s\"".formatted(relation, day);
                case 1 ->
                    "currentdate %s\"weekday\" %s"
                            .formatted(one(List.of("", ":is ")), values(List.of("0", "1", "3", "6")));
                case 2 ->
                    "currentdate :value \"%s\" %s\"hour\" \"%02d\""
                            .formatted(relation, one(List.of("", ":comparator \"i;ascii-numeric\" ")), hour);
                default ->
                    "currentdate :value \"%s\" \"time\" \"%02d:%02d:%s\""
                            .formatted(relation, hour, random.nextInt(60), one(List.of("00", "59")));
            };
        }

        String action() {
            return one(List.of(
                    "fileinto \"Loans\";",
                    "fileinto \"Schools\";",
                    "fileinto :copy \"Schools\";",
                    "addflag \"\\\\Seen\";",
                    "addflag [\"l20\", \"\\\\Flagged\"];",
                    "fileinto :flags \"\\\\Seen\" \"Loans\";",
                    "keep;",
                    "discard;",
                    "stop;"));
        }

        String block(int depth) {
            return " { " + some(() -> depth > 0 && random.nextInt(4) == 0 ? branches(depth - 1) : action(), " ", 2)
                    + " }";
        }

        String branches(int depth) {
            StringBuilder all = new StringBuilder("if " + test(2) + block(depth));
            while (random.nextInt(3) == 0) {
                all.append("\nelsif ").append(test(1)).append(block(depth));
            }
            return random.nextInt(4) == 0
                    ? all.append("\nelse").append(block(depth)).toString()
                    : all.toString();
        }

        String script() {
            return REQUIRED + some(() -> random.nextInt(6) == 0 ? action() : branches(1), "\n", 3) + "\n";
        }
    }

    @Test
    void whatIsReadDoesWhatTheServerDoes() throws Exception {
        Random random = new Random(Integer.getInteger("sieve.seed", 7));
        Interpreter interpreter = new Interpreter(directory);
        int compared = 0;
        int filed = 0;
        for (int i = 0; i < SCRIPTS; i++) {
            LocalDateTime now = LocalDateTime.now(ZoneId.systemDefault());
            String script = new Pen(random, now).script();
            SieveReader.Read read = SieveReader.read(script, world);
            if (!read.remarks().isEmpty()) {
                continue; // It was said that something is otherwise.
            }
            RandomLetters made = new RandomLetters(random, now.toLocalDate());
            for (int j = 0; j < LETTERS; j++) {
                byte[] letter = made.letter();
                List<Outcome> there = interpreter.outcomes(script, letter);
                assertThat(Set.copyOf(there))
                        .as("%s%n%s%n%s", script, read.rules(), new String(letter, StandardCharsets.US_ASCII))
                        .isEqualTo(Set.copyOf(FiledHere.outcomes(
                                read.rules(),
                                FiledHere.message(letter).received(now).build())));
                compared++;
                filed += there.get(0).folder().equals("INBOX") ? 0 : 1;
            }
        }
        System.out.printf("%d of %d compared, %d filed%n", compared, SCRIPTS * LETTERS, filed);
        assertThat(compared).as("scripts that are read without a remark").isGreaterThan(SCRIPTS * LETTERS / 8);
        assertThat(filed).as("cases in which something was filed").isGreaterThan(SCRIPTS * LETTERS / 40);
    }
}
