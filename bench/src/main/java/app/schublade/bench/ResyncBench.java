package app.schublade.bench;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.Tone;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.RemoteFolder;
import app.schublade.standin.DovecotHost;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.sync.AccountAdder;
import app.schublade.sync.Synchroniser;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * Import from a real IMAP server against the bare fetch with the same library, the time of a look at everything when
 * nothing has changed, and what the import holds in memory as it goes on.
 */
final class ResyncBench {
    private static final int BATCH = 100;
    private static final int SMALL_BYTES = 256 * 1024;
    private static final List<String> FOLDERS = List.of("INBOX", "Loans", "Schools", "Archive");
    private static final int LOOKS = 5;
    private static final int WARM_UP = 5_000;

    private ResyncBench() {}

    static void run(int messages) throws Exception {
        try (DovecotHost first = DovecotHost.start(DovecotHost.Shape.SLASH);
                DovecotHost server = DovecotHost.start(DovecotHost.Shape.SLASH);
                Application application = new Application()) {
            warmUp(application, host(first), WARM_UP);
            MailHost host = host(server);
            fill(host, messages);
            long begin = System.nanoTime();
            int fetched = fetchAll(host, messages);
            double bare = fetched / seconds(begin);
            begin = System.nanoTime();
            Account account = add(application, host, "RE");
            List<String> held = watchImport(application, account, messages);
            double whole = messages / seconds(begin);
            awaitFindable(application, WARM_UP + messages);
            double findable = messages / seconds(begin);
            begin = System.nanoTime();
            double again = fetchAll(host, messages) / seconds(begin);
            System.out.printf("bare fetch   %,8.0f messages/s before, %,.0f after (%,d)%n", bare, again, fetched);
            System.out.printf("import       %,8.0f messages/s%n", whole);
            System.out.printf("ratio        %8.2f of the bare fetch%n", whole / ((bare + again) / 2));
            System.out.printf("findable     %,8.0f messages/s, from the beginning of the import%n", findable);
            System.out.printf("held         %s%n", String.join(", ", held));
            look(application, account);
        }
    }

    private static MailHost host(DovecotHost server) {
        return new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.NONE, server.user());
    }

    /** Both ways of taking everything in, of another account, so that neither is compiled while it is measured. */
    private static void warmUp(Application application, MailHost host, int messages) throws Exception {
        fill(host, messages);
        fetchAll(host, messages);
        watchImport(application, add(application, host, "WU"), messages);
        awaitFindable(application, messages);
    }

    /** Finding by words follows behind the import. */
    private static void awaitFindable(Application application, int messages) throws InterruptedException {
        JdbcClient jdbc = application.bean(JdbcClient.class);
        while (jdbc.sql("select count(*) from message_search")
                        .query(Integer.class)
                        .single()
                < messages) {
            Thread.sleep(100);
        }
    }

    private static double seconds(long begin) {
        return (System.nanoTime() - begin) / 1e9;
    }

    private static void fill(MailHost host, int messages) throws MailException {
        Random random = new Random(1);
        try (ImapConnection imap = connect(host)) {
            List<String> names = new ArrayList<>();
            for (String folder : FOLDERS) {
                names.add(imap.create(FolderPath.parse(folder)));
            }
            Instant began = Instant.parse("2024-01-01T08:00:00Z");
            for (int i = 0; i < messages; i++) {
                String text =
                        "From: writer%d@sender%d.example\r\nTo: tilda@quay.example\r\nSubject: Number %d\r\nMessage-ID: <n%d@bench.example>\r\n\r\n%s\r\n"
                                .formatted(i % 400, i % 90, i, i, words(random));
                imap.append(
                        names.get(i % names.size()),
                        text.getBytes(StandardCharsets.US_ASCII),
                        began.plusSeconds(600L * i));
            }
        }
    }

    /** Some 2 KB of words. */
    private static String words(Random random) {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < 300; i++) {
            text.append("word").append(random.nextInt(20_000)).append(i % 12 == 11 ? "\r\n" : " ");
        }
        return text.toString();
    }

    private static ImapConnection connect(MailHost host) throws MailException {
        return ImapConnection.open(host, DovecotHost.PASSWORD, Duration.ofMinutes(1));
    }

    private static int fetchAll(MailHost host, int most) throws MailException {
        int fetched = 0;
        try (ImapConnection imap = connect(host)) {
            for (RemoteFolder folder : imap.folders()) {
                imap.open(folder.serverName());
                long[] uids = imap.uids();
                for (int end = uids.length; end > 0 && fetched < most; end -= BATCH) {
                    List<Long> some = new ArrayList<>();
                    for (int i = Math.max(0, end - BATCH); i < end; i++) {
                        some.add(uids[i]);
                    }
                    fetched += imap.fetch(some, SMALL_BYTES).size();
                }
            }
        }
        return fetched;
    }

    private static Account add(Application application, MailHost host, String code) throws MailException {
        return application
                .bean(AccountAdder.class)
                .add(
                        application.user,
                        new Account.Draft(
                                code,
                                "Bench",
                                Tone.PETROL,
                                "tilda-%s@quay.example".formatted(code.toLowerCase(Locale.ROOT)),
                                List.of(),
                                Account.Hosts.imap(host),
                                Account.Settings.USUAL,
                                DovecotHost.PASSWORD));
    }

    /** Waits for the end of the import; at each quarter, what the heap holds after a collection. */
    private static List<String> watchImport(Application application, Account account, int messages) throws Exception {
        AccountStore accounts = application.bean(AccountStore.class);
        List<String> held = new ArrayList<>();
        int quarter = 1;
        while (true) {
            Account now = accounts.byId(account.id()).orElseThrow();
            if (quarter < 4 && now.status().imported() >= messages / 4 * quarter) {
                System.gc();
                Runtime runtime = Runtime.getRuntime();
                held.add("%d MB at %d %%"
                        .formatted((runtime.totalMemory() - runtime.freeMemory()) / (1024 * 1024), 25 * quarter));
                quarter++;
            }
            if (now.state() == Account.AccountState.CONNECTED) {
                return held;
            }
            Thread.sleep(20);
        }
    }

    private static void look(Application application, Account account) throws Exception {
        AccountStore accounts = application.bean(AccountStore.class);
        Synchroniser synchroniser = application.bean(Synchroniser.class);
        double best = Double.MAX_VALUE;
        double worst = 0;
        for (int i = 0; i < LOOKS; i++) {
            synchroniser.forget(account.id());
            accounts.report(account.id(), Account.AccountState.NEW, null, null);
            long begin = System.nanoTime();
            synchroniser.serve(accounts.byId(account.id()).orElseThrow());
            while (accounts.byId(account.id()).orElseThrow().state() != Account.AccountState.CONNECTED) {
                Thread.sleep(1);
            }
            best = Math.min(best, seconds(begin));
            worst = Math.max(worst, seconds(begin));
        }
        System.out.printf("nothing new  %8.3f s best, %.3f s worst, log-in included (%d looks)%n", best, worst, LOOKS);
    }
}
