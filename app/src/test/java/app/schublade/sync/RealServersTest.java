package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.State;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.place.Tone;
import app.schublade.core.query.Query;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.Opened;
import app.schublade.mail.RemoteFolder;
import app.schublade.mail.Sighting;
import app.schublade.standin.DovecotHost;
import app.schublade.standin.DovecotHost.Shape;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountEventStore;
import app.schublade.store.account.AccountStore;
import app.schublade.store.account.Mailbox;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.filing.EffectRunner;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.filing.MessageCopier;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.filing.ServerLocationStore;
import app.schublade.store.filing.UndoStore;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.MessageStore;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.RuleStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Accounts on a real server, in both common shapes, and with less and less of what servers may offer. */
@ExtendWith(Office.Extension.class)
class RealServersTest {
    private static final Map<Kind, DovecotHost> HOSTS = new EnumMap<>(Kind.class);
    private static final Instant LONG_AGO = Instant.parse("2026-10-01T08:00:00Z");

    private final Office office;
    private final MessageStore messages;
    private final PlaceStore places;
    private final OrderStore orders;
    private final Synchroniser synchroniser;
    private final CurrentUser person;
    private final List<Account> added = new ArrayList<>();

    /** A shape, and what the server does without. */
    enum Kind {
        SLASH(Shape.SLASH, ""),
        DOT(Shape.DOT, ""),
        WITHOUT_QRESYNC(Shape.SLASH, "QRESYNC"),
        PLAIN(
                Shape.DOT,
                "QRESYNC CONDSTORE LIST-STATUS LIST-EXTENDED MOVE UIDPLUS ESEARCH ENABLE IDLE SPECIAL-USE NAMESPACE");

        private final Shape shape;
        private final String without;

        Kind(Shape shape, String without) {
            this.shape = shape;
            this.without = without;
        }

        DovecotHost host() {
            return HOSTS.computeIfAbsent(this, kind -> DovecotHost.start(kind.shape, kind.without.split(" ", -1)));
        }
    }

