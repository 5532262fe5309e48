package app.schublade.bench;

import app.schublade.mail.Fetched;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.RemoteFolder;
import app.schublade.mail.Sighting;
import app.schublade.standin.DemoAccount;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.sync.AccountAdder;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;

/** The import of an account, beside nothing but fetching the same messages with the same library. */
final class ImportBench {
    private static final int BATCH = 100;
    private static final int MAX_BYTES = 20 * 1024 * 1024;

    private ImportBench() {}

    static void run(int messages) throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(messages));
                Application application = new Application()) {
            DemoAccount museum = DemoAccount.byCode("MU").orElseThrow();
            fetchAll(hosts, museum); // Once to warm up both sides of the wire.
            long begin = System.nanoTime();
            int fetched = fetchAll(hosts, museum);
            double bare = fetched / seconds(begin);
            begin = System.nanoTime();
            int imported = importAll(application, hosts, museum);
            double whole = imported / seconds(begin);
            begin = System.nanoTime();
            double again = fetchAll(hosts, museum) / seconds(begin);
            System.out.printf(
                    "bare fetch   %,8.0f messages/s before, %,.0f after (%,d messages)%n", bare, again, fetched);
            System.out.printf("import       %,8.0f messages/s (%,d messages)%n", whole, imported);
            System.out.printf("ratio        %8.2f of the bare fetch%n", whole / ((bare + again) / 2));
        }
    }

    private static double seconds(long begin) {
        return (System.nanoTime() - begin) / 1e9;
    }

    private static int fetchAll(Standin hosts, DemoAccount account) throws MailException {
        int fetched = 0;
        try (ImapConnection imap =
                ImapConnection.open(Application.host(hosts, account), DemoAccount.PASSWORD, Duration.ofMinutes(1))) {
            for (RemoteFolder folder : imap.folders()) {
                if (folder.selectable()) {
                    imap.open(folder.serverName());
                    fetched += fetchFolder(imap);
                }
            }
        }
        return fetched;
    }

    private static int fetchFolder(ImapConnection imap) throws MailException {
        List<Long> uids = imap.sightings(1).stream()
                .map(Sighting::uid)
                .sorted(Comparator.reverseOrder())
                .toList();
        int fetched = 0;
        for (int i = 0; i < uids.size(); i += BATCH) {
            List<Fetched> some = imap.fetch(uids.subList(i, Math.min(uids.size(), i + BATCH)), MAX_BYTES);
            fetched += some.size();
        }
        return fetched;
    }

    private static int importAll(Application application, Standin hosts, DemoAccount account) throws Exception {
        Account added = application.bean(AccountAdder.class).add(application.user, Application.draft(hosts, account));
        AccountStore accounts = application.bean(AccountStore.class);
        while (accounts.byId(added.id()).orElseThrow().state() != Account.AccountState.CONNECTED) {
            Thread.sleep(5);
        }
        return application.bean(PlaceStore.class).of(application.user, null).folders().stream()
                .mapToInt(Places.Folder::total)
                .sum();
    }
}
