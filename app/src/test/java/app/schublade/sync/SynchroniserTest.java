package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.State;
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
import app.schublade.store.account.AccountStore;
import app.schublade.store.act.Cause;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.filing.UndoStore;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.ListStore;
import app.schublade.store.message.MessageStore;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.RuleStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** One account against a real IMAP server: what happens on either side shows on the other, whatever is in the way. */
@ExtendWith(Office.Extension.class)
class SynchroniserTest {
    private static final String SCHOOLS = "schools@lanternquay.example";

    private final Office office;
    private final MessageStore messages;
    private final ListStore lists;
    private final FilingStore filing;
    private final PlaceStore places;
    private Standin hosts;
    private CurrentUser person;
    private Account account;

    SynchroniserTest(Office office) {
        this.office = office;
        messages = office.bean(MessageStore.class);
        lists = office.bean(ListStore.class);
        filing = office.bean(FilingStore.class);
        places = office.bean(PlaceStore.class);
        hosts = new Standin(Standin.Options.forTests(0));
        person = office.person();
        account = connect();
    }

    private Account connect() {
        try {
            return office.addAndImport(person, hosts, "MU");
        } catch (MailException e) {
            throw new IllegalStateException(e);
        }
    }

    @BeforeEach
    void beginWithAnEmptyInbox() {
        assertThat(rows()).isEmpty();
    }

    @AfterEach
    void close() {
        office.bean(Synchroniser.class).forget(account.id());
        hosts.close();
    }

    private List<ListRow> rows() {
        return lists
                .page(
                        person.id(),
                        ListStore.Ranks.NONE,
                        ListQuery.newest(new Query.InFolder(new FolderRef(inbox(), FolderPath.parse("A folder"))), 500))
                .stream()
                .map(ListStore.ListLine::row)
                .toList();
    }

    private long inbox() {
        return places.inbox(person.id());
    }

    private ListRow arrived(String subject) {
        Await.until(subject + " arrives", () -> find(subject).isPresent());
        return find(subject).orElseThrow();
    }

    private Optional<ListRow> find(String subject) {
        var all = new java.util.ArrayList<ListRow>();
        office.bean(RuleInputStore.class).forEach(person.id(), Query.everything(), Set.of(), one -> {
            if (one.row().subject().equals(subject)) {
                all.add(one.row());
            }
        });
        assertThat(all).as("never doubled").hasSizeLessThanOrEqualTo(1);
        return all.stream().findFirst();
    }

    private ListRow deliver(String subject) throws Exception {
        hosts.deliver("anna@westwharf.example", SCHOOLS, subject, "Hello");
        return arrived(subject);
    }

    private long folder(String path) {
        return places.folder(person.id(), FolderPath.parse(path)).id();
    }

    private void change(ListRow row, UnaryOperator<State> change) {
        filing.act(person.id(), Cause.HAND, "Test", List.of(row.id()), change);
    }

    private void allOrdersAreDone() {
        OrderStore orders = office.bean(OrderStore.class);
        Await.until("orders are done", () -> orders.next(account.id(), 1).isEmpty());
        assertThat(orders.refusedOf(person.id(), account.id(), 10)).isEmpty();
    }

    /** What another mail program sees in a folder of the server: for each message its Message-ID's marks. */
    private List<Sighting> onServer(String folder) throws MailException {
        try (ImapConnection imap = otherProgram()) {
            if (imap.folders().stream().noneMatch(one -> one.path().toString().equals(folder))) {
                return List.of();
            }
            imap.open(serverName(imap, folder));
            return imap.sightings(1).stream().filter(one -> !one.deleted()).toList();
        }
    }

    private static String serverName(ImapConnection imap, String folder) throws MailException {
        return imap.folders().stream()
                .filter(one -> one.path().toString().equals(folder))
                .findFirst()
                .orElseThrow()
                .serverName();
    }

    private ImapConnection otherProgram() throws MailException {
        return ImapConnection.open(
                Office.draft(hosts, "MU").hosts().receiving(), DemoAccount.PASSWORD, Duration.ofSeconds(20));
    }

