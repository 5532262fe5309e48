package app.schublade.bench;

import app.schublade.core.filing.State;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.message.Address;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.RemoteFolder;
import app.schublade.mail.Sighting;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.cabinet.LabelStore;
import app.schublade.store.filing.MessageCopier;
import app.schublade.store.filing.UndoStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.place.PlaceStore;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentSkipListSet;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.TransactionException;

/** Those who act during the chaos run: a sender, the user, and another mail program of the user's. */
final class ChaosActors implements AutoCloseable {
    private static final List<String> FOLDERS =
            List.of("Loans", "Loans/Halden", "Schools", "Größe", "Archive", "INBOX");

    /** Windows in which the user rearranges places, and what places. */
    private static final int WINDOWS = 10;

    private static final List<FolderPath> OWN = Stream.of(
                    "Own", "Own/One", "Own/One/Deep", "Own/Two", "Other", "Other/One")
            .map(FolderPath::parse)
            .toList();

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

    /** By Message-ID: how many copies of it the user may have made, in either account. */
    final Map<String, Integer> copied = new ConcurrentHashMap<>();

    /** The subjects of what the user has sent for certain. */
    final Set<String> written = new ConcurrentSkipListSet<>();

    private final AtomicInteger sent = new AtomicInteger();
    private final AtomicInteger begun = new AtomicInteger();
    private final AtomicInteger filed = new AtomicInteger();
    private final AtomicInteger moved = new AtomicInteger();
    private final AtomicInteger rearranged = new AtomicInteger();
    private final AtomicInteger triaged = new AtomicInteger();

