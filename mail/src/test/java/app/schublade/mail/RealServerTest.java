package app.schublade.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.standin.DovecotHost;
import app.schublade.standin.DovecotHost.Shape;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What only a real server shows, in both common shapes. */
class RealServerTest {
    private static final Map<Shape, DovecotHost> HOSTS = new EnumMap<>(Shape.class);

    @BeforeAll
    static void start() {
        for (Shape shape : Shape.values()) {
            HOSTS.put(shape, DovecotHost.start(shape));
        }
    }

    @AfterAll
    static void stop() {
        HOSTS.values().forEach(DovecotHost::close);
    }

    private static DovecotHost host(Shape shape) {
        return Objects.requireNonNull(HOSTS.get(shape));
    }

    private static String user(Shape shape) {
        return host(shape).user();
    }

    private static ImapConnection connect(Shape shape, String user) throws MailException {
        return connect(host(shape), user);
    }

    private static ImapConnection connect(DovecotHost server, String user) throws MailException {
        MailHost host = new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.NONE, user);
        return ImapConnection.open(host, DovecotHost.PASSWORD, Duration.ofSeconds(20));
    }

    private static byte[] letter(String id, String subject) {
        return "From: anna@westwharf.example\r\nTo: tilda@quay.example\r\nSubject: %s\r\nMessage-ID: <%s>\r\n\r\nHello.\r\n"
                .formatted(subject, id)
                .getBytes(StandardCharsets.UTF_8);
    }

    private static long put(ImapConnection imap, String folder, String id) throws MailException {
        return imap.append(folder, letter(id, "Visit"), Instant.parse("2026-11-20T08:00:00Z"))
                .orElseThrow();
    }

    @ParameterizedTest
    @EnumSource
    void pathsAreTheSameWhateverTheServersShape(Shape shape) throws Exception {
        try (ImapConnection imap = connect(shape, user(shape))) {
            assertThat(imap.folders())
                    .filteredOn(folder -> folder.use().isPresent())
                    .extracting(folder -> folder.use().get().name() + " " + folder.path())
                    .containsExactlyInAnyOrder(
                            "INBOX INBOX",
                            "DRAFTS Entwürfe",
                            "SENT Sent",
                            "ARCHIVE Archive",
                            "JUNK Junk",
                            "TRASH Trash");
            String name = imap.create(FolderPath.parse("Größe & Gewicht/St. Ελλάδα"));
            assertThat(name)
                    .isEqualTo(
                            shape == Shape.SLASH
                                    ? "Größe & Gewicht/St. Ελλάδα"
                                    : "INBOX.Größe & Gewicht.St\u2024 Ελλάδα");
            assertThat(imap.create(imap.folders().stream()
                            .filter(folder -> folder.serverName().equals(name))
                            .findFirst()
                            .orElseThrow()
                            .path()))
                    .isEqualTo(name);
            String renamed = imap.rename(name, FolderPath.parse("Elsewhere"));
            assertThat(imap.folders())
                    .extracting(RemoteFolder::serverName)
                    .contains(renamed)
                    .doesNotContain(name);
            imap.delete(renamed);
            assertThat(imap.folders()).extracting(RemoteFolder::serverName).doesNotContain(renamed);
        }
    }

    @ParameterizedTest
    @EnumSource
    void oneListTellsWhetherAnythingChanged(Shape shape) throws Exception {
        try (ImapConnection imap = connect(shape, user(shape))) {
            assertThat(imap.looksCheaply()).isTrue();
            FolderStatus before = status(imap, "INBOX");
            assertThat(status(imap, "INBOX").isUnchangedSince(before)).isTrue();
            long uid = put(imap, "INBOX", "one@quay.example");
            FolderStatus arrived = status(imap, "INBOX");
            assertThat(arrived.isUnchangedSince(before)).isFalse();
            assertThat(arrived.messages()).isEqualTo(1);
            imap.open("INBOX");
            imap.mark(List.of(uid), "\\Seen", true);
            assertThat(status(imap, "INBOX").isUnchangedSince(arrived)).isFalse();
        }
    }

    private static FolderStatus status(ImapConnection imap, String name) throws MailException {
        return imap.folders().stream()
                .filter(folder -> folder.serverName().equals(name))
                .map(RemoteFolder::status)
                .map(Objects::requireNonNull)
                .findFirst()
                .orElseThrow();
    }

    @Test
    void openingAFolderTellsWhatChangedSince() throws Exception {
        try (ImapConnection imap = connect(Shape.SLASH, user(Shape.SLASH))) {
            whatChanged(imap, true);
        }
    }

    @Test
    void withoutQresyncTheMarksAreToldAndTheGoneMustBeLookedFor() throws Exception {
        try (DovecotHost plain = DovecotHost.start(Shape.SLASH, "QRESYNC");
                ImapConnection imap = connect(plain, plain.user())) {
            whatChanged(imap, false);
        }
    }

    private static void whatChanged(ImapConnection imap, boolean toldOfTheGone) throws MailException {
        long stays = put(imap, "INBOX", "stays@quay.example");
        long goes = put(imap, "INBOX", "goes@quay.example");
        long rests = put(imap, "INBOX", "rests@quay.example");
        Opened first = imap.open("INBOX");
        assertThat(first.changes()).isNull();
        imap.mark(List.of(stays), "label-loans", true);
        imap.move(List.of(goes), "Archive");
        long comes = put(imap, "INBOX", "comes@quay.example");
        Opened.MailboxChanges changes =
                Objects.requireNonNull(imap.openSince("INBOX", first.status()).changes());
        assertThat(changes.sightings()).extracting(Sighting::uid).containsExactlyInAnyOrder(stays, comes);
        assertThat(changes.sightings())
                .contains(new Sighting(stays, false, false, false, false, Set.of("label-loans")));
        if (toldOfTheGone) {
            assertThat(changes.gone()).containsExactly(new Opened.Range(goes, goes));
        } else {
            assertThat(changes.gone()).isNull();
        }
        assertThat(imap.uids()).containsExactly(stays, rests, comes);
    }

    @Test
    void withoutExtensionsNothingIsLost() throws Exception {
        try (DovecotHost plain = DovecotHost.start(
                        Shape.DOT,
                        "QRESYNC",
                        "CONDSTORE",
                        "MOVE",
                        "UIDPLUS",
                        "ESEARCH",
                        "LIST-STATUS",
                        "LIST-EXTENDED",
                        "NAMESPACE",
                        "ENABLE",
                        "LITERAL+",
                        "IDLE",
                        "SPECIAL-USE");
                ImapConnection imap = connect(plain, plain.user())) {
            assertThat(imap.looksCheaply()).isFalse();
            assertThat(imap.canWatch()).isFalse();
            assertThat(imap.folders()).extracting(RemoteFolder::use).contains(Optional.of(SpecialUse.INBOX));
            imap.append("INBOX", letter("a@quay.example", "A"), Instant.now());
            imap.append("INBOX", letter("b@quay.example", "B"), Instant.now());
            imap.append("INBOX", letter("c@quay.example", "C"), Instant.now());
            imap.open("INBOX");
            long[] uids = imap.uids();
            assertThat(uids).hasSize(3);
            imap.mark(List.of(uids[1]), "\\Deleted", true); // by another program, which may want it back
            imap.move(List.of(uids[0]), "INBOX.Archive");
            assertThat(imap.sightings(1))
                    .extracting(Sighting::uid, Sighting::deleted)
                    .contains(org.assertj.core.groups.Tuple.tuple(uids[1], true));
            assertThat(imap.uids()).as("what was moved is marked at least").containsExactly(uids[2]);
            imap.mark(List.of(uids[0], uids[1]), "\\Deleted", false);
            imap.move(List.of(uids[2]), "INBOX.Archive");
            assertThat(imap.sightings(1))
                    .as("and removed where nothing else would go with it")
                    .extracting(Sighting::uid)
                    .containsExactly(uids[0], uids[1]);
            imap.open("INBOX.Archive");
            assertThat(imap.withMessageId("a@quay.example")).hasSize(1);
        }
    }

    @Test
    void mailOfAPeriodIsFoundByWhenItCame() throws Exception {
        try (ImapConnection imap = connect(Shape.DOT, user(Shape.DOT))) {
            imap.append("INBOX", letter("old@quay.example", "Old"), Instant.parse("2020-03-01T12:00:00Z"));
            long recent = put(imap, "INBOX", "recent@quay.example");
            imap.open("INBOX");
            assertThat(imap.uidsSince(LocalDate.of(2026, 1, 1))).containsExactly(recent);
        }
    }

    @Test
    void aFullAccountAndAReadOnlyFolderAreToldApart() throws Exception {
        DovecotHost server = host(Shape.SLASH);
        try (ImapConnection imap = connect(server, server.smallUser())) {
            byte[] tooMuch = new byte[DovecotHost.SMALL_KILOBYTES * 2048];
            assertThatThrownBy(() -> imap.append("INBOX", tooMuch, Instant.now()))
                    .isInstanceOfSatisfying(
                            MailException.class, e -> assertThat(e.kind()).isEqualTo(MailException.FailureKind.FULL));
        }
        String user = user(Shape.SLASH);
        try (ImapConnection imap = connect(Shape.SLASH, user)) {
            imap.create(FolderPath.parse("Board"));
            put(imap, "Board", "minutes@quay.example");
            server.makeReadOnly(user, "Board");
        }
        try (ImapConnection imap = connect(Shape.SLASH, user)) {
            assertThat(imap.open("Board").readOnly()).isTrue();
            assertThatThrownBy(() -> imap.move(List.of(1L), "Archive"))
                    .hasMessageContaining("you have no right to change that folder")
                    .isInstanceOfSatisfying(
                            MailException.class,
                            e -> assertThat(e.kind()).isEqualTo(MailException.FailureKind.REFUSED));
        }
    }

    @Test
    void anUnknownCertificateIsShownAndCanBePinned() throws Exception {
        String user = user(Shape.SLASH);
        DovecotHost server = host(Shape.SLASH);
        MailHost tls = new MailHost("127.0.0.1", server.imapTlsPort(), MailHost.Encryption.TLS, user);
        ServerCertificate shown = refused(tls);
        assertThat(shown.names()).containsExactly("mail.quay.example");
        assertThat(shown.fingerprint()).matches("([0-9A-F]{2}:){31}[0-9A-F]{2}");
        MailHost startTls = new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.STARTTLS, user);
        assertThat(refused(startTls)).isEqualTo(shown);
        for (MailHost host : List.of(tls, startTls)) {
            try (ImapConnection imap = ImapConnection.open(
                    host.pinned(shown.fingerprint()), DovecotHost.PASSWORD, Duration.ofSeconds(20))) {
                assertThat(imap.open("INBOX").messages()).isZero();
            }
            String other = shown.fingerprint().startsWith("00:") ? "01:" : "00:";
            assertThat(refused(host.pinned(other + shown.fingerprint().substring(3))))
                    .isEqualTo(shown);
        }
    }

    private static ServerCertificate refused(MailHost host) {
        try {
            ImapConnection.open(host, DovecotHost.PASSWORD, Duration.ofSeconds(20))
                    .close();
        } catch (MailException e) {
            assertThat(e.kind()).as(e.getMessage()).isEqualTo(MailException.FailureKind.CERTIFICATE);
            return Objects.requireNonNull(e.certificate());
        }
        throw new AssertionError("The certificate was believed");
    }

    @Test
    void tellsAWrongPasswordPortAndEncryptionApart() {
        DovecotHost server = host(Shape.SLASH);
        String user = user(Shape.SLASH);
        assertThat(problem(new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.NONE, user), "wrong"))
                .isEqualTo(MailException.FailureKind.LOGIN_REFUSED);
        assertThat(problem(new MailHost("127.0.0.1", 1, MailHost.Encryption.NONE, user), DovecotHost.PASSWORD))
                .isEqualTo(MailException.FailureKind.WRONG_PORT);
        assertThat(problem(
                        new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.TLS, user),
                        DovecotHost.PASSWORD))
                .isEqualTo(MailException.FailureKind.WRONG_PORT);
        assertThat(problem(
                        new MailHost("127.0.0.1", server.pop3Port(), MailHost.Encryption.NONE, user),
                        DovecotHost.PASSWORD))
                .isEqualTo(MailException.FailureKind.WRONG_PORT);
        assertThat(problem(
                        new MailHost("no-such-host.example", 143, MailHost.Encryption.TLS, user), DovecotHost.PASSWORD))
                .isEqualTo(MailException.FailureKind.NO_SUCH_HOST);
        assertThat(problem(
                        new MailHost("mail.quay.example", 143, MailHost.Encryption.NONE, user), DovecotHost.PASSWORD))
                .isEqualTo(MailException.FailureKind.NOT_ENCRYPTED);
    }

    private static MailException.FailureKind problem(MailHost host, String password) {
        try {
            ImapConnection.open(host, password, Duration.ofSeconds(5)).close();
        } catch (MailException e) {
            return e.kind();
        }
        throw new AssertionError("It let us in");
    }

    @Test
    void aWatchOverTlsEndsAtOnceWhenClosed() throws Exception {
        String user = user(Shape.DOT);
        MailHost tls = new MailHost("127.0.0.1", host(Shape.DOT).imapTlsPort(), MailHost.Encryption.TLS, user);
        ImapConnection imap = ImapConnection.open(
                tls.pinned(refused(tls).fingerprint()), DovecotHost.PASSWORD, Duration.ofMinutes(5));
        imap.open("INBOX");
        CountDownLatch told = new CountDownLatch(2);
        CountDownLatch ended = new CountDownLatch(1);
        Thread watcher = new Thread(() -> {
            try {
                imap.watch(told::countDown);
            } catch (MailException e) {
                ended.countDown();
            }
        });
        watcher.start();
        try (ImapConnection other = connect(Shape.DOT, user)) {
            while (told.getCount() == 2) {
                Thread.sleep(20);
            }
            put(other, "INBOX", "news@quay.example");
        }
        assertThat(told.await(10, TimeUnit.SECONDS)).isTrue();
        imap.close();
        assertThat(ended.await(3, TimeUnit.SECONDS)).isTrue();
    }

    @Test
    void aLargeMessageIsFetchedOnlyAsFarAsWanted() throws Exception {
        try (ImapConnection imap = connect(Shape.SLASH, user(Shape.SLASH))) {
            byte[] large = new byte[60 * 1024 * 1024];
            java.util.Arrays.fill(large, (byte) 'x');
            byte[] head = letter("large@quay.example", "Large");
            System.arraycopy(head, 0, large, 0, head.length);
            long uid = imap.append("INBOX", large, Instant.now()).orElseThrow();
            imap.open("INBOX");
            Fetched fetched = imap.fetch(List.of(uid), 100_000).get(0);
            assertThat(fetched.size()).isGreaterThanOrEqualTo(large.length);
            assertThat(fetched.source()).hasSize(100_000);
            assertThat(fetched.isWhole()).isFalse();
        }
    }
}