    RealServersTest(Office office) {
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
    private final class Case implements AutoCloseable {
        private final DovecotHost server;
        private final String user;
        private final ImapConnection other;
        private final Account account;

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

        private ImapConnection connect() throws MailException {
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

    private static byte[] letter(String id, String subject, int lines) {
        return ("From: anna@westwharf.example\r\nTo: tilda@quay.example\r\nSubject: %s\r\n%s\r\n"
                                .formatted(subject, id.isEmpty() ? "" : "Message-ID: <" + id + ">\r\n")
                        + "A line of the letter that is as long as lines are.\r\n".repeat(lines))
                .getBytes(StandardCharsets.UTF_8);
    }

    private long folder(String path) {
        return places.folder(person.id(), FolderPath.parse(path)).id();
    }

    @ParameterizedTest
    @EnumSource
    void bothSidesFollowEachOther(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            ListRow mine = c.arrived("Before");
            c.put("INBOX", "new@quay.example", "New");
            ListRow fresh = c.arrived("New");
            long label = places.label(person.id(), FolderPath.parse("Objects")).id();
            c.change(mine, state -> state.unread(false).flagged(true).labelled(Set.of(label)));
            c.change(mine, state -> state.in(folder("Größe & Gewicht/St. Ελλάδα")));
            c.allOrdersAreDone();
            String there = c.other.folders().stream()
                    .filter(one -> one.serverName().contains("Gewicht")
                            && one.selectable()
                            && one.serverName().contains("Ελλάδα"))
                    .findFirst()
                    .orElseThrow()
                    .serverName();
            assertThat(c.onServer(there)).singleElement().satisfies(sighting -> {
                assertThat(sighting.seen() && sighting.flagged()).isTrue();
                assertThat(sighting.keywords()).contains("label-objects");
            });
            assertThat(c.onServer("INBOX")).hasSize(1);

            List<Long> theFresh = List.of(c.onServer("INBOX").get(0).uid());
            for (String mark : List.of("\\Flagged", "\\Seen", "label-objects")) {
                c.other.mark(theFresh, mark, true);
            }
            Await.until("the marks show", () -> {
                ListRow now = messages.row(person.id(), fresh.id()).orElseThrow();
                return now.flagged() && !now.unread() && now.labels().equals(Set.of(label));
            });
            String handmade = c.folder("Filed by hand");
            c.other.open("INBOX");
            c.other.move(List.of(c.onServer("INBOX").get(0).uid()), handmade);
            c.lookTwice();
            assertThat(c.lies("New")).isEqualTo("Filed by hand");
            assertThat(c.arrived("New").id()).as("it keeps its id").isEqualTo(fresh.id());
            c.other.open(there);
            c.other.mark(List.of(c.onServer(there).get(0).uid()), "\\Deleted", true);
            c.lookTwice();
            assertThat(c.find("Before")).isEmpty();
            assertThat(Cabinet.of(office).wrongCounts()).isEmpty();
        }
    }

    @ParameterizedTest
    @EnumSource(names = {"SLASH", "PLAIN"})
    void aCopyIntoTheInboxIsNoNewMailForTheRules(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            String archive = c.folder("Archive");
            c.put(archive, "old@quay.example", "Old");
            c.lookTwice();
            office.bean(RuleStore.class)
                    .save(person.id(), Cabinet.of(office).filing(person.id(), "westwharf.example", "Caught"));
            c.other.open(archive);
            c.other.copy(List.of(c.onServer(archive).get(0).uid()), "INBOX");
            Await.until("the copy shows", () -> c.all("Old").size() == 2);
            c.put("INBOX", "fresh@quay.example", "Fresh");
            Await.until("the rule works", () -> c.lies("Fresh").equals("Caught"));
            assertThat(c.all("Old"))
                    .extracting(row -> Cabinet.of(office).lies(person.id(), row.id()))
                    .containsExactlyInAnyOrder("Archive", "Inbox");
        }
    }

    @ParameterizedTest
    @EnumSource
    void aFolderThatIsRenamedElsewhereIsFollowedAndOneThatIsDeletedIsGone(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            String loans = c.folder("Loans");
            for (int i = 0; i < 3; i++) {
                c.put(loans, "loan" + i + "@quay.example", "Loan " + i);
            }
            String doomed = c.folder("Doomed");
            c.put(doomed, "doomed@quay.example", "Doomed");
            c.lookTwice();
            long id = c.arrived("Loan 1").id();
            long folder = folder("Loans");
            c.other.open("INBOX");
            c.other.rename(loans, FolderPath.parse("Borrowed"));
            c.other.open("INBOX");
            c.other.delete(doomed);
            c.lookTwice();
            assertThat(c.lies("Loan 1")).isEqualTo("Borrowed");
            assertThat(c.arrived("Loan 1").id()).isEqualTo(id);
            assertThat(c.arrived("Loan 1").folderId())
                    .as("rules that name it follow")
                    .isEqualTo(folder);
            assertThat(c.find("Doomed")).isEmpty();
            assertThat(places.of(person.id(), null).folders())
                    .extracting(one -> one.path().shown())
                    .contains("Borrowed")
                    .doesNotContain("Loans", "Doomed");
            assertThat(c.events())
                    .anyMatch(said -> said.contains("is called"))
                    .anyMatch(said -> said.contains("no longer"));
        }
    }