    ChaosActors(ChaosWorld world, long seed) {
        this.world = world;
        this.seed = seed;
        threads = Stream.concat(
                        Stream.<Runnable>of(
                                this::send, this::file, this::copy, this::write, this::triage, this::useAnotherProgram),
                        IntStream.range(0, WINDOWS).<Runnable>mapToObj(number -> () -> rearrange(10 + number)))
                .map(Thread::new)
                .toList();
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
        int copies = copied.values().stream().mapToInt(Integer::intValue).sum();
        return "%d delivered, %d filed or marked by the user, %d acts on places, %d of triage, %d copied or carried over, %d written, %d moved or marked elsewhere, %d deleted elsewhere"
                .formatted(
                        delivered.size(),
                        filed.get(),
                        rearranged.get(),
                        triaged.get(),
                        copies,
                        written.size(),
                        moved.get(),
                        deleted.size());
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
                try (ImapConnection imap = world.connect(0)) {
                    imap.append("INBOX", letter, Instant.now().plusSeconds(1));
                    delivered.add(id);
                }
            }
        });
    }

    private void file() {
        repeat(2, 500, random -> {
            List<Long> some = some(1 + random.nextInt(4));
            if (some.isEmpty()) {
                return;
            }
            long folder = folder(random);
            int what = random.nextInt(4);
            world.filing().act(world.user, Cause.HAND, "Chaos", some, state -> switch (what) {
                case 0 -> state.unread(!state.unread());
                case 1 -> state.flagged(!state.flagged());
                default -> state.in(folder);
            });
            filed.addAndGet(some.size());
        });
    }

    /** Messages of the user's, but not what the user wrote: that is to be found in Sent. */
    List<Long> some(int most) {
        return world.bean(JdbcClient.class)
                .sql("""
                        select m.id from message m join message_head h on h.message_id = m.id
                        where m.user_id = ? and h.internet_id like 'chaos-%' order by random() limit ?
                        """)
                .params(world.user, most)
                .query(Long.class)
                .list();
    }

    private long folder(Random random) {
        FolderPath path = FolderPath.parse(FOLDERS.get(random.nextInt(FOLDERS.size() - 1)));
        return world.bean(PlaceStore.class).folder(world.user, path).id();
    }

    /** Copies into a folder, carries over to the other account, or takes back what was done last. */
    private void copy() {
        repeat(4, 2500, random -> {
            MessageCopier copier = world.bean(MessageCopier.class);
            List<Long> some = some(1 + random.nextInt(2));
            if (some.isEmpty()) {
                return;
            }
            // Noted before: whether it was done is not known if the database is killed meanwhile.
            world.bean(JdbcClient.class)
                    .sql("select internet_id from message_head where message_id = any(?)")
                    .param(some.toArray(Long[]::new))
                    .query(String.class)
                    .list()
                    .forEach(id -> copied.merge(id, 1, Integer::sum));
            switch (random.nextInt(3)) {
                case 0 -> copier.copyInto(world.user, "Copied", some, folder(random), 0);
                case 1 -> {
                    long to = world.accounts.get(random.nextInt(2)).id();
                    copier.carryOver(world.user, "Carried", some, to, 0);
                }
                default -> world.bean(UndoStore.class).latest(world.user);
            }
        });
    }

    /** In one of several windows: puts on labels, makes, renames, merges and deletes folders and labels, takes back. */
    private void rearrange(int window) {
        FolderStore folders = world.bean(FolderStore.class);
        LabelStore labels = world.bean(LabelStore.class);
        PlaceStore places = world.bean(PlaceStore.class);
        repeat(window, 4000, random -> {
            FolderPath path = OWN.get(random.nextInt(OWN.size()));
            FolderPath other = OWN.get(random.nextInt(OWN.size()));
            try {
                switch (random.nextInt(8)) {
                    case 0, 1 -> {
                        long folder = places.folder(world.user, path).id();
                        actOnSome(random, state -> state.in(folder));
                    }
                    case 2, 3 -> {
                        long label = places.label(world.user, path).id();
                        boolean on = random.nextInt(3) > 0;
                        actOnSome(random, state -> state.with(label, on));
                    }
                    case 4 ->
                        places.of(world.user, null)
                                .label(places.label(world.user, path).id())
                                .ifPresent(label -> labels.remove(world.user, label));
                    case 5 -> folders.rename(world.user, known(path), other);
                    case 6 -> folders.merge(world.user, known(path), known(other));
                    default -> {
                        if (random.nextBoolean()) {
                            folders.delete(world.user, known(path));
                        } else {
                            world.bean(UndoStore.class).latest(world.user);
                        }
                    }
                }
                rearranged.incrementAndGet();
            } catch (InputProblem e) {
                // Said to the user: it is gone by now, or cannot be done with that folder.
            }
        });
    }

    private FolderStore.Portrait known(FolderPath path) {
        long folder = world.bean(PlaceStore.class).folder(world.user, path).id();
        return world.bean(FolderStore.class)
                .portrait(world.user, folder)
                .orElseThrow(() -> new InputProblem("It is gone."));
    }

    void actOnSome(Random random, UnaryOperator<State> change) {
        world.filing().act(world.user, Cause.HAND, "Chaos", some(1 + random.nextInt(10)), change);
    }

    private void write() {
        repeat(5, 3000, random -> {
            Account from = world.accounts.get(random.nextInt(2));
            String subject = "Written " + begun.incrementAndGet();
            Address to = new Address("Anna", "anna@wharf.example");
            OutgoingStore outgoing = world.bean(OutgoingStore.class);
            long id = outgoing.begin(
                    world.user,
                    new OutgoingStore.DraftText(from.id(), from.address(), to.email(), "", "", subject, "Hello", null),
                    null,
                    null,
                    List.of());
            OutgoingMessage outline = new OutgoingMessage(
                    new Address("Chaos", from.address()), List.of(to), List.of(), subject, "Hello", null, List.of());
            if (outgoing.send(
                    world.user, id, outline, Instant.now(), Instant.now().plusSeconds(1))) {
                written.add(subject);
            }
        });
    }

    private void triage() {
        TriageActor triage = new TriageActor(world, this);
        repeat(6, 1500, random -> {
            triage.act(random);
            triaged.incrementAndGet();
        });
    }

    private void useAnotherProgram() {
        repeat(3, 1200, random -> {
            synchronized (world.mailServer) {
                try (ImapConnection imap = world.connect(random.nextInt(4) == 0 ? 1 : 0)) {
                    List<RemoteFolder> folders = imap.folders().stream()
                            .filter(one -> one.selectable() && one.use().orElse(SpecialUse.INBOX) != SpecialUse.SENT)
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
