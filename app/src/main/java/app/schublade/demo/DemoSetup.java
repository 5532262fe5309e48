package app.schublade.demo;

import app.schublade.core.place.Tone;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailHost;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.user.UserStore;
import java.io.IOException;
import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Properties;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.SmartLifecycle;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/** Adds the demo's user and accounts at the first start, and tells where the mail hosts are at every start. */
@Component
class DemoSetup implements SmartLifecycle {
    private static final Logger LOG = LoggerFactory.getLogger(DemoSetup.class);
    private static final long HOSTS_START_MILLIS = 60_000;
    private static final String LOGIN = "demo";

    private final String file;
    private final boolean empty;
    private final UserStore users;
    private final AccountStore accounts;
    private final PasswordEncoder encoder;
    private boolean done;

    DemoSetup(
            @Value("${schublade.demo-accounts:}") String file,
            @Value("${schublade.demo-empty:}") String empty,
            UserStore users,
            AccountStore accounts,
            PasswordEncoder encoder) {
        this.file = file;
        this.empty = !empty.isEmpty();
        this.users = users;
        this.accounts = accounts;
        this.encoder = encoder;
    }

    @Override
    public void start() {
        done = true;
        if (!file.isEmpty()) {
            try {
                setUp(read(Path.of(file)));
            } catch (IOException e) {
                LOG.error("The demo's accounts cannot be read from {}: {}", file, e.getMessage());
            }
        }
    }

    private static Properties read(Path path) throws IOException {
        long end = System.currentTimeMillis() + HOSTS_START_MILLIS;
        while (!Files.exists(path) && System.currentTimeMillis() < end) {
            try {
                Thread.sleep(50); // The mail hosts start at the same time.
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw new IOException("The start was interrupted.", e);
            }
        }
        Properties properties = new Properties();
        try (Reader reader = Files.newBufferedReader(path)) {
            properties.load(reader);
        }
        return properties;
    }

    private void setUp(Properties hosts) {
        UserStore.User user = users.byLogin(LOGIN)
                .orElseGet(() -> users.add(LOGIN, "Tilda Marwick", String.valueOf(encoder.encode(LOGIN))));
        List<String> known =
                accounts.of(user.id()).stream().map(Account::address).toList();
        for (int i = 1; hosts.containsKey("account." + i + ".code"); i++) {
            String group = "account." + i + ".";
            Account.Draft draft = draft(hosts, group);
            if (known.contains(draft.address())) {
                accounts.moveHosts(user.id(), draft.address(), host(hosts, group, "port"), host(hosts, group, "smtp"));
            } else if (!empty) {
                accounts.add(user.id(), draft);
            }
        }
    }

    private static Account.Draft draft(Properties hosts, String group) {
        String address = hosts.getProperty(group + "address");
        return new Account.Draft(
                hosts.getProperty(group + "code"),
                hosts.getProperty(group + "name"),
                Tone.valueOf(hosts.getProperty(group + "tone").toUpperCase(Locale.ROOT)),
                address,
                Arrays.stream(hosts.getProperty(group + "aliases").split(" ", -1))
                        .filter(alias -> !alias.isEmpty())
                        .toList(),
                new Account.Hosts(
                        Account.Protocol.IMAP,
                        host(hosts, group, "port"),
                        host(hosts, group, "smtp"),
                        Credentials.CredentialKind.PASSWORD),
                Account.Settings.USUAL,
                hosts.getProperty(group + "password"));
    }

    private static MailHost host(Properties hosts, String group, String port) {
        return new MailHost(
                hosts.getProperty(group + "host"),
                Integer.parseInt(hosts.getProperty(group + port)),
                MailHost.Encryption.NONE,
                hosts.getProperty(group + "address"));
    }

    @Override
    public void stop() {
        done = false;
    }

    @Override
    public boolean isRunning() {
        return done;
    }

    /** Before the synchronisation, which starts last. */
    @Override
    public int getPhase() {
        return 0;
    }
}
