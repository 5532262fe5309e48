package app.schublade.sync;

import app.schublade.core.filing.State;
import app.schublade.core.place.FolderPath;
import app.schublade.core.query.Query;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.Opened;
import app.schublade.mail.Sighting;
import app.schublade.standin.DovecotHost;
import app.schublade.standin.DovecotHost.Shape;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountEventStore;
import app.schublade.store.account.AccountStore;
import app.schublade.store.account.Mailbox;
import app.schublade.store.act.Cause;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.filing.ServerLocationStore;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.MessageStore;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.extension.ExtendWith;

/** What tests of accounts on a real server begin with: both common shapes, and less and less of what servers may offer. */
@ExtendWith(Office.Extension.class)
abstract class RealServers {
    private static final Map<Kind, DovecotHost> HOSTS = new EnumMap<>(Kind.class);
    static final Instant LONG_AGO = Instant.parse("2026-10-01T08:00:00Z");

    final Office office;
    final MessageStore messages;
    final PlaceStore places;
    final OrderStore orders;
    final Synchroniser synchroniser;
    final CurrentUser person;
    final List<Account> added = new ArrayList<>();

    /** A shape, and what the server does without. */
    enum Kind {
        SLASH(Shape.SLASH, ""),
        DOT(Shape.DOT, ""),
        WITHOUT_QRESYNC(Shape.SLASH, "QRESYNC"),
        PLAIN(
                Shape.DOT,
                "QRESYNC CONDSTORE LIST-STATUS LIST-EXTENDED MOVE UIDPLUS ESEARCH ENABLE IDLE SPECIAL-USE NAMESPACE");

        final Shape shape;
        final String without;

        Kind(Shape shape, String without) {
            this.shape = shape;
            this.without = without;
        }

        DovecotHost host() {
            return HOSTS.computeIfAbsent(this, kind -> DovecotHost.start(kind.shape, kind.without.split(" ", -1)));
        }
    }

    RealServers(Office office) {
        this.office = office;
        messages = office.bean(MessageStore.class);
        places = office.bean(PlaceStore.class);
        orders = office.bean(OrderStore.class);
        synchroniser = office.bean(Synchroniser.class);
        person = office.person();
    }

    @AfterEach
    void forget() {
        added.forEach(account -> synchroniser.forget(account.id()));
    }

    @AfterAll
    static void stop() {
        HOSTS.values().forEach(DovecotHost::close);
        HOSTS.clear();
    }

    /** An account on a server, another mail program that uses it too, and what happens between them. */
    final class Case implements AutoCloseable {
        final DovecotHost server;
        final String user;
        final ImapConnection other;
        final Account account;

        Case(Kind kind) throws MailException {
            this(kind.host(), kind.host().user());
        }

        Case(DovecotHost server, String user) throws MailException {
            this(server, user, "AB");
        }

        Case(DovecotHost server, String user, String code) throws MailException {
            this.server = server;
            this.user = user;
            other = connect();
            other.append("INBOX", letter("before@quay.example", "Before", 10), LONG_AGO);
            account = office.bean(AccountAdder.class).add(person.id(), Office.draft(code, host()));
            added.add(account);
            connected();
        }

        MailHost host() {
            return new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.NONE, user);
        }

        ImapConnection connect() throws MailException {
            return ImapConnection.open(host(), DovecotHost.PASSWORD, Duration.ofSeconds(20));
        }

        void connected() {
            Await.until("connected", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
        }

        /** A look at everything at once, and a second one that is sure of what is gone. */
        void lookTwice() {
            synchroniser.forget(account.id());
            AccountStore accounts = office.bean(AccountStore.class);
            for (int i = 0; i < 2; i++) {
                accounts.report(account.id(), Account.AccountState.NEW, null, null);
                synchroniser.serve(accounts.byId(account.id()).orElseThrow());
                connected();
            }
            Await.until(
                    "every message has its place",
                    () -> office.bean(ServerLocationStore.class)
                            .strays(account.id())
                            .isEmpty());
        }

        String folder(String path) throws MailException {
            return other.create(FolderPath.parse(path));
        }

        long put(String folder, String id, String subject) throws MailException {
            return put(folder, letter(id, subject, 10));
        }

        long put(String folder, byte[] source) throws MailException {
            other.append(folder, source, Instant.now().plusSeconds(2));
            Opened opened = other.open(folder);
            return opened.uidNext() - 1;
        }

        Optional<ListRow> find(String subject) {
            return all(subject).stream().findFirst();
        }

        List<ListRow> all(String subject) {
            List<ListRow> all = new ArrayList<>();
            office.bean(RuleInputStore.class).forEach(person.id(), Query.everything(), Set.of(), one -> {
                if (one.row().subject().equals(subject)) {
                    all.add(one.row());
                }
            });
            return all;
        }

        ListRow arrived(String subject) {
            Await.until(subject + " arrives", () -> find(subject).isPresent());
            return find(subject).orElseThrow();
        }

        String lies(String subject) {
            return Cabinet.of(office).lies(person.id(), arrived(subject).id());
        }

        void change(ListRow row, UnaryOperator<State> change) {
            office.bean(FilingStore.class).act(person.id(), Cause.HAND, "Test", List.of(row.id()), change);
        }

        void allOrdersAreDone() {
            Await.until("orders are done", () -> orders.next(account.id(), 1).isEmpty());
        }

        List<Sighting> onServer(String folder) throws MailException {
            other.open(folder);
            return other.sightings(1).stream().filter(one -> !one.deleted()).toList();
        }

        /** The message at a UID of the Inbox. */
        long isAt(long uid) {
            return office.bean(MailboxStore.class).of(account.id()).stream()
                    .filter(Mailbox::inbox)
                    .findFirst()
                    .flatMap(inbox -> Cabinet.of(office).messageAt(inbox, uid))
                    .orElseThrow();
        }

        List<String> events() {
            return office.bean(AccountEventStore.class).of(person.id(), account.id()).stream()
                    .map(AccountEventStore.AccountEvent::said)
                    .toList();
        }

        @Override
        public void close() {
            other.close();
        }
    }

    static byte[] letter(String id, String subject, int lines) {
        return ("From: anna@westwharf.example\r\nTo: tilda@quay.example\r\nSubject: %s\r\n%s\r\n"
                                .formatted(subject, id.isEmpty() ? "" : "Message-ID: <" + id + ">\r\n")
                        + "A line of the letter that is as long as lines are.\r\n".repeat(lines))
                .getBytes(StandardCharsets.UTF_8);
    }

    long folder(String path) {
        return places.folder(person.id(), FolderPath.parse(path)).id();
    }
}
