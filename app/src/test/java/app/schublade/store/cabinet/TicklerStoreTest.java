package app.schublade.store.cabinet;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.State;
import app.schublade.core.place.Arrangement;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.query.Query;
import app.schublade.store.account.Account;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.base.Zones;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.ListStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What lies in the tickler comes back on its day, where the user is; and where the user is. */
@ExtendWith(Cabinet.Extension.class)
class TicklerStoreTest {
    private final Cabinet cabinet;
    private final long user;
    private final Account account;
    private final long tickler;

    TicklerStoreTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        user = cabinet.user();
        account = cabinet.account(user, "MU");
        tickler = cabinet.places.special(user, SpecialUse.TICKLER);
    }

    private ActOutcome act(long message, UnaryOperator<State> change) {
        return cabinet.filing.act(user, Cause.HAND, "Act", List.of(message), change);
    }

    private long untilInDays(int days) {
        long message = cabinet.arrives(
                account,
                TestMail.from("Halden <office@halden.example>", "Dates").read());
        LocalDate day = cabinet.zones.today(user).plusDays(days);
        act(message, state -> state.in(tickler).until(DayTime.on(day)));
        return message;
    }

    private ListRow row(long message) {
        return cabinet.messages.row(user, message).orElseThrow();
    }

    @Test
    void itComesBackUnreadOnItsDayAndOnlyOnce() {
        long due = untilInDays(0);
        long late = untilInDays(-3);
        long later = untilInDays(1);
        assertThat(cabinet.lies(user, due)).isEqualTo("Tickler");
        assertThat(cabinet.waiting(account)).contains("MOVE %d Tickler".formatted(due));
        assertThat(cabinet.tickler.users()).contains(user);
        assertThat(cabinet.tickler.bringBack(user).changed()).containsExactlyInAnyOrder(due, late);
        assertThat(cabinet.lies(user, due)).isEqualTo("Inbox");
        assertThat(row(due).unread()).isTrue();
        assertThat(row(due).until()).isEqualTo(DayTime.on(cabinet.zones.today(user)));
        assertThat(cabinet.lies(user, later)).isEqualTo("Tickler");
        assertThat(cabinet.tickler.back(user, null)).isEqualTo(2);
        assertThat(cabinet.tickler.back(user, account.id() + 1)).isZero();
        assertThat(cabinet.tickler.bringBack(user).changed()).isEmpty();
        act(due, state -> state.in(cabinet.folder(user, "Loans").id()));
        assertThat(cabinet.tickler.back(user, null)).as("filed: done with").isEqualTo(1);
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    @Test
    void undoBringsItBackAtOnceAndNotOnceMore() {
        long message = cabinet.arrives(account, TestMail.from("Halden <office@halden.example>", "Dates"));
        LocalDate today = cabinet.zones.today(user);
        long batch = act(message, state -> state.in(tickler).until(DayTime.on(today)))
                .batch();
        cabinet.undo.act(user, batch);
        assertThat(cabinet.lies(user, message)).isEqualTo("Inbox");
        assertThat(row(message).until()).isNull();
        assertThat(cabinet.tickler.bringBack(user).changed()).isEmpty();
        assertThat(cabinet.undo.latest(user).changed())
                .as("nothing is left to take back")
                .isEmpty();
    }

    @Test
    void theListShowsWhatLiesThereAndWhatCameBack() {
        long back = untilInDays(0);
        cabinet.tickler.bringBack(user);
        long later = untilInDays(9);
        long sooner = untilInDays(2);
        long other = cabinet.arrives(account, TestMail.from("Halden <office@halden.example>", "Other"));
        ListQuery query = new ListQuery(
                new Query.Any(List.of(
                        new Query.InFolder(new FolderRef(tickler, FolderPath.parse("Tickler"))), new Query.Tickled())),
                Query.everything(),
                Arrangement.usualIn("tickler"),
                ListQuery.ListDays.RETURN,
                null,
                10);
        List<Long> listed = cabinet.lists.page(user, ListStore.Ranks.NONE, query).stream()
                .map(line -> line.row().id())
                .toList();
        assertThat(listed).containsExactly(back, sooner, later).doesNotContain(other);
    }

    @Test
    void anothersMailStaysWhereItIs() {
        untilInDays(-1);
        assertThat(cabinet.tickler.bringBack(cabinet.user()).changed()).isEmpty();
    }

    @Test
    void theZoneIsWhatTheBrowserSaysUntilOneIsChosen() {
        cabinet.zones.suppose(user, ZoneId.of("Pacific/Kiritimati"));
        assertThat(cabinet.zones.of(user)).isEqualTo(ZoneId.of("Pacific/Kiritimati"));
        cabinet.zones.suppose(user, ZoneId.of("Europe/Lisbon"));
        assertThat(cabinet.zones.of(user)).as("the first one counts").isEqualTo(ZoneId.of("Pacific/Kiritimati"));
        LocalDate early = cabinet.zones.today(user);
        cabinet.zones.choose(user, ZoneId.of("Pacific/Pago_Pago"));
        assertThat(early).as("25 hours apart").isAfter(cabinet.zones.today(user));
        assertThat(Zones.parse("Nowhere/At_All")).isEmpty();
        assertThat(Zones.parse(null)).isEmpty();
        assertThat(Zones.names()).contains("Europe/Lisbon", "UTC").doesNotContain("EST", "Etc/GMT+1");
    }

    @Test
    void daysOfAListAreThoseOfTheUser() {
        Instant night = Instant.parse("2026-11-22T23:30:00Z");
        TestMail letter =
                TestMail.from("Halden <office@halden.example>", "Night").at(night);
        cabinet.arrives(account, letter);
        cabinet.arrives(account, letter.at(Cabinet.MORNING));
        assertThat(groups("UTC")).hasSize(2);
        assertThat(groups("Asia/Tokyo")).hasSize(1);
    }

    private Set<String> groups(String zone) {
        cabinet.zones.choose(user, ZoneId.of(zone));
        var byDay = new Arrangement(Arrangement.Grouping.DAY, Arrangement.SortOrder.LARGEST, false);
        long inbox = cabinet.places.special(user, SpecialUse.INBOX);
        ListQuery query = new ListQuery(
                new Query.InFolder(new FolderRef(inbox, FolderPath.parse("A folder"))),
                Query.everything(),
                byDay,
                ListQuery.ListDays.DUE,
                null,
                10);
        return cabinet.lists.page(user, ListStore.Ranks.NONE, query).stream()
                .map(line -> line.keys().get(0))
                .collect(Collectors.toSet());
    }

    private long writes(String address, Instant at) {
        return cabinet.arrives(account, TestMail.from(address, "Once more").at(at));
    }

    private long waiting(String address) {
        long message = cabinet.arrives(account, TestMail.from(address, "Dates"));
        LocalDate last = cabinet.zones.today(user).plusDays(30);
        act(message, state -> state.in(tickler).until(DayTime.on(last)));
        cabinet.tickler.waitForSenders(user, List.of(message), true);
        return message;
    }

    @Test
    void itComesBackWhenItsSenderWritesAndNobodyElse() {
        long message = waiting("Anna <anna@wharf.example>");
        writes("ben@wharf.example", Instant.now());
        writes("anna@wharf.example", Instant.now().minus(Duration.ofDays(3)));
        cabinet.arrives(
                account,
                cabinet.mailbox(account, "Junk"),
                TestMail.from("anna@wharf.example", "Not hers").at(Instant.now()));
        assertThat(cabinet.tickler.written()).as("others, old mail, junk").isEmpty();
        writes("Anna <ANNA@wharf.example>", Instant.now());
        assertThat(cabinet.tickler.written()).containsExactly(user);
        assertThat(cabinet.tickler.bringBackWritten(user).changed()).containsExactly(message);
        assertThat(cabinet.lies(user, message)).isEqualTo("Inbox");
        assertThat(row(message).unread()).isTrue();
        assertThat(row(message).until())
                .as("marked as come back today")
                .isEqualTo(DayTime.on(cabinet.zones.today(user)));
        assertThat(cabinet.tickler.written()).as("once").isEmpty();
        assertThat(cabinet.wrongCounts()).isEmpty();
    }

    @Test
    void whatWasTakenBackFiledOrPutOffOtherwiseWaitsForNobody() {
        long undone = cabinet.arrives(account, TestMail.from("anna@wharf.example", "Undone"));
        LocalDate last = cabinet.zones.today(user).plusDays(30);
        long batch =
                act(undone, state -> state.in(tickler).until(DayTime.on(last))).batch();
        cabinet.tickler.waitForSenders(user, List.of(undone), true);
        cabinet.undo.act(user, batch);
        long filed = waiting("anna@wharf.example");
        act(filed, state -> state.in(cabinet.folder(user, "Loans").id()));
        long otherwise = waiting("anna@wharf.example");
        act(otherwise, state -> state.until(DayTime.on(last.plusDays(1))));
        long again = waiting("anna@wharf.example");
        cabinet.tickler.waitForSenders(user, List.of(again), false);
        long others = cabinet.user();
        cabinet.tickler.waitForSenders(others, List.of(again), true);
        writes("anna@wharf.example", Instant.now());
        assertThat(cabinet.tickler.written()).isEmpty();
        assertThat(cabinet.tickler.bringBackWritten(user).changed()).isEmpty();
    }
}
