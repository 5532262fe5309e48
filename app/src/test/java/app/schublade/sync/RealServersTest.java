package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.Tone;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.RemoteFolder;
import app.schublade.mail.Sighting;
import app.schublade.standin.DovecotHost;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.message.ListRow;
import app.schublade.store.rule.RuleStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Accounts on a real server: what is there is here, and stays so whatever breaks. */
class RealServersTest extends RealServers {
    RealServersTest(Office office) {
        super(office);
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
            c.other.mark(theFresh, "\\Flagged", false);
            Await.until(
                    "it is known to be done",
                    () -> messages.row(person.id(), fresh.id())
                                    .orElseThrow()
                                    .state()
                                    .done()
                            != null);
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
}
