package app.schublade.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.format.MimeReader;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.standin.DemoAccount;
import app.schublade.standin.Standin;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

class ImapConnectionTest {
    private static Standin hosts;

    @BeforeAll
    static void start() {
        hosts = new Standin(Standin.Options.forTests(150));
    }

    @AfterAll
    static void stop() {
        hosts.close();
    }

    private static ImapConnection connect(String code, String password) throws MailException {
        DemoAccount account = DemoAccount.byCode(code).orElseThrow();
        MailHost host = new MailHost("127.0.0.1", hosts.imapPort(code), MailHost.Encryption.NONE, account.address());
        return ImapConnection.open(host, password, Duration.ofSeconds(20));
    }

    @Test
    void findsFoldersAndWhatTheyAreFor() throws Exception {
        try (ImapConnection imap = connect("MU", DemoAccount.PASSWORD)) {
            assertThat(imap.folders())
                    .contains(new RemoteFolder(
                            "INBOX", FolderPath.parse("INBOX"), java.util.Optional.of(SpecialUse.INBOX), true))
                    .extracting(RemoteFolder::use)
                    .contains(java.util.Optional.of(SpecialUse.TRASH), java.util.Optional.of(SpecialUse.SENT));
        }
    }

    @Test
    void fetchesWholeAndCutMessages() throws Exception {
        try (ImapConnection imap = connect("MU", DemoAccount.PASSWORD)) {
            Opened inbox = imap.open("INBOX");
            assertThat(inbox.keywords()).isTrue();
            List<Long> uids = imap.sightings(1).stream().map(Sighting::uid).toList();
            assertThat(uids).hasSize(inbox.messages()).isNotEmpty();
            List<Fetched> whole = imap.fetch(uids, 1_000_000);
            assertThat(whole).hasSameSizeAs(uids).allSatisfy(fetched -> {
                assertThat(fetched.isWhole()).isTrue();
                assertThat(MimeReader.read(fetched.source()).messageId()).isNotEmpty();
            });
            assertThat(imap.fetch(uids.subList(0, 1), 100).get(0).isWhole()).isFalse();
            assertThat(imap.fetch(List.of(inbox.uidNext() + 5), 100)).isEmpty();
            assertThat(imap.sightings(inbox.uidNext())).isEmpty();
        }
    }

    @Test
    void movesMarksAndFindsMessagesInFoldersWithAnyName() throws Exception {
        try (ImapConnection imap = connect("RC", DemoAccount.PASSWORD)) {
            String target = imap.create(FolderPath.parse("Größe & Gewicht/St. Ελλάδα"));
            assertThat(imap.create(FolderPath.parse("Größe & Gewicht/St. Ελλάδα")))
                    .isEqualTo(target);
            assertThat(imap.folders()).extracting(RemoteFolder::serverName).contains(target);
            String id = hosts.deliver("a@b.example", "regatta@brackwater-rowing.example", "Entry", "text");
            imap.open("INBOX");
            long uid = imap.withMessageId(id).get(0);
            imap.mark(List.of(uid), "\\Seen", true);
            imap.mark(List.of(uid), "label-regatta", true);
            Map<Long, Long> moved = imap.move(List.of(uid, 99_999L), target);
            assertThat(imap.withMessageId(id)).isEmpty();
            imap.open(target);
            assertThat(imap.sightings(1))
                    .containsExactly(new Sighting(
                            java.util.Objects.requireNonNull(moved.get(uid)),
                            true,
                            false,
                            false,
                            false,
                            Set.of("label-regatta")));
            assertThat(imap.withMessageId(id)).isEqualTo(List.copyOf(moved.values()));
        }
    }

    @Test
    void isToldOfNewMail() throws Exception {
        CountDownLatch listening = new CountDownLatch(1);
        CountDownLatch told = new CountDownLatch(2);
        try (ImapConnection imap = connect("PR", DemoAccount.PASSWORD)) {
            imap.open("INBOX");
            Thread watcher = new Thread(() -> {
                try {
                    imap.watch(() -> {
                        listening.countDown();
                        told.countDown();
                    });
                } catch (MailException e) {
                    // closed by the end of the test
                }
            });
            watcher.start();
            assertThat(listening.await(10, TimeUnit.SECONDS)).isTrue();
            hosts.deliver("a@b.example", "tilda@marwick-post.example", "News", "text");
            assertThat(told.await(10, TimeUnit.SECONDS)).isTrue();
        }
    }

    @Test
    void closingEndsAWatchAtOnce() throws Exception {
        ImapConnection imap = connect("PR", DemoAccount.PASSWORD);
        imap.open("INBOX");
        CountDownLatch watching = new CountDownLatch(1);
        CountDownLatch ended = new CountDownLatch(1);
        Thread watcher = new Thread(() -> {
            try {
                imap.watch(watching::countDown);
            } catch (MailException e) {
                ended.countDown();
            }
        });
        watcher.start();
        assertThat(watching.await(10, TimeUnit.SECONDS)).isTrue();
        long start = System.nanoTime();
        imap.close();
        assertThat(ended.await(10, TimeUnit.SECONDS)).isTrue();
        assertThat(Duration.ofNanos(System.nanoTime() - start)).isLessThan(Duration.ofSeconds(3));
    }

    @Test
    void tellsARefusedPasswordFromAHostThatIsAway() throws Exception {
        assertThatThrownBy(() -> connect("TS", "wrong"))
                .isInstanceOfSatisfying(
                        MailException.class,
                        e -> assertThat(e.kind()).isEqualTo(MailException.FailureKind.LOGIN_REFUSED));
        hosts.setOffline("TS", true);
        try {
            assertThatThrownBy(() -> connect("TS", DemoAccount.PASSWORD))
                    .isInstanceOfSatisfying(
                            MailException.class, e -> assertThat(e.kind()).isEqualTo(MailException.FailureKind.AWAY));
        } finally {
            hosts.setOffline("TS", false);
        }
        ImapConnection imap = connect("TS", DemoAccount.PASSWORD);
        hosts.cut("TS");
        assertThatThrownBy(() -> imap.open("INBOX"))
                .isInstanceOfSatisfying(
                        MailException.class, e -> assertThat(e.kind()).isEqualTo(MailException.FailureKind.LOST));
    }

    @Test
    void saysWhyAServerCannotBeReached() {
        assertThatThrownBy(() -> ImapConnection.open(
                        new MailHost("no-such-host.example", 993, MailHost.Encryption.TLS, "tilda"),
                        "x",
                        Duration.ofSeconds(5)))
                .hasMessageStartingWith("no-such-host.example:993 cannot be reached: there is no server of that name")
                .isInstanceOfSatisfying(
                        MailException.class,
                        e -> assertThat(e.kind()).isEqualTo(MailException.FailureKind.NO_SUCH_HOST));
    }

    @Test
    void refusesToSpeakInTheClearToOtherMachines() {
        assertThatThrownBy(() -> ImapConnection.open(
                        new MailHost("mail.lanternquay.example", 143, MailHost.Encryption.NONE, "tilda"),
                        "x",
                        Duration.ofSeconds(1)))
                .hasMessageStartingWith("A connection without encryption to mail.lanternquay.example:143 is not made");
    }
}
