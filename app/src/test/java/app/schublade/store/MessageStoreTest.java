package app.schublade.store;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.store.FilingStore.Cause;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.Letter;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

@ExtendWith(Cabinet.Extension.class)
class MessageStoreTest {
    private static Cabinet cabinet;
    private static long user;
    private static Account museum;
    private static Account club;
    /** Oldest first; every seventh arrived at the same moment as the one before. */
    private static final List<Long> ALL = new ArrayList<>();

    @BeforeAll
    static void open(Cabinet shared) {
        cabinet = shared;
        user = cabinet.user();
        museum = cabinet.account(user, "MU");
        club = cabinet.account(user, "RC");
        for (int i = 0; i < 60; i++) {
            Letter letter = Letter.from("a%d@b.example".formatted(i), "Number " + i)
                    .at(Cabinet.MORNING.plus(Duration.ofMinutes(i - i % 7 / 6)));
            ALL.add(cabinet.arrives(i % 3 == 0 ? club : museum, i % 2 == 0 ? letter.read() : letter));
        }
    }

    private static ListQuery inbox(
            @Nullable Account account, boolean unread, ListQuery.@Nullable Cursor after, int limit) {
        return new ListQuery(
                new ListQuery.InFolder(cabinet.places.inbox(user)),
                account == null ? null : account.id(),
                unread,
                false,
                false,
                after,
                limit);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 7, 25, 100})
    void pagesFollowEachOtherWithoutGapOrDouble(int size) {
        List<Long> seen = new ArrayList<>();
        ListQuery.Cursor after = null;
        List<ListRow> page;
        do {
            page = cabinet.messages.page(user, inbox(null, false, after, size));
            page.forEach(row -> seen.add(row.id()));
            after = page.isEmpty()
                    ? null
                    : ListQuery.Cursor.parse(page.get(page.size() - 1).cursor().toString());
        } while (page.size() == size);
        assertThat(seen).hasSize(60).doesNotHaveDuplicates().containsExactlyInAnyOrderElementsOf(ALL);
        List<ListRow> whole = cabinet.messages.page(user, inbox(null, false, null, 100));
        assertThat(seen).isEqualTo(whole.stream().map(ListRow::id).toList());
        assertThat(whole)
                .isSortedAccordingTo(java.util.Comparator.comparing(ListRow::received)
                        .thenComparing(ListRow::id)
                        .reversed());
    }

    @Test
    void narrowsToAnAccountAndToTheUnread() {
        List<ListRow> some = cabinet.messages.page(user, inbox(club, true, null, 100));
        assertThat(some).hasSize(10).allMatch(row -> row.unread() && row.accountId() == club.id());
        assertThat(cabinet.places.unreadInInbox(user))
                .containsEntry(club.id(), 10)
                .containsEntry(museum.id(), 20);
        assertThat(cabinet.places.of(user, club.id()).special(app.schublade.core.place.SpecialUse.INBOX))
                .satisfies(folder ->
                        assertThat(List.of(folder.total(), folder.unread())).containsExactly(20, 10));
    }

    @Test
    void listsByLabelAndFlag() {
        long label = cabinet.places.label(user, FolderPath.parse("Contract")).id();
        List<Long> three = ALL.subList(3, 6);
        cabinet.filing.act(
                user,
                Cause.HAND,
                "x",
                three,
                state -> state.labelled(Set.of(label)).flagged(true));
        assertThat(ids(new ListQuery.WithLabel(label))).containsExactlyInAnyOrderElementsOf(three);
        assertThat(ids(new ListQuery.Flagged())).containsExactlyInAnyOrderElementsOf(three);
        assertThat(cabinet.messages.row(user, ALL.get(3)).orElseThrow().labels())
                .containsExactly(label);
        assertThat(cabinet.places.of(user, null).label(label).orElseThrow().unread())
                .isEqualTo(2);
    }

    private static List<Long> ids(ListQuery.Place place) {
        return cabinet.messages.page(user, new ListQuery(place, null, false, false, false, null, 50)).stream()
                .map(ListRow::id)
                .toList();
    }

    @Test
    void nobodySeesTheMailOfOthers() {
        long stranger = cabinet.user();
        long id = ALL.get(0);
        long folder = cabinet.places.inbox(user);
        assertThat(cabinet.messages.row(stranger, id)).isEmpty();
        assertThat(cabinet.messages.source(stranger, id)).isEmpty();
        assertThat(cabinet.subjects.subject(stranger, id)).isEmpty();
        assertThat(cabinet.messages.filed(stranger, id)).isEmpty();
        for (ListQuery.Place place :
                List.of(new ListQuery.InFolder(folder), new ListQuery.Flagged(), new ListQuery.Found("number"))) {
            assertThat(cabinet.messages.page(stranger, new ListQuery(place, null, false, false, false, null, 50)))
                    .isEmpty();
        }
        List<SubjectStore.Subject> seen = new ArrayList<>();
        cabinet.subjects.forEach(stranger, Set.of(), seen::add);
        assertThat(seen).isEmpty();
    }

    @Test
    void visitsEveryMessageOnce() {
        List<Long> seen = new ArrayList<>();
        cabinet.subjects.forEach(
                user, Set.of(), subject -> seen.add(subject.row().id()));
        assertThat(seen).containsExactlyInAnyOrderElementsOf(ALL);
    }

    @ParameterizedTest
    @CsvSource({
        "'', ",
        "rubbish, ",
        "1.2, ",
        "99999999999999999999.0.1, ",
        "'1.0.1; drop table message', ",
        "1763884800.5.42, 1763884800.5.42"
    })
    void aPlaceInAListIsReadFromTheAddressOrNotAtAll(String text, @Nullable String read) {
        ListQuery.Cursor cursor = ListQuery.Cursor.parse(text);
        assertThat(cursor == null ? null : cursor.toString()).isEqualTo(read);
    }
}
