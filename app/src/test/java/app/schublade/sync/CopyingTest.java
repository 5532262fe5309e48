package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.query.Query;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.Sighting;
import app.schublade.standin.DemoAccount;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.filing.MessageCopier;
import app.schublade.store.filing.MessageRemoval;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.filing.UndoStore;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.ListStore;
import app.schublade.store.message.MessageStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Messages are copied, and carried over from one account's server to another's, whatever is in the way. */
@ExtendWith(Office.Extension.class)
class CopyingTest {
    private final Office office;
    private final JdbcClient jdbc;
    private final MessageCopier copier;
    private final FilingStore filing;
    private final MessageStore messages;
    private final PlaceStore places;
    private final OrderStore orders;
    private final Cabinet cabinet;
    private final Standin hosts = new Standin(Standin.Options.forTests(0));
    private final CurrentUser person;
    private final Account museum;
    private final Account theatre;

    CopyingTest(Office office) throws MailException {
        this.office = office;
        jdbc = office.bean(JdbcClient.class);
        copier = office.bean(MessageCopier.class);
        filing = office.bean(FilingStore.class);
        messages = office.bean(MessageStore.class);
        places = office.bean(PlaceStore.class);
        orders = office.bean(OrderStore.class);
        cabinet = Cabinet.of(office);
        person = office.person();
        museum = office.addAndImport(person, hosts, "MU");
        theatre = office.addAndImport(person, hosts, "TS");
    }

    @AfterEach
    void close() {
        office.bean(Synchroniser.class).forget(museum.id());
        office.bean(Synchroniser.class).forget(theatre.id());
        hosts.close();
    }

    private long deliver(String subject) throws Exception {
        hosts.deliver("anna@westwharf.example", museum.address(), subject, "Hello");
        Await.until(
                subject + " arrives", () -> !inFolder(places.inbox(person.id())).isEmpty());
        return inFolder(places.inbox(person.id())).get(0).id();
    }

    private List<ListRow> inFolder(long folder) {
        return office
                .bean(ListStore.class)
                .page(
                        person.id(),
                        ListStore.Ranks.NONE,
                        ListQuery.newest(new Query.InFolder(new FolderRef(folder, FolderPath.parse("A folder"))), 500))
                .stream()
                .map(ListStore.ListLine::row)
                .toList();
    }

    private List<Sighting> onServer(String code, String folder) throws MailException {
        try (ImapConnection imap = ImapConnection.open(
                Office.draft(hosts, code).hosts().receiving(), DemoAccount.PASSWORD, Duration.ofSeconds(20))) {
            for (var one : imap.folders()) {
                if (one.path().toString().equals(folder)) {
                    imap.open(one.serverName());
                    return imap.sightings(1).stream()
                            .filter(sighting -> !sighting.deleted())
                            .toList();
                }
            }
            return List.of();
        }
    }

    private void settled() {
        for (Account account : List.of(museum, theatre)) {
            Await.until(
                    "orders are done",
                    () -> jdbc.sql("select count(*) from server_order where account_id = ?")
                                    .param(account.id())
                                    .query(Integer.class)
                                    .single()
                            == 0);
        }
    }

    private ActOutcome carry(long message) {
        return copier.carryOver(person.id(), "Carried over", List.of(message), theatre.id(), 0);
    }

    private long trash() {
        return places.special(person.id(), SpecialUse.TRASH);
    }

