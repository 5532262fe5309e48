package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.mail.MailException;
import app.schublade.mail.Sighting;
import app.schublade.standin.DovecotHost;
import app.schublade.store.account.AccountStore;
import app.schublade.store.filing.MessageCopier;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.message.ListRow;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What a real server is to do: cut in the middle, refused, overtaken by another mail program. */
class RealServerOrdersTest extends RealServers {
    RealServerOrdersTest(Office office) {
        super(office);
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
}
