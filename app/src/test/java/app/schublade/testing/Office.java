package app.schublade.testing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.SchubladeApplication;
import app.schublade.core.place.Tone;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.PictureSource;
import app.schublade.mail.UnsubscribeRequest;
import app.schublade.mail.discovery.Directory;
import app.schublade.mail.discovery.NetDirectory;
import app.schublade.mail.discovery.SrvRecord;
import app.schublade.standin.DemoAccount;
import app.schublade.standin.DovecotHost;
import app.schublade.standin.Standin;
import app.schublade.standin.world.World;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.filing.CountStore;
import app.schublade.store.user.UserStore;
import app.schublade.sync.AccountAdder;
import app.schublade.web.frame.CurrentUser;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.extension.AfterAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ParameterContext;
import org.junit.jupiter.api.extension.ParameterResolver;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.support.GenericApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;

/**
 * The real application on a real database, started once for all tests of a run. A test class takes it as a parameter:
 * {@code @ExtendWith(Office.Extension.class)}. Tests do not disturb each other because each has a user of its own.
 */
public final class Office implements AutoCloseable {
    public static final String PASSWORD = "correct horse";

    /** Of {@link #PASSWORD}; that a hash takes long to compute is no use here, with a new user for each test. */
    private static final String QUICK_HASH = Objects.requireNonNull(new BCryptPasswordEncoder(4).encode(PASSWORD));

    private static final AtomicInteger USERS = new AtomicInteger();

    private final ConfigurableApplicationContext context;
    private final AtomicReference<@Nullable Standin> published = new AtomicReference<>();
    private final List<URI> listsAsked = new CopyOnWriteArrayList<>();
    private final List<URI> picturesAsked = new CopyOnWriteArrayList<>();
    private final AtomicInteger listStatus = new AtomicInteger(200);

    private final Map<String, String> documents = new ConcurrentHashMap<>();
    private final String database;
    private final String keyFile;

    private Office(String database, String keyFile) {
        this.database = database;
        this.keyFile = keyFile;
        context = new SpringApplicationBuilder(SchubladeApplication.class)
                .initializers(this::replaceDirectory)
                .run(
                        "--server.port=0",
                        "--spring.datasource.url=" + database,
                        "--spring.datasource.username=" + Databases.USER,
                        "--spring.datasource.password=" + Databases.PASSWORD,
                        "--schublade.demo-accounts=",
                        "--schublade.key-file=" + keyFile);
    }

    /** An application with a database of its own. */
    public static Office alone() {
        try {
            return new Office(
                    Databases.fresh(),
                    Files.createTempDirectory("schublade").resolve("key").toString());
        } catch (IOException e) {
            throw new IllegalStateException("No place for the key file", e);
        }
    }

    /** Another process on the same database. */
    public Office another() {
        return new Office(database, keyFile);
    }

    private void replaceDirectory(ConfigurableApplicationContext starting) {
        ((GenericApplicationContext) starting)
                .registerBean(
                        "officeDirectory",
                        Directory.class,
                        () -> new PublishedByStandin(),
                        definition -> definition.setPrimary(true));
        ((GenericApplicationContext) starting)
                .registerBean(
                        "officeLists",
                        UnsubscribeRequest.class,
                        () -> this::answerForLists,
                        definition -> definition.setPrimary(true));
        ((GenericApplicationContext) starting)
                .registerBean(
                        "officePictures",
                        PictureSource.class,
                        () -> this::answerForPictures,
                        definition -> definition.setPrimary(true));
    }

    private byte[] answerForPictures(URI address) throws IOException {
        picturesAsked.add(address);
        return switch (address.getPath()) {
            case "/gone.png" -> throw new IOException("It is not there any more.");
            case "/page.png" -> "<html><script>x()</script></html>".getBytes(StandardCharsets.UTF_8);
            default -> World.picture(address.toString());
        };
    }

    /** Which pictures were fetched from outside. */
    public List<URI> picturesAsked() {
        return List.copyOf(picturesAsked);
    }

    private int answerForLists(URI address) {
        listsAsked.add(address);
        return listStatus.get();
    }

    /** From now on servers of mailing lists answer so when one wants to leave. */
    public void listsAnswer(int status) {
        listStatus.set(status);
    }

    /** Where it was asked to be taken off mailing lists. */
    public List<URI> listsAsked() {
        return List.copyOf(listsAsked);
    }

    /** What the stand-in that was named last publishes, in place of DNS and the web. */
    private final class PublishedByStandin implements Directory {
        @Override
        public List<SrvRecord> services(String name) {
            Standin asked = published.get();
            return (asked == null ? "" : asked.services(name))
                    .lines()
                    .map(NetDirectory::read)
                    .filter(Objects::nonNull)
                    .toList();
        }

