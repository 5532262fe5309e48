package app.schublade.bench;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.SentTo;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.query.Query;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.standin.DemoAccount;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.RuleStore;
import app.schublade.sync.AccountAdder;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;

/**
 * From the last byte of SMTP to the message lying in its folder, filed by a rule; beside nothing but being told of it by
 * the same library on a connection of its own.
 */
final class ArrivalBench {
    private static final String SCHOOLS = "schools@lanternquay.example";
    private static final int WARM_UP = 10;

    private ArrivalBench() {}

    static void run(int messages) throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(2000));
                Application application = new Application()) {
            DemoAccount museum = DemoAccount.byCode("MU").orElseThrow();
            FolderRef schools =
                    application.bean(PlaceStore.class).folder(application.user, FolderPath.parse("Schools/Visits"));
            application
                    .bean(RuleStore.class)
                    .save(
                            application.user,
                            new Rule(
                                    0,
                                    "Schools",
                                    true,
                                    List.of(new SentTo(List.of(SCHOOLS))),
                                    List.of(),
                                    List.of(new Effect.FileInto(schools)),
                                    false));
            Account account =
                    application.bean(AccountAdder.class).add(application.user, Application.draft(hosts, museum));
            while (application
                            .bean(AccountStore.class)
                            .byId(account.id())
                            .orElseThrow()
                            .state()
                    != Account.AccountState.CONNECTED) {
                Thread.sleep(20);
            }
            measure(hosts, application, schools.id(), messages);
        }
    }

    private static void measure(Standin hosts, Application application, long folder, int messages) throws Exception {
        BlockingQueue<Long> told = new LinkedBlockingQueue<>();
        Times heard = new Times();
        Times filed = new Times();
        Times afterSmtp = new Times();
        ImapConnection watch = watch(hosts, told);
        for (int i = 0; i < messages + WARM_UP; i++) {
            told.clear();
            String subject = "Visit " + i;
            long begin = System.nanoTime();
            hosts.deliver("anna@westwharf-school.example", SCHOOLS, subject, "We are many.");
            long delivered = System.nanoTime();
            Long hear = told.poll(10, TimeUnit.SECONDS);
            while (!newest(application, folder).equals(subject)) {
                Thread.sleep(1);
            }
            if (i >= WARM_UP && hear != null) {
                long end = System.nanoTime();
                heard.add(hear - begin);
                filed.add(end - begin);
                afterSmtp.add(Math.max(0, end - delivered));
            }
            Thread.sleep(150); // As mail comes: one after the other, the orders of the one before done.
        }
        watch.close();
        System.out.println("since the sender began: told by IDLE   " + heard);
        System.out.println("since the sender began: filed by rule  " + filed);
        System.out.printf(
                "ratio                                  %.1f (medians)%n", filed.millis(0.5) / heard.millis(0.5));
        System.out.println("since SMTP ended:       filed by rule  " + afterSmtp);
    }

    private static ImapConnection watch(Standin hosts, BlockingQueue<Long> told) throws Exception {
        ImapConnection imap = ImapConnection.open(
                Application.host(hosts, DemoAccount.byCode("MU").orElseThrow()),
                DemoAccount.PASSWORD,
                Duration.ofMinutes(10));
        imap.open("INBOX");
        Thread thread = new Thread(() -> {
            try {
                imap.watch(() -> told.add(System.nanoTime()));
            } catch (MailException e) {
                // Closed at the end.
            }
        });
        thread.setDaemon(true);
        thread.start();
        return imap;
    }

    private static String newest(Application application, long folder) {
        return application
                .bean(ListStore.class)
                .page(
                        application.user,
                        ListStore.Ranks.NONE,
                        ListQuery.newest(new Query.InFolder(new FolderRef(folder, FolderPath.parse("A folder"))), 1))
                .stream()
                .findFirst()
                .map(line -> line.row().subject())
                .orElse("");
    }
}
