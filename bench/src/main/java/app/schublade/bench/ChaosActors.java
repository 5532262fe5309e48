package app.schublade.bench;

import app.schublade.core.place.FolderPath;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.RemoteFolder;
import app.schublade.mail.Sighting;
import app.schublade.store.FilingStore;
import app.schublade.store.PlaceStore;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentSkipListSet;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.TransactionException;

/** Those who act during the chaos run: a sender, the user, and another mail program of the user's. */
final class ChaosActors implements AutoCloseable {
    private static final List<String> FOLDERS =
            List.of("Loans", "Loans/Halden", "Schools", "Größe", "Archive", "INBOX");

    private final ChaosWorld world;
    private final long seed;
    private final List<Thread> threads;
    private volatile boolean stopped;
    /** Message-IDs that are on the server for certain. */
    final Set<String> delivered = new ConcurrentSkipListSet<>();
    /** Message-IDs that the other program has deleted. */
    final Set<String> deleted = new ConcurrentSkipListSet<>();

    /** Message-IDs that the other program has taken out of the Inbox, perhaps before any rule saw them. */
    final Set<String> takenFromInbox = new ConcurrentSkipListSet<>();

    private final AtomicInteger sent = new AtomicInteger();
    private final AtomicInteger filed = new AtomicInteger();
    private final AtomicInteger moved = new AtomicInteger();

    ChaosActors(ChaosWorld world, long seed) {
        this.world = world;
        this.seed = seed;
        threads = List.of(new Thread(this::send), new Thread(this::file), new Thread(this::useAnotherProgram));
    }

    void start() {
        threads.forEach(Thread::start);
    }

    void stop() throws InterruptedException {
        stopped = true;
        for (Thread thread : threads) {
            thread.join();
        }
    }

    String told() {
        return "%d delivered, %d filed or marked by the user, %d moved or marked elsewhere, %d deleted elsewhere"
                .formatted(delivered.size(), filed.get(), moved.get(), deleted.size());
    }

    private interface Act {
        void run(Random random) throws MailException;
    }

    /** Repeats an act with pauses; what fails because something was killed is left, for another one to come. */
    private void repeat(long salt, int pauseMillis, Act act) {
        Random random = new Random(seed * 31 + salt);
        while (!stopped) {
            try {
                TimeUnit.MILLISECONDS.sleep(random.nextInt(pauseMillis));
                act.run(random);
            } catch (MailException | DataAccessException | TransactionException e) {
                // Killed in the middle; the checks at the end find out what came of it.
            } catch (InterruptedException e) {
                return;
            }
        }
    }

    private void send() {
        repeat(1, 600, random -> {
            String id = "chaos-%d@sender.example".formatted(sent.incrementAndGet());
            String from = random.nextInt(3) == 0 ? "robot@" + ChaosWorld.RULED_SENDER : "anna@westwharf.example";
            byte[] letter = "From: %s\r\nTo: tilda@quay.example\r\nSubject: Number %s\r\nMessage-ID: <%s>\r\n\r\n%s\r\n"
                    .formatted(from, id, id, "Hello. ".repeat(random.nextInt(400)))
                    .getBytes(StandardCharsets.UTF_8);
            synchronized (world.mailServer) {
                try (ImapConnection imap = world.connect()) {
                    imap.append("INBOX", letter, Instant.now().plusSeconds(1));
                    delivered.add(id);
                }
            }
        });
    }

    private void file() {
        repeat(2, 500, random -> {
            List<Long> some = world.bean(JdbcClient.class)
                    .sql("select id from message where user_id = ? order by random() limit ?")
                    .params(world.user, 1 + random.nextInt(4))
                    .query(Long.class)
                    .list();
            if (some.isEmpty()) {
                return;
            }
            FolderPath path = FolderPath.parse(FOLDERS.get(random.nextInt(FOLDERS.size() - 1)));
            long folder = world.bean(PlaceStore.class).folder(world.user, path).id();
            int what = random.nextInt(4);
            world.filing().act(world.user, FilingStore.Cause.HAND, "Chaos", some, state -> switch (what) {
                case 0 -> state.unread(!state.unread());
                case 1 -> state.flagged(!state.flagged());
                default -> state.in(folder);
            });
            filed.addAndGet(some.size());
        });
    }

    private void useAnotherProgram() {
        repeat(3, 1200, random -> {
            synchronized (world.mailServer) {
                try (ImapConnection imap = world.connect()) {
                    List<RemoteFolder> folders = imap.folders().stream()
                            .filter(RemoteFolder::selectable)
                            .toList();
                    String folder = folders.get(random.nextInt(folders.size())).serverName();
                    imap.open(folder);
                    List<Sighting> there = imap.sightings(1);
                    if (!there.isEmpty()) {
                        act(imap, folder, there.get(random.nextInt(there.size())), random);
                    }
                }
            }
        });
    }

    private void act(ImapConnection imap, String folder, Sighting one, Random random) throws MailException {
        List<Long> uid = List.of(one.uid());
        switch (random.nextInt(5)) {
            case 0 -> {
                deleted.addAll(ids(imap, uid));
                imap.remove(uid);
            }
            case 1 -> imap.mark(uid, "\\Seen", !one.seen());
            case 2 -> imap.mark(uid, "\\Flagged", !one.flagged());
            default -> {
                if (folder.equals("INBOX")) {
                    takenFromInbox.addAll(ids(imap, uid));
                }
                imap.move(uid, imap.create(FolderPath.parse(FOLDERS.get(random.nextInt(FOLDERS.size() - 1)))));
            }
        }
        moved.incrementAndGet();
    }

    static Set<String> ids(ImapConnection imap, List<Long> uids) throws MailException {
        Set<String> ids = new TreeSet<>();
        for (var glance : imap.fetchIds(uids)) {
            ids.add(app.schublade.core.format.Identity.of(glance.source()));
        }
        return ids;
    }

    @Override
    public void close() {
        stopped = true;
        threads.forEach(Thread::interrupt);
    }
}