    @Test
    void importsEveryFolderNewestFirstWithItsMarks() throws Exception {
        try (Standin world = new Standin(Standin.Options.forTests(300))) {
            CurrentUser somebody = office.person();
            Account museum = office.addAndImport(somebody, world, "MU");
            int onServer = 0;
            int unseen = 0;
            try (ImapConnection imap = ImapConnection.open(
                    Office.draft(world, "MU").hosts().receiving(), DemoAccount.PASSWORD, Duration.ofSeconds(20))) {
                for (var remote : imap.folders()) {
                    if (!remote.selectable()) {
                        continue;
                    }
                    imap.open(remote.serverName());
                    List<Sighting> sightings = imap.sightings(1);
                    onServer += sightings.size();
                    unseen +=
                            (int) sightings.stream().filter(one -> !one.seen()).count();
                }
            }
            var all = places.of(somebody.id(), null).folders();
            assertThat(all.stream().mapToInt(one -> one.total()).sum())
                    .isEqualTo(onServer)
                    .isGreaterThan(100);
            assertThat(all.stream().mapToInt(one -> one.unread()).sum()).isEqualTo(unseen);
            Account now = office.bean(AccountStore.class).byId(museum.id()).orElseThrow();
            assertThat(now.status().imported()).isEqualTo(now.status().toImport());
            office.bean(Synchroniser.class).forget(museum.id());
        }
    }

    @Test
    void newMailIsFiledByItsRuleHereAndOnTheServer() throws Exception {
        office.bean(RuleStore.class)
                .save(
                        person.id(),
                        new Rule(
                                0,
                                "Class visits",
                                true,
                                List.of(new SentTo(List.of(SCHOOLS))),
                                List.of(),
                                List.of(
                                        new Effect.FileInto(
                                                places.folder(person.id(), FolderPath.parse("Schools/Visits"))),
                                        new Effect.Categorise(places.category(person.id(), "Next")),
                                        new Effect.MarkRead(true)),
                                false));
        ListRow row = deliver("Visit of class 4b");
        assertThat(row.folderId()).isEqualTo(folder("Schools/Visits"));
        assertThat(row.unread()).isFalse();
        assertThat(row.alias()).isEqualTo(SCHOOLS);
        allOrdersAreDone();
        assertThat(onServer("INBOX")).isEmpty();
        assertThat(onServer("Schools/Visits")).singleElement().satisfies(sighting -> {
            assertThat(sighting.seen()).isTrue();
            assertThat(sighting.keywords()).contains("category-next");
        });

        long batch = messages.filed(person.id(), row.id()).get(0).batch();
        office.bean(UndoStore.class).of(person.id(), row.id(), batch);
        allOrdersAreDone();
        assertThat(onServer("Schools/Visits")).isEmpty();
        assertThat(onServer("INBOX")).singleElement().satisfies(sighting -> {
            assertThat(sighting.seen()).isFalse();
            assertThat(sighting.keywords()).doesNotContain("category-next");
        });
        assertThat(find("Visit of class 4b").orElseThrow().folderId()).isEqualTo(inbox());
    }

    @Test
    void rulesDoNotTouchMailThatWasThereBefore() throws Exception {
        hosts.deliver("anna@westwharf.example", "desk@northlights-tour.example", "Old", "Hello");
        Rule rule = Cabinet.of(office).filing(person.id(), "westwharf.example", "Elsewhere");
        office.bean(RuleStore.class).save(person.id(), rule);
        Account tour = office.addAndImport(person, hosts, "TS");
        assertThat(arrived("Old").folderId()).isEqualTo(inbox());
        hosts.deliver("anna@westwharf.example", "desk@northlights-tour.example", "New", "Hello");
        assertThat(arrived("New").folderId()).isEqualTo(folder("Elsewhere"));
        office.bean(Synchroniser.class).forget(tour.id());
    }

