package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.core.problem.InputProblem;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.RemoteFolder;
import app.schublade.standin.DovecotHost;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** However the user gives folders other names while the server is not told of it, it calls them so in the end. */
@ExtendWith(Office.Extension.class)
class FolderNamesTest {
    private static final List<FolderPath> PATHS = Stream.of("A", "A/B", "A/B/C", "D", "D/B", "E")
            .map(FolderPath::parse)
            .toList();

    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;

    FolderNamesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
    }

    /** An account on a server, each of whose folders has a message of the folder's first name. */
    private final class World implements AutoCloseable {
        private final DovecotHost server;
        private final String user;
        private final Account account;

        World(DovecotHost.Shape shape) throws Exception {
            server = DovecotHost.start(shape);
            user = server.user();
            account = cabinet.accounts.add(person.id(), Office.draft("FN", host()));
            try (ImapConnection imap = connect()) {
                for (FolderPath path : PATHS) {
                    imap.append(imap.create(path), mail(path.toString()), Instant.now());
                }
            }
            serve();
            Await.until("all is here", () -> here().size() == PATHS.size() && isSame());
            rest();
        }

        private MailHost host() {
            return new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.NONE, user);
        }

        private ImapConnection connect() throws Exception {
            return ImapConnection.open(host(), DovecotHost.PASSWORD, Duration.ofSeconds(20));
        }

        void serve() {
            office.bean(Synchroniser.class)
                    .serve(cabinet.accounts.byId(account.id()).orElseThrow());
        }

        void rest() {
            office.bean(Synchroniser.class).forget(account.id());
        }

        /** By its first name: where a message lies. */
        Map<String, String> here() {
            Map<String, String> all = new TreeMap<>();
            cabinet.jdbc.sql("""
                            select h.subject, coalesce(f.use, f.path) as place from message m
                            join message_head h on h.message_id = m.id
                            join folder f on f.id = m.folder_id where m.account_id = ?
                            """).param(account.id()).query(row -> {
                all.put(row.getString(1), row.getString(2));
            });
            return all;
        }

        Map<String, String> there() throws Exception {
            Map<String, String> all = new TreeMap<>();
            try (ImapConnection imap = connect()) {
                for (RemoteFolder folder : imap.folders()) {
                    if (folder.selectable()) {
                        imap.open(folder.serverName());
                        imap.fetchHeaders(List.copyOf(imap.sightings(1).stream()
                                        .map(one -> one.uid())
                                        .toList()))
                                .forEach(one -> all.put(
                                        subject(one.source()),
                                        folder.use()
                                                .map(Enum::name)
                                                .orElse(folder.path().toString())));
                    }
                }
            }
            return all;
        }

        void agrees(String after) throws Exception {
            serve();
            try {
                Await.until(
                        "both sides agree",
                        () -> cabinet.orders.next(account.id(), 1).isEmpty()
                                && cabinet.mailboxes.toRename(account.id()).isEmpty()
                                && isSame());
            } catch (AssertionError e) {
                assertThat(there()).as(after).isEqualTo(here());
            }
        }

        private boolean isSame() throws Exception {
            try {
                return here().equals(there());
            } catch (MailException e) {
                return false; // A folder is just being renamed.
            }
        }

        void rename(String from, String to) {
            FolderStore folders = office.bean(FolderStore.class);
            long folder = cabinet.folder(person.id(), from).id();
            folders.rename(person.id(), folders.portrait(person.id(), folder).orElseThrow(), FolderPath.parse(to));
        }

        List<Long> some(Random random) {
            List<Long> all = cabinet.jdbc
                    .sql("select id from message where account_id = ? order by id")
                    .param(account.id())
                    .query(Long.class)
                    .list();
            return List.of(all.get(random.nextInt(all.size())));
        }

        @Override
        public void close() {
            rest();
            server.close();
        }
    }

    private static byte[] mail(String subject) {
        return "From: anna@wharf.example\r\nSubject: %s\r\nMessage-ID: <%s@wharf.example>\r\n\r\nHello\r\n"
                .formatted(subject, subject.replace('/', '.'))
                .getBytes(StandardCharsets.US_ASCII);
    }

    private static String subject(byte[] header) {
        return new String(header, StandardCharsets.US_ASCII)
                .lines()
                .filter(line -> line.startsWith("Subject: "))
                .findFirst()
                .orElse("")
                .substring("Subject: ".length());
    }

    @ParameterizedTest
    @EnumSource(DovecotHost.Shape.class)
    void foldersCanChangeNames(DovecotHost.Shape shape) throws Exception {
        try (World world = new World(shape)) {
            world.rename("A", "X");
            world.rename("D", "A");
            world.rename("X", "D");
            world.agrees("A and D changed names");
            assertThat(world.there()).containsEntry("A/B/C", "D/B/C").containsEntry("D/B", "A/B");
            world.rest();
            world.rename("A/B", "T");
            world.rename("A", "T/A");
            world.rename("T", "A");
            world.agrees("what lay in A holds A now");
            assertThat(world.there()).containsEntry("D/B", "A").containsEntry("D", "A/A");
        }
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void whateverTheUserDidMeanwhile(long seed) throws Exception {
        Random random = new Random(seed);
        FolderStore folders = office.bean(FolderStore.class);
        StringBuilder did = new StringBuilder();
        try (World world = new World(DovecotHost.Shape.SLASH)) {
            for (int turn = 0; turn < 3; turn++) {
                for (int i = 0; i < 12; i++) {
                    FolderPath from = PATHS.get(random.nextInt(PATHS.size()));
                    FolderPath to = PATHS.get(random.nextInt(PATHS.size()));
                    int what = random.nextInt(8);
                    did.append("%d %s %s; ".formatted(what, from, to));
                    try {
                        FolderStore.Portrait folder = portrait(from);
                        switch (what) {
                            case 0 -> folders.delete(person.id(), folder);
                            case 1 -> folders.merge(person.id(), folder, portrait(to));
                            case 2 -> cabinet.undo.latest(person.id());
                            case 3 ->
                                cabinet.filing.act(
                                        person.id(),
                                        Cause.HAND,
                                        "Filed",
                                        world.some(random),
                                        state -> state.in(folder.id()));
                            default -> folders.rename(person.id(), folder, to);
                        }
                    } catch (InputProblem e) {
                        did.append("(no: ").append(e.getMessage()).append(") ");
                    }
                }
                world.agrees(did.toString());
                world.rest();
            }
        }
    }

    private FolderStore.Portrait portrait(FolderPath path) {
        long folder = cabinet.folder(person.id(), path.toString()).id();
        return office.bean(FolderStore.class).portrait(person.id(), folder).orElseThrow();
    }
}
