package app.schublade.store.base;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import org.springframework.jdbc.support.JdbcTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Seals all accounts' passwords with a new key, while Schublade is stopped. The new key is on the disk before anything is
 * sealed with it, so that a cut at any moment leaves a key for what the database holds.
 */
public final class KeyChange {
    private KeyChange() {}

    /** Where a new key lies until it takes the place of the old one. */
    static Path next(Path key) {
        return key.resolveSibling(key.getFileName() + ".new");
    }

    /** @param arguments the file of the key; the database stands in the environment */
    public static void main(String[] arguments) throws IOException {
        Map<String, String> environment = System.getenv();
        DriverManagerDataSource database = new DriverManagerDataSource(
                environment.getOrDefault("SCHUBLADE_DB_URL", ""),
                environment.getOrDefault("SCHUBLADE_DB_USER", ""),
                environment.getOrDefault("SCHUBLADE_DB_PASSWORD", ""));
        try {
            change(
                    JdbcClient.create(database),
                    new TransactionTemplate(new JdbcTransactionManager(database)),
                    Path.of(arguments[0]));
            System.out.println("The accounts' passwords are sealed with a new key.");
        } catch (StartProblem e) {
            System.err.println(e.getMessage() + "\n" + e.wayOut());
            System.exit(1);
        }
    }

    /** Leaves the old key beside the new one, with the day in its name, for backups made before. */
    static void change(JdbcClient jdbc, TransactionTemplate transaction, Path file) throws IOException {
        List<byte[]> sealed = new Database(jdbc).sealed();
        if (Files.exists(next(file)) && !sealed.isEmpty() && Secrets.opens(next(file), sealed)) {
            takeItsPlace(file); // An earlier change was cut off after the passwords had been sealed.
            return;
        }
        Secrets before = new Secrets(file, sealed);
        Secrets after = new Secrets(next(file), List.of());
        transaction.executeWithoutResult(status -> accounts(jdbc)
                .forEach((account, secret) -> jdbc.sql("update account set secret = ? where id = ?")
                        .params(after.seal(before.open(secret)), account)
                        .update()));
        takeItsPlace(file);
    }

    private static void takeItsPlace(Path file) throws IOException {
        String day =
                LocalDateTime.now(ZoneId.systemDefault()).format(DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss-SSS"));
        Files.copy(file, file.resolveSibling(file.getFileName() + ".until-" + day), StandardCopyOption.COPY_ATTRIBUTES);
        Files.move(next(file), file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    private static Map<Long, byte[]> accounts(JdbcClient jdbc) {
        return jdbc
                .sql("select id, secret from account order by id for update")
                .query((row, number) -> Map.entry(row.getLong("id"), row.getBytes("secret")))
                .list()
                .stream()
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }
}