    @Test
    void whatIsDoneHereIsDoneOnTheServer() throws Exception {
        ListRow row = deliver("Marks");
        long label = places.label(person.id(), FolderPath.parse("Objects")).id();
        change(row, state -> state.unread(false).flagged(true).labelled(Set.of(label)));
        change(row, state -> state.in(folder("Größe & Gewicht/Ελλάδα")));
        allOrdersAreDone();
        assertThat(onServer("INBOX")).isEmpty();
        assertThat(onServer("Größe & Gewicht/Ελλάδα")).singleElement().satisfies(sighting -> {
            assertThat(sighting.seen()).isTrue();
            assertThat(sighting.flagged()).isTrue();
            assertThat(sighting.keywords()).contains("label-objects");
        });
        change(row, state -> state.in(places.special(person.id(), SpecialUse.TRASH)));
        allOrdersAreDone();
        assertThat(onServer("Trash")).hasSize(1);
    }

    @Test
    void whatAnotherProgramDoesShowsHere() throws Exception {
        ListRow marked = deliver("Marked elsewhere");
        ListRow moved = deliver("Moved elsewhere");
        deliver("Deleted elsewhere");
        long label = places.label(person.id(), FolderPath.parse("Objects")).id();
        change(moved, state -> state.labelled(Set.of(label)));
        allOrdersAreDone();
        try (ImapConnection imap = otherProgram()) {
            String target = imap.create(FolderPath.parse("Filed by hand"));
            imap.open("INBOX");
            List<Long> uids =
                    imap.sightings(1).stream().map(Sighting::uid).sorted().toList();
            imap.mark(List.of(uids.get(0)), "\\Seen", true);
            imap.mark(List.of(uids.get(0)), "\\Flagged", true);
            imap.move(List.of(uids.get(1)), target);
            imap.mark(List.of(uids.get(2)), "\\Deleted", true);
        }
        Await.until("the marks show", () -> {
            ListRow now = messages.row(person.id(), marked.id()).orElseThrow();
            return !now.unread() && now.flagged();
        });
        office.bean(Synchroniser.class).serve(account); // A look at everything comes at once then.
        Await.until(
                "the move shows", () -> find("Moved elsewhere").orElseThrow().folderId() == folder("Filed by hand"));
        ListRow now = find("Moved elsewhere").orElseThrow();
        assertThat(now.id()).as("a message keeps its id").isEqualTo(moved.id());
        assertThat(now.labels()).containsExactly(label);
        Await.until("the deletion shows", () -> find("Deleted elsewhere").isEmpty());
    }

    @Test
    void nothingThatIsDoneWhileTheServerIsAwayIsLost() throws Exception {
        ListRow row = deliver("Away");
        hosts.setOffline("MU", true);
        Await.until("it is noticed", () -> office.state(account.id()) == Account.AccountState.AWAY);
        assertThat(office.bean(AccountStore.class)
                        .byId(account.id())
                        .orElseThrow()
                        .status()
                        .trouble())
                .isNotBlank();
        change(row, state -> state.in(folder("Loans")));
        change(row, state -> state.unread(false));
        hosts.deliver("b@c.example", SCHOOLS, "Meanwhile", "Hello");
        hosts.setOffline("MU", false);
        arrived("Meanwhile");
        allOrdersAreDone();
        assertThat(onServer("Loans"))
                .singleElement()
                .satisfies(one -> assertThat(one.seen()).isTrue());
        assertThat(onServer("INBOX")).hasSize(1);
        assertThat(office.state(account.id())).isEqualTo(Account.AccountState.CONNECTED);
    }

