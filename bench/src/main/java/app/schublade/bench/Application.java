package app.schublade.bench;

import app.schublade.SchubladeApplication;
import app.schublade.core.place.Tone;
import app.schublade.mail.MailHost;
import app.schublade.standin.DemoAccount;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.user.UserStore;
import java.nio.file.Files;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.security.crypto.password.PasswordEncoder;

/** The real application on a new database, with one user. */
final class Application implements AutoCloseable {
    static final String LOGIN = "bench";
    static final String PASSWORD = "bench bench";

    private final ConfigurableApplicationContext context;
    final long user;

    Application() throws Exception {
        String server = System.getenv("SCHUBLADE_TEST_DB");
        String login = System.getenv("SCHUBLADE_DB_USER");
        String password = System.getenv("SCHUBLADE_DB_PASSWORD");
        if (server == null || login == null || password == null) {
            throw new IllegalStateException("There is no database. Run this with ./schublade bench.");
        }
        String name = "bench_" + System.nanoTime();
        try (Connection connection = DriverManager.getConnection(server + "postgres", login, password);
                Statement statement = connection.createStatement()) {
            statement.execute("create database " + name);
        }
        context = new SpringApplicationBuilder(SchubladeApplication.class, ServerClock.class)
                .run(
                        "--server.port=0",
                        "--logging.level.root=warn",
                        "--logging.level.com.icegreen=off",
                        "--spring.datasource.url=" + server + name,
                        "--spring.datasource.username=" + login,
                        "--spring.datasource.password=" + password,
                        "--schublade.demo-accounts=",
                        "--schublade.key-file="
                                + Files.createTempDirectory("schublade").resolve("key"));
        String hashed = String.valueOf(bean(PasswordEncoder.class).encode(PASSWORD));
        user = bean(UserStore.class).add(LOGIN, "Bench", hashed).id();
    }

    <T> T bean(Class<T> type) {
        return context.getBean(type);
    }

    String address() {
        return "http://127.0.0.1:" + context.getEnvironment().getRequiredProperty("local.server.port");
    }

    static MailHost host(Standin hosts, DemoAccount account) {
        return new MailHost("127.0.0.1", hosts.imapPort(account.code()), MailHost.Encryption.NONE, account.address());
    }

    static Account.Draft draft(Standin hosts, DemoAccount account) {
        return new Account.Draft(
                account.code(),
                account.name(),
                Tone.PETROL,
                account.address(),
                account.aliases(),
                Account.Hosts.imap(host(hosts, account)),
                Account.Settings.USUAL,
                DemoAccount.PASSWORD);
    }

    @Override
    public void close() {
        context.close();
    }
}