    @ParameterizedTest
    @EnumSource(names = {"SLASH", "PLAIN"})
    void aRenumberedFolderIsRecognisedMessageByMessage(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            String loans = c.folder("Loans");
            c.put(loans, "one@quay.example", "With an id");
            c.put(loans, letter("", "Without an id", 12));
            c.put(loans, letter("", "Without one either", 12));
            c.lookTwice();
            Map<String, Long> before = Map.of(
                    "With an id", c.arrived("With an id").id(),
                    "Without an id", c.arrived("Without an id").id(),
                    "Without one either", c.arrived("Without one either").id());
            c.other.open("INBOX");
            String aside = c.other.rename(loans, FolderPath.parse("Aside"));
            assertThat(c.folder("Loans")).isEqualTo(loans);
            c.other.open(aside);
            List<Long> uids = new ArrayList<>(
                    c.onServer(aside).stream().map(Sighting::uid).toList());
            Collections.reverse(uids);
            for (long uid : uids) {
                c.other.open(aside);
                c.other.move(List.of(uid), loans);
            }
            c.other.open("INBOX");
            c.other.delete(aside);
            c.lookTwice();
            before.forEach((subject, id) -> {
                assertThat(c.all(subject)).extracting(ListRow::id).containsExactly(id);
                assertThat(c.lies(subject)).isEqualTo("Loans");
            });
            c.other.open(loans);
            c.other.mark(c.other.withMessageId("one@quay.example"), "\\Flagged", true);
            c.lookTwice();
            assertThat(c.arrived("With an id").flagged()).isTrue();
            assertThat(c.arrived("Without one either").flagged()).isFalse();
        }
    }

    @ParameterizedTest
    @EnumSource
    void duplicatesOfOneMessageIdAreAsManyHereAsThere(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            List<Long> uids =
                    List.of(c.put("INBOX", "twin@quay.example", "Twin"), c.put("INBOX", "twin@quay.example", "Twin"));
            Await.until("both are here", () -> c.all("Twin").size() == 2);
            List<Long> ids = c.all("Twin").stream().map(ListRow::id).sorted().toList();
            String elsewhere = c.folder("Elsewhere");
            c.other.open("INBOX");
            c.other.move(List.of(c.isAt(uids.get(0)) == ids.get(0) ? uids.get(1) : uids.get(0)), elsewhere);
            c.lookTwice();
            assertThat(ids)
                    .extracting(id -> Cabinet.of(office).lies(person.id(), id))
                    .as("the one that was moved is taken for itself, and not for its twin")
                    .containsExactly("Inbox", "Elsewhere");
            c.other.open(elsewhere);
            c.other.move(List.of(c.onServer(elsewhere).get(0).uid()), "INBOX");
            c.lookTwice();
            ListRow one = c.all("Twin").get(0);
            c.change(one, state -> state.in(folder("Twins")));
            c.allOrdersAreDone();
            c.lookTwice();
            assertThat(c.all("Twin"))
                    .extracting(row -> Cabinet.of(office).lies(person.id(), row.id()))
                    .containsExactlyInAnyOrder("Twins", "Inbox");
            assertThat(c.onServer("INBOX")).hasSize(2);
        }
    }

    /** A move into Loans whose copy is there already; the account is not served any more. */
    private OrderStore.ServerOrder moveThatWasCutAfterItsCopy(Case c, ListRow row, String loans) throws Exception {
        synchroniser.forget(c.account.id());
        c.change(row, state -> state.in(folder("Loans")));
        List<OrderStore.ServerOrder> begun = orders.next(c.account.id(), 10);
        orders.begun(begun.stream().map(OrderStore.ServerOrder::id).toList());
        c.other.open("INBOX");
        c.other.copy(List.of(begun.get(0).uid()), loans);
        return begun.get(0);
    }

    /** Its folder cannot be opened for a while, so that the order waits: what it has put there is no other message. */
    @Test
    void whatAnOrderThatWaitsHasPutThereIsNotTakenForAnotherMessage() throws Exception {
        try (Case c = new Case(Kind.PLAIN)) {
            String loans = c.folder("Loans");
            c.lookTwice();
            OrderStore.ServerOrder begun = moveThatWasCutAfterItsCopy(c, c.arrived("Before"), loans);
            Cabinet cabinet = Cabinet.of(office);
            cabinet.jdbc
                    .sql(
                            "insert into put_aside (mailbox_id, name, reason, next_at) values (?, '', 'No', now() + interval '1 hour')")
                    .param(begun.mailboxId())
                    .update();
            synchroniser.serve(c.account);
            c.lookTwice();
            assertThat(c.all("Before")).hasSize(1);
            cabinet.jdbc
                    .sql("delete from put_aside where mailbox_id = ?")
                    .param(begun.mailboxId())
                    .update();
            synchroniser.serve(c.account);
            c.allOrdersAreDone();
            c.lookTwice();
            assertThat(c.all("Before")).hasSize(1);
            assertThat(c.onServer(loans)).hasSize(1);
            assertThat(c.onServer("INBOX")).noneMatch(one -> one.uid() == begun.uid());
        }
    }

    /** Without MOVE a copy is made first; what was cut off after that must not be copied again. */
    @Test
    void aMoveThatWasCutBetweenCopyAndRemovalIsFinished() throws Exception {
        try (Case c = new Case(Kind.PLAIN)) {
            String loans = c.folder("Loans");
            c.lookTwice();
            ListRow row = c.arrived("Before");
            moveThatWasCutAfterItsCopy(c, row, loans);
            synchroniser.serve(c.account);
            c.allOrdersAreDone();
            c.lookTwice();
            assertThat(c.onServer(loans)).hasSize(1);
            assertThat(c.onServer("INBOX")).isEmpty();
            assertThat(c.all("Before")).extracting(ListRow::id).containsExactly(row.id());
        }
    }

    @ParameterizedTest
    @EnumSource(names = {"SLASH", "PLAIN"})
    void anOrderForAFolderThatIsDeletedElsewhereBlocksNothing(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            String doomed = c.folder("Doomed");
            c.put(doomed, "doomed@quay.example", "Doomed");
            c.lookTwice();
            ListRow lost = c.arrived("Doomed");
            ListRow kept = c.arrived("Before");
            synchroniser.forget(c.account.id());
            c.change(lost, state -> state.flagged(true));
            c.change(kept, state -> state.flagged(true));
            c.other.open("INBOX");
            c.other.delete(doomed);
            c.lookTwice();
            c.allOrdersAreDone();
            assertThat(c.find("Doomed")).isEmpty();
            assertThat(c.onServer("INBOX")).filteredOn(Sighting::flagged).hasSize(1);
            assertThat(orders.refusedOf(person.id(), c.account.id(), 10)).isEmpty();
            assertThat(c.events())
                    .as("nothing was refused: what it was for is gone")
                    .noneMatch(said -> said.startsWith("Refused"));
        }
    }

    /** While an order waits the user's wish stands; afterwards both sides must agree without being told again. */
    @ParameterizedTest
    @EnumSource
    void whatIsMovedElsewhereWhileAnOrderOfItWaitsIsFollowedAfterwards(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            String loans = c.folder("Loans");
            c.lookTwice();
            ListRow row = c.arrived("Before");
            synchroniser.forget(c.account.id());
            c.change(row, state -> state.flagged(true));
            c.other.open("INBOX");
            c.other.move(List.of(c.onServer("INBOX").get(0).uid()), loans);
            c.lookTwice();
            c.allOrdersAreDone();
            c.lookTwice();
            assertThat(c.lies("Before")).isEqualTo("Loans");
            assertThat(c.onServer(loans))
                    .singleElement()
                    .satisfies(one -> assertThat(one.flagged()).isTrue());
            assertThat(c.find("Before").orElseThrow().flagged()).isTrue();
        }
    }

    /** The connection is open, and its server may still answer from how the folder was. */
    @ParameterizedTest
    @EnumSource
    void whatTheUserDoesWithAMessageThatIsMovedElsewhereIsDoneWhereItLies(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            String loans = c.folder("Loans");
            c.lookTwice();
            c.put("INBOX", "filed@quay.example", "Filed");
            ListRow marked = c.arrived("Before");
            ListRow filed = c.arrived("Filed");
            c.other.open("INBOX");
            c.other.move(c.onServer("INBOX").stream().map(Sighting::uid).toList(), loans);
            c.change(marked, state -> state.flagged(true));
            c.change(filed, state -> state.in(folder("Elsewhere")));
            Await.until(
                    "the orders are done",
                    () -> orders.ahead(List.of(marked.id(), filed.id())).isEmpty());
            c.lookTwice();
            assertThat(c.lies("Before")).isEqualTo("Loans");
            assertThat(c.onServer(loans))
                    .singleElement()
                    .satisfies(one -> assertThat(one.flagged()).isTrue());
            assertThat(c.lies("Filed")).isEqualTo("Elsewhere");
            assertThat(c.all("Filed")).hasSize(1);
        }
    }

    @ParameterizedTest
    @EnumSource(names = {"SLASH", "DOT"})
    void whatTheServerRefusesIsShownAndBlocksNothing(Kind kind) throws Exception {
        DovecotHost server = kind.host();
        try (Case c = new Case(server, server.smallUser())) {
            String locked = c.folder("Locked");
            c.put(locked, "locked@quay.example", "Locked");
            c.put("INBOX", letter("big@quay.example", "Big", 250));
            c.lookTwice();
            server.makeReadOnly(c.user, locked);
            c.lookTwice();
            ListRow stuck = c.arrived("Locked");
            c.change(stuck, state -> state.flagged(true));
            c.change(stuck, state -> state.in(folder("Elsewhere")));
            c.change(c.arrived("Before"), state -> state.flagged(true));
            c.allOrdersAreDone();
            assertThat(c.onServer("INBOX")).filteredOn(Sighting::flagged).hasSize(1);
            assertThat(orders.refusedOf(person.id(), c.account.id(), 10))
                    .extracting(OrderStore.Refused::trouble)
                    .containsExactly(
                            "The folder %s is read-only for you on its server: nothing can be moved out of it, to %s."
                                    .formatted(locked, locked.replace("Locked", "Elsewhere")),
                            "The folder %s is read-only for you on its server: what you marked is marked here, and cannot be told to the server."
                                    .formatted(locked));
            c.lookTwice();
            assertThat(c.lies("Locked")).as("it stays as the user left it").isEqualTo("Elsewhere");
        }
    }

    @ParameterizedTest
    @EnumSource(names = {"SLASH", "DOT"})
    void afterAServerWasKilledBothSidesAgree(Kind kind) throws Exception {
        DovecotHost server = DovecotHost.start(kind.shape);
        try (server;
                Case c = new Case(server, server.user())) {
            for (int i = 0; i < 20; i++) {
                c.put("INBOX", "k" + i + "@quay.example", "Killed " + i);
            }
            Await.until("all arrive", () -> c.find("Killed 19").isPresent());
            for (int i = 0; i < 20; i++) {
                long target = folder(i % 2 == 0 ? "Even" : "Odd");
                c.change(c.arrived("Killed " + i), state -> state.in(target).unread(false));
                if (i % 7 == 3) {
                    server.kill();
                    server.start();
                }
            }
            c.allOrdersAreDone();
            try (ImapConnection again = c.connect()) {
                for (String path : List.of("Even", "Odd")) {
                    String name = again.folders().stream()
                            .filter(one -> one.path().toString().equals(path))
                            .map(RemoteFolder::serverName)
                            .findFirst()
                            .orElseThrow();
                    again.open(name);
                    assertThat(again.sightings(1)).hasSize(10).allMatch(Sighting::seen);
                }
                again.open("INBOX");
                assertThat(again.uids()).hasSize(1);
            }
            for (int i = 0; i < 20; i++) {
                assertThat(c.all("Killed " + i)).hasSize(1);
            }
        }
    }

    @Test
    void aVeryLargeMessageArrivesWithItsBeginning() throws Exception {
        try (Case c = new Case(Kind.SLASH)) {
            int lines = 60 * 1024 * 1024 / 52;
            c.put("INBOX", letter("huge@quay.example", "Huge", lines));
            c.put("INBOX", letter("after@quay.example", "After", 1));
            c.arrived("After");
            ListRow huge = c.arrived("Huge");
            assertThat(huge.unread()).isTrue();
            assertThat(huge.size()).as("it is known how large it is").isGreaterThan(60_000_000);
            assertThat(messages.source(person.id(), huge.id()).orElseThrow())
                    .as("of which the beginning is here")
                    .hasSize(20 * 1024 * 1024);
        }
    }

    @Test
    void onlyAsFarBackAsTheUserWantsIsImported() throws Exception {
        try (Case c = new Case(Kind.SLASH)) {
            c.put("INBOX", "new@quay.example", "New");
            c.arrived("New");
            AccountStore accounts = office.bean(AccountStore.class);
            c.other.append("INBOX", letter("older@quay.example", "Older", 10), LONG_AGO.minus(Duration.ofDays(400)));
            c.arrived("Older");
            Account.Settings recent = new Account.Settings("", java.time.LocalDate.parse("2026-09-01"), true);
            accounts.set(person.id(), c.account.id(), recent);
            c.lookTwice();
            c.other.append(
                    "Archive", letter("oldest@quay.example", "Oldest", 10), LONG_AGO.minus(Duration.ofDays(800)));
            c.put("Archive", "later@quay.example", "Later");
            c.lookTwice();
            c.arrived("Later");
            assertThat(c.find("Oldest")).isEmpty();
            accounts.set(person.id(), c.account.id(), Account.Settings.USUAL);
            c.lookTwice();
            c.arrived("Oldest");
        }
    }

    private Account pop(DovecotHost server, String user, boolean keep) throws MailException {
        Account account = office.bean(AccountAdder.class)
                .add(
                        person.id(),
                        new Account.Draft(
                                keep ? "PK" : "PR",
                                "By POP3",
                                Tone.PETROL,
                                user + "@quay.example",
                                List.of(),
                                new Account.Hosts(
                                        Account.Protocol.POP3,
                                        new MailHost("127.0.0.1", server.pop3Port(), MailHost.Encryption.NONE, user),
                                        null,
                                        app.schublade.mail.Credentials.CredentialKind.PASSWORD),
                                new Account.Settings("", null, keep),
                                DovecotHost.PASSWORD));
        added.add(account);
        Await.until("fetched", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
        return account;
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void mailByPop3IsFetchedOnceFiledHereAndKeptThereOrNot(boolean keep) throws Exception {
        DovecotHost server = Kind.SLASH.host();
        String user = server.user();
        Cabinet cabinet = Cabinet.of(office);
        office.bean(RuleStore.class).save(person.id(), cabinet.filing(person.id(), "westwharf.example", "Caught"));
        try (ImapConnection other = ImapConnection.open(
                new MailHost("127.0.0.1", server.imapPort(), MailHost.Encryption.NONE, user),
                DovecotHost.PASSWORD,
                Duration.ofSeconds(20))) {
            other.append("INBOX", letter("old@quay.example", "Old", 5), LONG_AGO);
            Account account = pop(server, user, keep);
            assertThat(cabinet.counts(person.id(), "Inbox"))
                    .as("no rule for what was there")
                    .isEqualTo("1/0");
            other.append("INBOX", letter("new@quay.example", "New", 5), Instant.now());
            for (int i = 0; i < 2; i++) {
                office.bean(AccountStore.class).report(account.id(), Account.AccountState.NEW, null, null);
                synchroniser.serve(account);
                Await.until("fetched again", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
            }
            assertThat(cabinet.counts(person.id(), "Inbox")).isEqualTo("1/0");
            assertThat(cabinet.counts(person.id(), "Caught")).isEqualTo("1/1");
            assertThat(orders.next(account.id(), 1)).isEmpty();
            other.open("INBOX");
            assertThat(other.uids()).hasSize(keep ? 2 : 0);
        }
    }

    @ParameterizedTest
    @EnumSource
    void aFolderThatIsRenamedHereIsRenamedThereWithAllBelow(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            c.put(c.folder("Loans"), "l1@quay.example", "In loans");
            c.put(c.folder("Loans/Halden"), "l2@quay.example", "In Halden");
            c.lookTwice();
            FolderStore folders = office.bean(FolderStore.class);
            long id = folder("Loans");
            FolderStore.Portrait loans = folders.portrait(person.id(), id).orElseThrow();
            assertThat(loans.below()).isEqualTo(1);
            assertThat(loans.messages()).isEqualTo(2);
            folders.rename(person.id(), loans, FolderPath.parse("Lending/Out"));
            Await.until("the server follows", () -> paths(c).contains("Lending/Out/Halden"));
            assertThat(paths(c)).contains("Lending/Out").doesNotContain("Loans", "Loans/Halden");
            c.lookTwice();
            assertThat(c.lies("In Halden")).isEqualTo("Lending / Out / Halden");
            assertThat(c.lies("In loans")).isEqualTo("Lending / Out");
            assertThat(c.arrived("In loans").folderId()).isEqualTo(id);
            assertThat(c.all("In Halden")).hasSize(1);
            assertThat(c.events())
                    .as("the folder below goes with it, and is not renamed once more")
                    .noneMatch(said -> said.contains("Halden"));
        }
    }

    @ParameterizedTest
    @EnumSource
    void aFolderThatIsDeletedHereIsDeletedThereAndComesBackByUndo(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            c.put(c.folder("Loans"), "l1@quay.example", "In loans");
            c.put(c.folder("Loans/Halden"), "l2@quay.example", "In Halden");
            c.lookTwice();
            FolderStore folders = office.bean(FolderStore.class);
            long halden = folder("Loans/Halden");
            folders.delete(
                    person.id(), folders.portrait(person.id(), folder("Loans")).orElseThrow());
            assertThat(places.of(person.id(), null).folders())
                    .extracting(one -> one.path().shown())
                    .doesNotContain("Loans", "Loans / Halden");
            Await.until("they are gone there", () -> !paths(c).contains("Loans/Halden"));
            c.lookTwice();
            assertThat(c.lies("In Halden")).isEqualTo("Trash");
            office.bean(UndoStore.class).latest(person.id());
            c.allOrdersAreDone();
            assertThat(orders.refusedOf(person.id(), c.account.id(), 10)).isEmpty();
            c.lookTwice();
            assertThat(c.lies("In Halden")).isEqualTo("Loans / Halden");
            assertThat(c.arrived("In Halden").folderId()).isEqualTo(halden);
            assertThat(c.lies("In loans")).isEqualTo("Loans");
            assertThat(paths(c)).contains("Loans", "Loans/Halden");
            assertThat(Cabinet.of(office).wrongCounts()).isEmpty();
        }
    }

    @ParameterizedTest
    @EnumSource
    void whatIsDeletedForGoodIsGoneThereTooAndStaysGone(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            c.put("INBOX", "g1@quay.example", "Thrown away");
            c.put("INBOX", "g2@quay.example", "Kept in the trash");
            long thrown = c.arrived("Thrown away").id();
            long kept = c.arrived("Kept in the trash").id();
            long trash = places.special(person.id(), SpecialUse.TRASH);
            office.bean(FilingStore.class)
                    .act(person.id(), Cause.HAND, "Trash", List.of(thrown, kept), state -> state.in(trash));
            office.bean(EffectRunner.class)
                    .carryOut(
                            person.id(),
                            Cause.FOR_GOOD,
                            "For good",
                            List.of(thrown),
                            List.of(new Effect.DeleteForGood()),
                            0);
            Await.until("it is gone here", () -> c.find("Thrown away").isEmpty());
            c.lookTwice();
            assertThat(c.find("Thrown away")).isEmpty();
            assertThat(c.lies("Kept in the trash")).isEqualTo("Trash");
            String there = c.other.folders().stream()
                    .filter(folder -> folder.path().equals(SpecialUse.TRASH.path()))
                    .map(RemoteFolder::serverName)
                    .findFirst()
                    .orElseThrow();
            assertThat(c.onServer(there)).hasSize(1);
            assertThat(Cabinet.of(office).wrongCounts()).isEmpty();
        }
    }

    private static List<String> paths(Case c) throws MailException {
        return c.other.folders().stream()
                .filter(RemoteFolder::selectable)
                .map(one -> one.path().toString())
                .toList();
    }

    /** Where a move is a copy first, a full account has no room for it. */
    @Test
    void aFullAccountIsToldApartAndBlocksNothing() throws Exception {
        DovecotHost server = Kind.PLAIN.host();
        try (Case c = new Case(server, server.smallUser())) {
            c.put("INBOX", letter("big@quay.example", "Big", 250)); // 13 of the 20 KB
            ListRow big = c.arrived("Big");
            c.change(big, state -> state.in(folder("Elsewhere")));
            c.change(c.arrived("Before"), state -> state.flagged(true));
            c.allOrdersAreDone();
            assertThat(orders.refusedOf(person.id(), c.account.id(), 10))
                    .singleElement()
                    .satisfies(refused -> assertThat(refused.trouble()).contains("The account is full"));
            assertThat(c.onServer("INBOX")).filteredOn(Sighting::flagged).hasSize(1);
        }
    }

    @ParameterizedTest
    @EnumSource(names = {"SLASH", "PLAIN"})
    void anOriginalThatIsMovedWhereItsCopyIsToBeIsNotTakenForTheCopy(Kind kind) throws Exception {
        try (Case c = new Case(kind)) {
            c.put("INBOX", "twice@quay.example", "Twice");
            ListRow original = c.arrived("Twice");
            String there = c.folder("Loans");
            synchroniser.forget(c.account.id());
            office.bean(MessageCopier.class)
                    .copyInto(person.id(), "Copied", List.of(original.id()), folder("Loans"), 0);
            long[] uids = uidsIn(c, "INBOX");
            c.other.move(List.of(uids[uids.length - 1]), there);
            synchroniser.serve(
                    office.bean(AccountStore.class).byId(c.account.id()).orElseThrow());
            c.allOrdersAreDone();
            c.lookTwice();
            assertThat(c.onServer(there)).as("the original and its copy").hasSize(2);
            assertThat(messages.row(person.id(), original.id()))
                    .as("it is known again")
                    .isPresent();
            assertThat(Cabinet.of(office).counts(person.id(), "Loans")).isEqualTo("2/2");
        }
    }

    private static long[] uidsIn(Case c, String folder) throws MailException {
        c.other.open(folder);
        return c.other.uids();
    }

    @Test
    void ofWhatIsCarriedOverOnlyThatIsRefusedForWhichThereIsNoRoom() throws Exception {
        DovecotHost server = Kind.SLASH.host();
        try (Case from = new Case(Kind.SLASH);
                Case small = new Case(server, server.smallUser(), "CD")) {
            from.put("INBOX", letter("big@quay.example", "Too big", 500));
            from.put("INBOX", letter("little@quay.example", "Little", 2));
            List<Long> both =
                    List.of(from.arrived("Too big").id(), from.arrived("Little").id());
            office.bean(MessageCopier.class).carryOver(person.id(), "Carried over", both, small.account.id(), 0);
            from.allOrdersAreDone();
            small.allOrdersAreDone();
            assertThat(orders.refusedOf(person.id(), small.account.id(), 10))
                    .singleElement()
                    .satisfies(refused -> assertThat(refused.subject()).isEqualTo("Too big"));
            assertThat(small.onServer("INBOX"))
                    .as("the one before, and the little one")
                    .hasSize(2);
        }
    }

    @Test
    void anImportThatWasCutGoesOnWhereItWasCut() throws Exception {
        try (Case c = new Case(Kind.SLASH)) {
            synchroniser.forget(c.account.id());
            String archive = c.folder("Archive");
            for (int i = 0; i < 450; i++) {
                c.other.append(archive, letter("cut" + i + "@quay.example", "Cut " + i, 3), LONG_AGO);
            }
            Cabinet cabinet = Cabinet.of(office);
            int rounds = 0;
            while (cabinet.messages(c.account) < 451 && rounds++ < 100) {
                synchroniser.serve(
                        office.bean(AccountStore.class).byId(c.account.id()).orElseThrow());
                int before = cabinet.messages(c.account);
                Await.until("some more are here", () -> cabinet.messages(c.account) > before || before == 451);
                synchroniser.forget(c.account.id()); // Cut in the middle of a batch.
            }
            c.lookTwice();
            assertThat(cabinet.messages(c.account)).isEqualTo(451);
            assertThat(cabinet.wrongCounts()).isEmpty();
            assertThat(c.all("Cut 7")).hasSize(1);
        }
    }
}