        @Override
        public Optional<byte[]> document(String url) {
            String own = documents.get(url);
            if (own != null) {
                return Optional.of(own.getBytes(StandardCharsets.UTF_8));
            }
            Standin asked = published.get();
            return asked == null
                    ? Optional.empty()
                    : asked.document(url).map(text -> text.getBytes(StandardCharsets.UTF_8));
        }
    }

    /** Does something while nobody reaches the database of this office. */
    public void whileTheDatabaseIsAway(Runnable meanwhile) {
        Databases.whileAway(database, meanwhile);
        Await.until("the connections that were cut are gone", () -> {
            try (Connection connection = bean(DataSource.class).getConnection()) {
                return connection.isValid(1);
            } catch (SQLException e) {
                return false;
            }
        });
    }

    /** From now on the domains publish what these hosts say. */
    public void publishes(Standin hosts) {
        published.set(hosts);
    }

    /** From now on a document is published at an address of the web. */
    public void publishes(String url, String document) {
        documents.put(url, document);
    }

    /** Hands the office to tests that ask for it; whatever they did, the counts are true when a class ends. */
    public static final class Extension implements ParameterResolver, AfterAllCallback {
        @Override
        public boolean supportsParameter(ParameterContext parameter, ExtensionContext context) {
            return parameter.getParameter().getType() == Office.class;
        }

        @Override
        public Object resolveParameter(ParameterContext parameter, ExtensionContext context) {
            return Shared.OFFICE;
        }

        @Override
        public void afterAll(ExtensionContext context) {
            List<CountStore.Wrong> wrong = Cabinet.of(Shared.OFFICE).wrongCounts();
            if (!wrong.isEmpty()) {
                Shared.OFFICE
                        .bean(JdbcClient.class)
                        .sql("select id from app_user")
                        .query(Long.class)
                        .list()
                        .forEach(Shared.OFFICE.bean(CountStore.class)::mend);
            }
            assertThat(wrong)
                    .as("counts that a class leaves wrong; those after it have them right")
                    .isEmpty();
        }

        /** Where test classes are handed to several processes one by one, each is a run of its own: this outlives them. */
        private static final class Shared {
            static final Office OFFICE = alone();
        }
    }

    public ConfigurableApplicationContext context() {
        return context;
    }

    public <T> T bean(Class<T> type) {
        return context.getBean(type);
    }

    /** The address of the pages, without a slash at the end. */
    public String address() {
        return "http://127.0.0.1:" + context.getEnvironment().getRequiredProperty("local.server.port");
    }

    /** A new user whose password is {@link #PASSWORD}. */
    public CurrentUser person() {
        UserStore.User user = bean(UserStore.class).add("tilda" + USERS.incrementAndGet(), "Tilda Marwick", QUICK_HASH);
        return new CurrentUser(user.id(), user.login(), user.name(), "");
    }

    /** Adds an account of the demo world, as a user would. */
    public Account add(CurrentUser person, Standin hosts, String code) throws MailException {
        return bean(AccountAdder.class).add(person.id(), draft(hosts, code));
    }

    public static Account.Draft draft(Standin hosts, String code) {
        DemoAccount demo = DemoAccount.byCode(code).orElseThrow();
        return new Account.Draft(
                demo.code(),
                demo.name(),
                Tone.PETROL,
                demo.address(),
                demo.aliases(),
                new Account.Hosts(
                        Account.Protocol.IMAP,
                        new MailHost("127.0.0.1", hosts.imapPort(code), MailHost.Encryption.NONE, demo.address()),
                        new MailHost("127.0.0.1", hosts.smtpPort(), MailHost.Encryption.NONE, demo.address()),
                        Credentials.CredentialKind.PASSWORD),
                Account.Settings.USUAL,
                DemoAccount.PASSWORD);
    }

    /** An account on Debian's server, of the user who logs in there. */
    public static Account.Draft draft(String code, MailHost host) {
        return new Account.Draft(
                code,
                "Office",
                Tone.PETROL,
                host.login() + "@quay.example",
                List.of(),
                Account.Hosts.imap(host),
                Account.Settings.USUAL,
                DovecotHost.PASSWORD);
    }

    /** Adds an account and waits until all its mail is here. */
    public Account addAndImport(CurrentUser person, Standin hosts, String code) throws MailException {
        Account account = add(person, hosts, code);
        Await.until(code + " is imported", () -> state(account.id()) == Account.AccountState.CONNECTED);
        return account;
    }

    public Account.AccountState state(long account) {
        return bean(AccountStore.class).byId(account).orElseThrow().state();
    }

    @Override
    public void close() {
        context.close();
    }
}