    @Test
    void aCopyIsMadeHereAndOnTheServerAndTakenBackOnBoth() throws Exception {
        long original = deliver("Loan form");
        long loans = places.folder(person.id(), FolderPath.parse("Loans")).id();
        long label = places.label(person.id(), FolderPath.parse("Objects")).id();
        filing.act(person.id(), Cause.HAND, "Label", List.of(original), state -> state.with(label, true));

        ActOutcome outcome = copier.copyInto(person.id(), "Copied into Loans", List.of(original), loans, 0);
        assertThat(inFolder(loans)).singleElement().satisfies(copy -> {
            assertThat(copy.id()).isEqualTo(outcome.changed().get(0)).isNotEqualTo(original);
            assertThat(copy.subject()).isEqualTo("Loan form");
            assertThat(copy.labels()).containsExactly(label);
        });
        settled();
        assertThat(onServer("MU", "INBOX")).hasSize(1);
        assertThat(onServer("MU", "Loans"))
                .singleElement()
                .satisfies(sighting -> assertThat(sighting.keywords()).contains("label-objects"));

        filing.act(person.id(), Cause.HAND, "Read", outcome.changed(), state -> state.unread(false));
        settled();
        assertThat(onServer("MU", "Loans").get(0).seen()).isTrue();
        assertThat(onServer("MU", "INBOX").get(0).seen())
                .as("the original is its own")
                .isFalse();

        office.bean(UndoStore.class).act(person.id(), outcome.batch());
        settled();
        assertThat(inFolder(loans)).isEmpty();
        assertThat(onServer("MU", "Loans")).isEmpty();
        assertThat(onServer("MU", "Trash")).hasSize(1);
        assertThat(onServer("MU", "INBOX")).hasSize(1);
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    @Test
    void anActThatIsTakenBackBeforeTheServerKnowsEndsInTheTrash() throws Exception {
        long original = deliver("Too hasty");
        long loans = places.folder(person.id(), FolderPath.parse("Loans")).id();
        hosts.setOffline("MU", true);
        ActOutcome outcome = copier.copyInto(person.id(), "Copied into Loans", List.of(original), loans, 0);
        office.bean(UndoStore.class).act(person.id(), outcome.batch());
        hosts.setOffline("MU", false);
        settled();
        assertThat(onServer("MU", "Loans")).isEmpty();
        assertThat(onServer("MU", "Trash")).hasSize(1);
        assertThat(inFolder(trash())).hasSize(1);
    }

    @Test
    void aMessageIsCarriedOverAndItsOriginalGoesWhenTheCopyIsCertain() throws Exception {
        long original = deliver("Tour dates");
        filing.act(
                person.id(),
                Cause.HAND,
                "Mark",
                List.of(original),
                state -> state.flagged(true).unread(false));
        settled();
        hosts.setOffline("TS", true);
        ActOutcome outcome = carry(original);
        assertThat(orders.left(person.id(), outcome.batch())).isEqualTo(new OrderStore.OrdersLeft(1, 0));
        assertThat(onServer("MU", "INBOX")).as("kept until the copy is certain").hasSize(1);
        assertThat(inFolder(places.inbox(person.id()))).hasSize(2);

        hosts.setOffline("TS", false);
        settled();
        assertThat(orders.left(person.id(), outcome.batch())).isEqualTo(new OrderStore.OrdersLeft(0, 0));
        assertThat(onServer("TS", "INBOX")).singleElement().satisfies(sighting -> {
            assertThat(sighting.flagged()).isTrue();
            assertThat(sighting.seen()).isTrue();
        });
        assertThat(onServer("MU", "INBOX")).isEmpty();
        assertThat(onServer("MU", "Trash")).hasSize(1);
        assertThat(inFolder(places.inbox(person.id())))
                .singleElement()
                .satisfies(row -> assertThat(row.accountId()).isEqualTo(theatre.id()));
        assertThat(cabinet.wrongCounts()).isEmpty();

        office.bean(UndoStore.class).act(person.id(), outcome.batch());
        settled();
        assertThat(onServer("MU", "INBOX")).hasSize(1);
        assertThat(onServer("TS", "INBOX")).isEmpty();
        assertThat(onServer("TS", "Trash")).hasSize(1);
    }

    @Test
    void whatIsTakenBackMeanwhileKeepsItsOriginalWhereItWas() throws Exception {
        long original = deliver("On second thoughts");
        hosts.setOffline("TS", true);
        office.bean(UndoStore.class).act(person.id(), carry(original).batch());
        hosts.setOffline("TS", false);
        settled();
        assertThat(onServer("MU", "INBOX")).hasSize(1);
        assertThat(onServer("TS", "INBOX")).isEmpty();
        assertThat(inFolder(places.inbox(person.id())))
                .singleElement()
                .satisfies(row -> assertThat(row.id()).isEqualTo(original));
    }

    @Test
    void whatWasCutOffBeforeItsAnswerIsNotDoubled() throws Exception {
        long original = deliver("Once only");
        long loans = places.folder(person.id(), FolderPath.parse("Loans")).id();
        hosts.setOffline("MU", true);
        hosts.setOffline("TS", true);
        copier.copyInto(person.id(), "Copied", List.of(original), loans, 0);
        carry(original);
        byte[] source = messages.source(person.id(), original).orElseThrow();
        jdbc.sql("update server_order set begun = true where kind in ('COPY', 'BRING')")
                .update();
        hosts.setOffline("MU", false);
        hosts.setOffline("TS", false);
        // As if the servers had carried it out and only their answer had been lost.
        put("TS", "INBOX", source);
        settled();
        assertThat(onServer("TS", "INBOX")).hasSize(1);
        assertThat(onServer("MU", "Loans")).hasSize(1);
        assertThat(inFolder(loans)).hasSize(1);
        assertThat(inFolder(places.inbox(person.id()))).hasSize(1);
    }

    private void put(String code, String folder, byte[] source) throws MailException {
        try (ImapConnection imap = ImapConnection.open(
                Office.draft(hosts, code).hosts().receiving(), DemoAccount.PASSWORD, Duration.ofSeconds(20))) {
            imap.append(folder, source, Cabinet.MORNING);
        }
    }

    @Test
    void aMessageOfWhichOnlyTheBeginningIsHereIsFetchedWholeFirst() throws Exception {
        long original = deliver("Much longer than it looks");
        byte[] whole = messages.source(person.id(), original).orElseThrow();
        jdbc.sql(
                        "update message_source set whole = false, gzip = (select gzip from message_source where message_id = ?)"
                                + " where message_id = ?")
                .params(original, original)
                .update();
        long copy = carry(original).changed().get(0);
        settled();
        assertThat(messages.source(person.id(), copy))
                .hasValueSatisfying(source -> assertThat(source).isEqualTo(whole));
        assertThat(onServer("TS", "INBOX")).hasSize(1);
        assertThat(onServer("MU", "INBOX")).isEmpty();
    }

    @Test
    void aCopyWhoseOriginalIsGoneBeforeItWasMadeGoesToo() throws Exception {
        long original = deliver("Gone");
        long loans = places.folder(person.id(), FolderPath.parse("Loans")).id();
        hosts.setOffline("MU", true);
        copier.copyInto(person.id(), "Copied", List.of(original), loans, 0);
        cabinet.bean(MessageRemoval.class).remove(person.id(), List.of(original));
        assertThat(inFolder(loans)).isEmpty();
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    @Test
    void aCopyThatTheServerRefusedIsGivenUpWithoutATrace() throws Exception {
        long original = deliver("Refused");
        hosts.setOffline("TS", true);
        ActOutcome outcome = carry(original);
        jdbc.sql("update server_order set trouble = 'The account is full.' where batch_id = ?")
                .param(outcome.batch())
                .update();
        assertThat(orders.left(person.id(), outcome.batch())).isEqualTo(new OrderStore.OrdersLeft(0, 1));
        assertThat(orders.refusedOf(person.id(), theatre.id(), 9))
                .singleElement()
                .satisfies(refused -> assertThat(refused.subject()).isEqualTo("Refused"));
        assertThat(office.bean(RefusedOrders.class).putBack(theatre)).isEqualTo(1);
        assertThat(inFolder(places.inbox(person.id())))
                .singleElement()
                .satisfies(row -> assertThat(row.id()).isEqualTo(original));
        assertThat(cabinet.wrongCounts()).isEmpty();
    }
}
