package app.schublade;

import app.schublade.store.base.StartProblem;
import java.io.IOException;
import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import java.util.TreeSet;
import org.springframework.boot.EnvironmentPostProcessor;
import org.springframework.boot.SpringApplication;
import org.springframework.core.env.ConfigurableEnvironment;

/**
 * Looks whether the settings of whoever runs Schublade are such as there are. One that is misspelt would have no effect, and
 * nobody would be told.
 */
final class SettingsCheck implements EnvironmentPostProcessor {
    /** All that can stand in the file of settings; what ends with a dot, with more behind it. README.md explains them. */
    static final List<String> KNOWN = List.of(
            "server.port",
            "server.address",
            "server.forward-headers-strategy",
            "server.tomcat.remoteip.internal-proxies",
            "server.servlet.context-path",
            "server.ssl.",
            "spring.ssl.bundle.",
            "spring.datasource.url",
            "spring.datasource.username",
            "spring.datasource.password",
            "spring.datasource.hikari.maximum-pool-size",
            "management.server.port",
            "logging.level.",
            "schublade.public-host",
            "schublade.key-file",
            "schublade.process",
            "schublade.sign-in-client");

    private static final int MOST_DIFFERENT = 6;

    @Override
    public void postProcessEnvironment(ConfigurableEnvironment environment, SpringApplication application) {
        String file = environment.getProperty("SCHUBLADE_SETTINGS");
        if (file != null && Files.exists(Path.of(file))) {
            check(Path.of(file));
        }
    }

    static void check(Path file) {
        Properties settings = new Properties();
        try (Reader in = Files.newBufferedReader(file)) {
            settings.load(in);
        } catch (IOException | IllegalArgumentException e) {
            throw new StartProblem(
                    "The settings in %s cannot be read: %s".formatted(file, e.getMessage()),
                    "A line is a name, a = and a value.");
        }
        for (String name : new TreeSet<>(settings.stringPropertyNames())) {
            if (KNOWN.stream().noneMatch(known -> known.endsWith(".") ? name.startsWith(known) : name.equals(known))) {
                throw new StartProblem(
                        "There is no setting %s, but it stands in %s.".formatted(name, file),
                        nearest(name)
                                .map(known -> "Is %s meant? README.md explains all of them.".formatted(known))
                                .orElse("There are: " + String.join(", ", KNOWN)));
            }
        }
        number(settings, file, "server.port", 65_535);
        number(settings, file, "management.server.port", 65_535);
        number(settings, file, "spring.datasource.hikari.maximum-pool-size", 1000);
    }

    private static void number(Properties settings, Path file, String name, int most) {
        String value = settings.getProperty(name);
        if (value != null && !(value.strip().matches("\\d{1,6}") && Integer.parseInt(value.strip()) <= most)) {
            throw new StartProblem(
                    "%s is “%s” in %s.".formatted(name, value, file), "It is a number of at most %d.".formatted(most));
        }
    }

    private static Optional<String> nearest(String name) {
        return KNOWN.stream()
                .min(Comparator.comparingInt(known -> distance(name, known)))
                .filter(known -> distance(name, known) <= MOST_DIFFERENT);
    }

    /** How many signs have to be put in, taken out or changed (Levenshtein). */
    private static int distance(String one, String other) {
        int[] row = new int[other.length() + 1];
        for (int j = 0; j <= other.length(); j++) {
            row[j] = j;
        }
        for (int i = 1; i <= one.length(); i++) {
            int diagonal = row[0];
            row[0] = i;
            for (int j = 1; j <= other.length(); j++) {
                int changed = diagonal + (one.charAt(i - 1) == other.charAt(j - 1) ? 0 : 1);
                diagonal = row[j];
                row[j] = Math.min(changed, 1 + Math.min(row[j], row[j - 1]));
            }
        }
        return row[other.length()];
    }
}
