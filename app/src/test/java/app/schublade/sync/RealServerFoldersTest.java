package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Effect;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.MailException;
import app.schublade.mail.RemoteFolder;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.filing.EffectRunner;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.filing.UndoStore;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Folders on a real server: renamed, deleted and emptied on either side. */
class RealServerFoldersTest extends RealServers {
    RealServerFoldersTest(Office office) {
        super(office);
    }

    @ParameterizedTest
    @EnumSource(names = {"SLASH", "PLAIN"})
    void aFolderIsMadeOnOneServerBeforeAnythingLiesInIt(Kind kind) throws Exception {
        try (Case c = new Case(kind);
                Case other = new Case(Kind.SLASH.host(), Kind.SLASH.host().user(), "CD")) {
            FolderStore folders = office.bean(FolderStore.class);
            long id = folder("Loans/Halden");
            assertThat(folders.without(person.id(), id))
                    .extracting(FolderStore.MissingServer::account)
                    .containsExactly(c.account.id(), other.account.id());
            assertThat(folders.makeOn(office.person().id(), id, c.account.id())).isEmpty();
            assertThat(folders.makeOn(person.id(), id, c.account.id())).isPresent();
            Await.until("it is there", () -> paths(c).contains("Loans/Halden"));
            Await.until(
                    "it is known to be", () -> folders.without(person.id(), id).size() == 1);
            assertThat(paths(other)).doesNotContain("Loans/Halden");
            c.put(c.other.create(FolderPath.parse("Loans/Halden")), "l1@quay.example", "In Halden");
            c.lookTwice();
            assertThat(c.lies("In Halden")).isEqualTo("Loans / Halden");
            long gone = folder("Gone");
            folders.makeOn(person.id(), gone, other.account.id());
            folders.delete(person.id(), folders.portrait(person.id(), gone).orElseThrow());
            other.lookTwice();
            Await.until("nothing is left of it", () -> !paths(other).contains("Gone"));
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
}
