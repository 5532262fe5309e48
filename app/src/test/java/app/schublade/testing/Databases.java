package app.schublade.testing;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.atomic.AtomicInteger;
import org.flywaydb.core.Flyway;
import org.jspecify.annotations.Nullable;

/** Databases for tests: one is made by the real migrations, every other is a copy of it. */
public final class Databases {
    private static final AtomicInteger COUNT = new AtomicInteger();
    private static final String SERVER = need("SCHUBLADE_TEST_DB");
    private static @Nullable String template;

    public static final String USER = need("SCHUBLADE_DB_USER");
    public static final String PASSWORD = need("SCHUBLADE_DB_PASSWORD");

    private Databases() {}

    private static String need(String name) {
        String value = System.getenv(name);
        if (value == null) {
            throw new IllegalStateException(name + " is not set. Run the tests with ./schublade test.");
        }
        return value;
    }

    /** The address of a new database with all tables and nothing in them. */
    public static synchronized String fresh() {
        String original = template;
        if (original == null) {
            original = create("template0");
            template = original;
            Flyway.configure()
                    .dataSource(SERVER + original, USER, PASSWORD)
                    .load()
                    .migrate();
        }
        return SERVER + create(original);
    }

    /** The address of a new database that holds what was written out of an older one, brought to today's shape. */
    public static String kept(String script) {
        String address = SERVER + create("template0");
        try (Connection connection = DriverManager.getConnection(address, USER, PASSWORD);
                Statement statement = connection.createStatement()) {
            statement.execute(script);
        } catch (SQLException e) {
            throw new IllegalStateException("What was kept cannot be brought back", e);
        }
        Flyway.configure().dataSource(address, USER, PASSWORD).load().migrate();
        return address;
    }

    /** Meanwhile a database lets nobody in, as if it were not there. */
    static void whileAway(String address, Runnable meanwhile) {
        String name = address.substring(address.lastIndexOf('/') + 1);
        tell("alter database %s with allow_connections false".formatted(name));
        try {
            tell("select pg_terminate_backend(pid) from pg_stat_activity where datname = '%s'".formatted(name));
            meanwhile.run();
        } finally {
            tell("alter database %s with allow_connections true".formatted(name));
        }
    }

    private static void tell(String command) {
        try (Connection connection = DriverManager.getConnection(SERVER + "postgres", USER, PASSWORD);
                Statement statement = connection.createStatement()) {
            statement.execute(command);
        } catch (SQLException e) {
            throw new IllegalStateException("The database server at %s refuses: %s".formatted(SERVER, command), e);
        }
    }

    private static String create(String original) {
        String name = "test_%d_%d".formatted(ProcessHandle.current().pid(), COUNT.incrementAndGet());
        tell("create database %s template %s".formatted(name, original));
        return name;
    }
}
