package app.schublade.core.sieve;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Carries scripts out as a server does: sieve-test of Debian's dovecot-sieve. */
final class Interpreter {
    private static final Pattern STORED = Pattern.compile("store message in folder: (.*)");
    private static final Pattern FLAGS = Pattern.compile("add IMAP flags: (.*)");

    private final Path directory;

    /** @param directory where it may leave files */
    Interpreter(Path directory) throws IOException {
        this.directory = directory;
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

    /** Where a message or a copy of it lies in the end, and with which flags. */
    record Outcome(String folder, Set<String> flags) {}

    /** What the interpreter says that it does with a message: with each copy, in its order. */
    List<Outcome> outcomes(String script, byte[] letter) throws Exception {
        List<Outcome> outcomes = new ArrayList<>();
        carriedOut(script, letter).lines().forEach(line -> {
            Matcher stored = STORED.matcher(line);
            Matcher flagged = FLAGS.matcher(line);
            if (stored.find()) {
                outcomes.add(new Outcome(stored.group(1).strip(), new TreeSet<>()));
            } else if (flagged.find()) {
                outcomes.get(outcomes.size() - 1)
                        .flags()
                        .addAll(List.of(flagged.group(1).strip().split(" ", -1)));
            }
        });
        return outcomes;
    }

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
}
