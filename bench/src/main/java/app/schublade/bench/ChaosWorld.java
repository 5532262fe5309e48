package app.schublade.bench;

import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.Tone;
import app.schublade.mail.Credentials;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.standin.DovecotHost;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.RuleStore;
import app.schublade.store.user.UserStore;
import app.schublade.testing.Stores;
import com.zaxxer.hikari.HikariDataSource;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.flywaydb.core.Flyway;
import org.springframework.context.annotation.AnnotationConfigApplicationContext;

/**
 * What the chaos run kills: two applications in processes of their own, their database, and the mail server of
 * two accounts; and the stores, through which its user acts.
 */
final class ChaosWorld implements AutoCloseable {
    static final String RULED = "Ruled";
    static final String RULED_SENDER = "ruled.example";
    /** Held by whoever speaks to the mail server directly, so that what it kills is ours. */
    final Object mailServer = new Object();

    private final DovecotHost host = DovecotHost.start(DovecotHost.Shape.SLASH);
    private final List<String> logins = List.of(host.user(), host.user());
    final SmtpSink smtp;
    private final String database;
    private final Path directory;
    private final Process[] applications = new Process[2];
    private final AnnotationConfigApplicationContext stores;
    final long user;
    /** The first one gets mail; the second one gets what is carried over. */
    final List<Account> accounts = new ArrayList<>();

    ChaosWorld(long seed) throws Exception {
        smtp = new SmtpSink(seed);
        directory = Files.createTempDirectory("chaos");
        database = makeDatabase();
        HikariDataSource source =
                Stores.database(database, environment("SCHUBLADE_DB_USER"), environment("SCHUBLADE_DB_PASSWORD"), 16);
        source.setConnectionTimeout(2000);
        stores = Stores.on(source, directory.resolve("key"));
        user = bean(UserStore.class).add("chaos", "Chaos", "-").id();
        for (int i = 0; i < logins.size(); i++) {
            String login = logins.get(i);
            MailHost sending = new MailHost("127.0.0.1", smtp.port(), MailHost.Encryption.NONE, login);
            accounts.add(bean(AccountStore.class)
                    .add(
                            user,
                            new Account.Draft(
                                    "C" + i,
                                    "Chaos " + i,
                                    Tone.PETROL,
                                    login + "@quay.example",
                                    List.of(),
                                    new Account.Hosts(
                                            Account.Protocol.IMAP,
                                            mailHost(login),
                                            sending,
                                            Credentials.CredentialKind.PASSWORD),
                                    Account.Settings.USUAL,
                                    DovecotHost.PASSWORD)));
        }
        bean(RuleStore.class)
                .save(
                        user,
                        new Rule(
                                0,
                                RULED,
                                true,
                                List.of(Correspondent.sender(RULED_SENDER)),
                                List.of(),
                                List.of(new Effect.FileInto(
                                        bean(PlaceStore.class).folder(user, FolderPath.parse(RULED)))),
                                false));
        startApplication(0);
        startApplication(1);
    }

    private static String environment(String name) {
        String value = System.getenv(name);
        if (value == null) {
            throw new IllegalStateException(name + " is not set. Run this with ./schublade bench chaos.");
        }
        return value;
    }

    private static String makeDatabase() throws Exception {
        String server = environment("SCHUBLADE_TEST_DB");
        String user = environment("SCHUBLADE_DB_USER");
        String password = environment("SCHUBLADE_DB_PASSWORD");
        try (Connection connection = DriverManager.getConnection(server + "postgres", user, password);
                Statement statement = connection.createStatement()) {
            statement.execute("create database chaos");
            // Benchmarks need not keep what they committed; here a commit must outlive the death of the server.
            statement.execute("alter database chaos set synchronous_commit = on");
        }
        Flyway.configure().dataSource(server + "chaos", user, password).load().migrate();
        return server + "chaos";
    }

    <T> T bean(Class<T> type) {
        return stores.getBean(type);
    }

    FilingStore filing() {
        return bean(FilingStore.class);
    }

    private MailHost mailHost(String login) {
        return new MailHost("127.0.0.1", host.imapPort(), MailHost.Encryption.NONE, login);
    }

    /** A connection to one of the accounts, as another mail program has it. */
    ImapConnection connect(int number) throws MailException {
        return ImapConnection.open(mailHost(logins.get(number)), DovecotHost.PASSWORD, Duration.ofSeconds(20));
    }

    private void startApplication(int number) throws IOException {
        ProcessBuilder builder = new ProcessBuilder(
                ProcessHandle.current().info().command().orElse("java"),
                "-XX:TieredStopAtLevel=1",
                "-Xmx400m",
                "-cp",
                System.getProperty("java.class.path"),
                "app.schublade.SchubladeApplication",
                "--server.port=0",
                "--schublade.process=chaos-" + number,
                "--spring.datasource.url=" + database,
                "--schublade.key-file=" + directory.resolve("key"),
                "--logging.level.root=warn");
        builder.redirectErrorStream(true);
        builder.redirectOutput(ProcessBuilder.Redirect.appendTo(
                directory.resolve("application-" + number + ".log").toFile()));
        applications[number] = builder.start();
    }

    /** Kills an application as {@code kill -9} does, and starts it again. */
    void killApplication(int number) throws Exception {
        applications[number].destroyForcibly().waitFor();
        startApplication(number);
    }

    /** Starts applications again that have ended by themselves, because they started while the database was down. */
    void reviveApplications() throws IOException {
        for (int i = 0; i < applications.length; i++) {
            if (!applications[i].isAlive()) {
                startApplication(i);
            }
        }
    }

    void killMailServer() {
        synchronized (mailServer) {
            host.kill();
            host.start();
        }
    }

    void killDatabase() throws Exception {
        Path data = Path.of(environment("SCHUBLADE_PG_DIR"), "data");
        List<String> lines = Files.readAllLines(data.resolve("postmaster.pid"));
        ProcessHandle.of(Long.parseLong(lines.get(0).strip())).ifPresent(ProcessHandle::destroyForcibly);
        Thread.sleep(300);
        String options = Files.readString(data.resolve("postmaster.opts")).strip();
        List<String> command = new ArrayList<>();
        if (System.getProperty("user.name").equals("root")) {
            command.addAll(List.of("runuser", "-u", "postgres", "--"));
        }
        command.addAll(List.of(
                environment("SCHUBLADE_PG_BIN") + "/pg_ctl",
                "-D",
                data.toString(),
                "-w",
                "-t",
                "60",
                "-s",
                "-l",
                data.resolveSibling("postgres.log").toString(),
                "-o",
                options.substring(options.indexOf(' ') + 1).replace('"', '\''),
                "start"));
        for (int tries = 0; tries < 20; tries++) { // The children of the killed one need a moment to end.
            Process start = new ProcessBuilder(command)
                    .directory(Path.of("/").toFile())
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
            if (start.waitFor() == 0) {
                return;
            }
            Thread.sleep(500);
        }
        throw new IllegalStateException("The database does not start again; see postgres.log in " + data.getParent());
    }

    /** Where the applications write what they say. */
    Path logs() {
        return directory;
    }

    @Override
    public void close() {
        for (Process application : applications) {
            application.destroyForcibly();
        }
        stores.close();
        host.close();
        try {
            smtp.close();
        } catch (IOException e) {
            throw new UncheckedIOException("The sink does not close", e);
        }
    }
}