    /** Connections are cut again and again while orders run: at the end both sides agree, nothing lost or doubled. */
    @Test
    void cutsBetweenAnOrderAndItsAnswerDoNoHarm() throws Exception {
        for (int i = 0; i < 12; i++) {
            hosts.deliver("anna@westwharf.example", SCHOOLS, "Number " + i, "Hello");
        }
        Await.until("all arrive", () -> rows().size() == 12);
        List<ListRow> all = rows();
        for (int i = 0; i < all.size(); i++) {
            long target = folder(i % 2 == 0 ? "Even" : "Odd");
            change(all.get(i), state -> state.in(target).flagged(true));
            if (i % 3 == 0) {
                hosts.cut("MU");
            }
        }
        allOrdersAreDone();
        assertThat(onServer("INBOX")).isEmpty();
        assertThat(onServer("Even")).hasSize(6).allMatch(Sighting::flagged);
        assertThat(onServer("Odd")).hasSize(6).allMatch(Sighting::flagged);
        office.bean(Synchroniser.class).serve(account);
        Await.until("connected", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
        for (int i = 0; i < 12; i++) {
            assertThat(find("Number " + i)).isPresent();
        }
    }

    /** The application ends and starts again, at any moment: rules act once, nothing is fetched twice. */
    @Test
    void aRestartInTheMiddleContinues() throws Exception {
        Synchroniser synchroniser = office.bean(Synchroniser.class);
        for (int round = 0; round < 4; round++) {
            ListRow row = deliver("Round " + round);
            change(row, state -> state.in(folder("Rounds")));
            synchroniser.serve(account); // Stops the worker wherever it is and starts another.
        }
        synchroniser.forget(account.id());
        hosts.deliver("anna@westwharf.example", SCHOOLS, "While down", "Hello");
        synchroniser.serve(account);
        assertThat(arrived("While down").folderId()).isEqualTo(inbox());
        allOrdersAreDone();
        assertThat(onServer("Rounds")).hasSize(4);
        assertThat(onServer("INBOX")).hasSize(1);
        assertThat(places.of(person.id(), null)
                        .folder(folder("Rounds"))
                        .orElseThrow()
                        .total())
                .isEqualTo(4);
    }

    @Test
    void aSlowServerHoldsUpNobodyElse() throws Exception {
        Account tour = office.addAndImport(person, hosts, "TS");
        hosts.setDelay("TS", 1500);
        hosts.deliver("anna@westwharf.example", "desk@northlights-tour.example", "Slow", "Hello");
        long start = System.nanoTime();
        deliver("Quick");
        assertThat(Duration.ofNanos(System.nanoTime() - start)).isLessThan(Duration.ofSeconds(5));
        hosts.setDelay("TS", 0);
        arrived("Slow");
        office.bean(Synchroniser.class).forget(tour.id());
    }

    @Test
    void anAccountIsAddedOnlyIfItsServerLetsUsIn() {
        AccountAdder adder = office.bean(AccountAdder.class);
        Account.Draft good = Office.draft(hosts, "RC");
        Account.Draft bad = new Account.Draft(
                good.code(),
                good.name(),
                good.tone(),
                good.address(),
                List.of(),
                good.hosts(),
                good.settings(),
                "wrong");
        assertThatThrownBy(() -> adder.add(person.id(), bad)).isInstanceOf(MailException.class);
        assertThat(office.bean(AccountStore.class).of(person.id())).hasSize(1);
    }

    @Test
    void aPasswordThatIsRefusedIsNotTriedAgainAndCanBeReplaced() throws Exception {
        AccountStore accounts = office.bean(AccountStore.class);
        accounts.connect(person.id(), account.id(), account.hosts(), "outdated");
        office.bean(Synchroniser.class).serve(account);
        Await.until("it is refused", () -> office.state(account.id()) == Account.AccountState.LOGIN_REFUSED);
        assertThatThrownBy(() -> office.bean(AccountAdder.class).connect(account, account.hosts(), "wrong too"))
                .isInstanceOf(MailException.class);
        office.bean(AccountAdder.class).connect(account, account.hosts(), DemoAccount.PASSWORD);
        Await.until("it is connected", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
        deliver("After the new password");
    }

    @Test
    void countsAgreeWithTheListsAllTheTime() throws Exception {
        deliver("One");
        ListRow two = deliver("Two");
        change(two, state -> state.unread(false));
        Map<Long, Integer> unread = places.unreadInInbox(person.id());
        assertThat(unread).containsEntry(account.id(), 1);
        assertThat(places.of(person.id(), null).special(SpecialUse.INBOX).total())
                .isEqualTo(rows().size());
    }
}
