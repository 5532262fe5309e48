package app.schublade.store.message;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.InAccount;
import app.schublade.core.filing.Marked;
import app.schublade.core.filing.State;
import app.schublade.core.message.People;
import app.schublade.core.place.Arrangement;
import app.schublade.core.place.Arrangement.Grouping;
import app.schublade.core.place.Arrangement.SortOrder;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.query.Filter;
import app.schublade.core.query.Query;
import app.schublade.core.query.Words;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FlagStore;
import app.schublade.store.place.Places;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

@ExtendWith(Cabinet.Extension.class)
class ListStoreTest {
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
            TestMail letter = TestMail.from(
                            "a%02d@b.example".formatted(i), (i % 5 == 0 ? "Re: Number " : "Number ") + i + written(i))
                    .at(Cabinet.MORNING.plus(Duration.ofMinutes(i - i % 7 / 6)));
            ALL.add(cabinet.arrives(i % 3 == 0 ? club : museum, i % 2 == 0 ? letter.read() : letter));
        }
        List<Places.Category> categories = cabinet.places.categories(user);
        FlagStore own = cabinet.bean(FlagStore.class);
        own.add(user, "To call");
        own.add(user, "To pay");
        List<Places.OwnFlag> flags = cabinet.places.of(user, null).flags();
        for (int i = 0; i < 40; i++) {
            int number = i;
            LocalDate day = LocalDate.of(2026, 11, 20).plusDays(i % 9);
            LocalTime time = i % 3 == 0 ? null : i % 7 == 0 ? LocalTime.MIDNIGHT : LocalTime.of(23 - i % 20, i);
            DayTime at = i % 4 == 0 ? null : new DayTime(day, time);
            long category = categories.get(i % categories.size()).id();
            cabinet.filing.act(user, Cause.GLANCE, "x", List.of(ALL.get(i)), state -> {
                State ranked = state.categorised(category);
                State due = at == null ? ranked : ranked.due(at);
                return at == null || number % 3 == 0
                        ? due
                        : due.flaggedAs(flags.get(number % 2).id());
            });
        }
    }

    /** Some say nothing, some a day long ago, some one that has not come. */
    private static String written(int number) {
        return number % 4 == 0
                ? ""
                : "\nDate: %d Mar %d 10:00:00 +0000"
                        .formatted(1 + number % 28, number % 7 == 0 ? 2040 : 2020 + number % 5);
    }

    private static ListQuery inbox(
            @Nullable Account account,
            Set<Filter> filters,
            Arrangement arrangement,
            ListQuery.@Nullable Cursor after,
            int limit) {
        Query narrowing = Query.everything();
        for (Filter filter : filters) {
            narrowing = narrowing.and(filter.query());
        }
        if (account != null) {
            narrowing = narrowing.and(new Query.Meets(new InAccount(List.of(account.ref()))));
        }
        return new ListQuery(inboxOf(user), narrowing, arrangement, ListQuery.ListDays.DUE, after, limit);
    }

    private static Query inboxOf(long someone) {
        return new Query.InFolder(new FolderRef(cabinet.places.inbox(someone), FolderPath.parse("Inbox")));
    }

    private static List<ListStore.ListLine> page(ListQuery query) {
        return cabinet.lists.page(
                user, ListStore.Ranks.of(cabinet.places.of(user, null), cabinet.accounts.of(user)), query);
    }

    /** All of the Inbox, page by page; each page begins where the address of the one before says. */
    private static List<Long> pageByPage(Arrangement arrangement, int size) {
        List<Long> seen = new ArrayList<>();
        ListQuery.Cursor after = null;
        List<ListStore.ListLine> page;
        do {
            page = page(inbox(null, Set.of(), arrangement, after, size));
            page.forEach(line -> seen.add(line.row().id()));
            after = page.isEmpty()
                    ? null
                    : ListQuery.Cursor.parse(page.get(page.size() - 1).cursor().toString());
        } while (page.size() == size);
        return seen;
    }

    /** However long the list is, and whichever way it is read for that. */
    @ParameterizedTest
    @EnumSource(names = {"ACCOUNT", "CATEGORY", "TRAY", "FLAG", "LABEL"})
    void whatIsReadGroupByGroupIsTheSameAsTheWhole(Arrangement.Grouping grouping) {
        ListStore plain = new ListStore(cabinet.jdbc, cabinet.zones);
        ListStore.Ranks ranks = ListStore.Ranks.of(cabinet.places.of(user, null), cabinet.accounts.of(user));
        for (Arrangement.SortOrder order : List.of(Arrangement.SortOrder.NEWEST, Arrangement.SortOrder.OLDEST)) {
            Arrangement arrangement = new Arrangement(grouping, order, false);
            List<Long> seen = new ArrayList<>();
            for (ListQuery.Cursor after = null; seen.size() < ALL.size(); ) {
                ListQuery query = inbox(null, Set.of(), arrangement, after, 7);
                List<ListGroups.ListGroup> groups = ListGroups.of(query, ranks);
                assertThat(groups).hasSizeGreaterThan(1);
                List<ListStore.ListLine> page = plain.page(user, ranks, query, groups);
                assertThat(page).isNotEmpty().isEqualTo(plain.page(user, ranks, query, List.of()));
                page.forEach(line -> seen.add(line.row().id()));
                after = page.get(page.size() - 1).cursor();
            }
            assertThat(seen).containsExactlyInAnyOrderElementsOf(ALL);
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 7, 25, 100})
    void pagesFollowEachOtherWithoutGapOrDouble(int size) {
        List<Long> seen = pageByPage(Arrangement.USUAL, size);
        assertThat(seen).hasSize(60).doesNotHaveDuplicates().containsExactlyInAnyOrderElementsOf(ALL);
        List<ListRow> whole = rows(Arrangement.USUAL);
        assertThat(seen).isEqualTo(whole.stream().map(ListRow::id).toList());
        assertThat(whole)
                .isSortedAccordingTo(Comparator.comparing(ListRow::received)
                        .thenComparing(ListRow::id)
                        .reversed());
    }

    private static List<ListRow> rows(Arrangement arrangement) {
        return page(inbox(null, Set.of(), arrangement, null, 100)).stream()
                .map(ListStore.ListLine::row)
                .toList();
    }

    static Stream<Arguments> arrangements() {
        return Arrays.stream(Grouping.values())
                .flatMap(grouping -> Arrays.stream(SortOrder.values()).map(order -> Arguments.of(grouping, order)));
    }

    @ParameterizedTest
    @MethodSource("arrangements")
    void everyArrangementIsPagedWithoutGapOrDouble(Grouping grouping, SortOrder order) {
        for (boolean conversations : new boolean[] {false, true}) {
            Arrangement arrangement = new Arrangement(grouping, order, conversations);
            assertThat(pageByPage(arrangement, 7))
                    .hasSize(60)
                    .doesNotHaveDuplicates()
                    .isEqualTo(rows(arrangement).stream().map(ListRow::id).toList());
        }
    }

    @ParameterizedTest
    @MethodSource("arrangements")
    void aPartIsFoundByTheNumberOfItsFirstRow(Grouping grouping, SortOrder order) {
        for (boolean conversations : new boolean[] {false, true}) {
            Arrangement arrangement = new Arrangement(grouping, order, conversations);
            List<ListRow> whole = rows(arrangement);
            for (int first : new int[] {0, 1, 7, 53, 59, 60, 1000}) {
                assertThat(page(inbox(null, Set.of(), arrangement, null, 7).from(first)))
                        .extracting(ListStore.ListLine::row)
                        .isEqualTo(whole.subList(Math.min(first, whole.size()), Math.min(first + 7, whole.size())));
            }
        }
    }

    /** The orders, told once more in Java. */
    private static Comparator<ListRow> expected(SortOrder order) {
        Comparator<ListRow> comparator = switch (order.key()) {
            case DATE -> Comparator.comparing(ListRow::received);
            case WRITTEN -> Comparator.comparing(ListRow::written);
            case SENDER -> Comparator.comparing(row -> row.sender().shown().toLowerCase(Locale.ROOT));
            case SUBJECT ->
                Comparator.comparing(
                        row -> row.subject().toLowerCase(Locale.ROOT).replaceFirst("^re: ", ""));
            case SIZE -> Comparator.comparing(ListRow::size);
            case RANK ->
                Comparator.comparing(
                        row -> Objects.requireNonNullElse(row.state().category(), Long.MAX_VALUE));
            case DUE -> Comparator.comparing(row -> row.due() == null ? DayTime.on(LocalDate.MAX) : row.due());
        };
        return order.ascending() ? comparator : comparator.reversed();
    }

    @ParameterizedTest
    @EnumSource(SortOrder.class)
    void everyOrderIsAsItSays(SortOrder order) {
        assertThat(rows(new Arrangement(Grouping.NONE, order, false))).isSortedAccordingTo(expected(order));
        List<ListRow> grouped = rows(new Arrangement(Grouping.CATEGORY, order, false));
        assertThat(grouped).isSortedAccordingTo(expected(SortOrder.URGENT).thenComparing(expected(order)));
    }

    @Test
    void whoMattersStandsAboveAllElse() {
        cabinet.people.markKey(user, "a07@b.example", true);
        People people = cabinet.people.of(user);
        Comparator<ListRow> matters =
                Comparator.comparing(row -> people.isKey(row.sender()) ? 0 : row.flagged() ? 1 : 2);
        List<ListRow> rows = rows(new Arrangement(Grouping.MATTERS, SortOrder.NEWEST, false));
        assertThat(rows).isSortedAccordingTo(matters.thenComparing(expected(SortOrder.NEWEST)));
        assertThat(people.isKey(rows.get(0).sender())).isTrue();
        assertThat(rows).anyMatch(ListRow::flagged);
        cabinet.people.markKey(user, "a07@b.example", false);
    }

    @Test
    void ownFlagsStandInTheirOrderThenThePlainOnesThenTheRest() {
        List<Long> flags = cabinet.places.of(user, null).flags().stream()
                .map(Places.OwnFlag::id)
                .toList();
        List<Integer> places = rows(new Arrangement(Grouping.FLAG, SortOrder.NEWEST, false)).stream()
                .map(row -> row.state().flag() != null
                        ? flags.indexOf(row.state().flag())
                        : row.flagged() ? flags.size() : flags.size() + 1)
                .toList();
        assertThat(places).isSorted().contains(0, 1, 2, 3);
    }

    @Test
    void whatSaysThatItIsYetToBeWrittenLeadsNoList() {
        List<ListRow> rows = rows(new Arrangement(Grouping.DAY, SortOrder.LATEST_WRITTEN, false));
        assertThat(rows)
                .allSatisfy(row -> assertThat(row.written()).isBeforeOrEqualTo(row.received()))
                .anySatisfy(row -> assertThat(row.written()).isBefore("2021-01-01T00:00:00Z"));
        assertThat(rows.get(0).written()).isEqualTo(rows.get(0).received());
    }

    @Test
    void aCursorOfAnotherArrangementBeginsAnew() {
        ListQuery.Cursor dated =
                page(inbox(null, Set.of(), Arrangement.USUAL, null, 5)).get(4).cursor();
        Arrangement bySize = new Arrangement(Grouping.NONE, SortOrder.LARGEST, false);
        assertThat(page(inbox(null, Set.of(), bySize, dated, 100))).hasSize(60);
        ListQuery.Cursor odd = new ListQuery.Cursor(List.of("no number"), Cabinet.MORNING, 1);
        assertThat(page(inbox(null, Set.of(), bySize, odd, 100))).hasSize(60);
    }

    @Test
    void aConversationIsOneRowWithAllThatBelongToIt() {
        long someone = cabinet.user();
        Account account = cabinet.account(someone, "MU");
        TestMail first = TestMail.from("o@grebe.example", "Crates").named("q1").read();
        long question = cabinet.arrives(account, first);
        long other =
                cabinet.arrives(account, TestMail.from("x@y.example", "Else").at(Cabinet.MORNING.plusSeconds(60)));
        long answer = cabinet.arrives(
                account,
                TestMail.from("o@grebe.example", "Re: Crates")
                        .named("q2", "q1")
                        .at(Cabinet.MORNING.plusSeconds(120))
                        .read());
        long elsewhere = cabinet.arrives(
                account,
                cabinet.mailbox(account, "Sent"),
                TestMail.from("me@quay.example", "Re: Crates").named("q3", "q2").at(Cabinet.MORNING.plusSeconds(180)));
        assertThat(cabinet.conversations.join(account.id(), 3)).isZero();
        Arrangement conversations = new Arrangement(Grouping.DAY, SortOrder.NEWEST, true);
        ListQuery query =
                new ListQuery(inboxOf(someone), Query.everything(), conversations, ListQuery.ListDays.DUE, null, 10);
        List<ListStore.ListLine> lines = cabinet.lists.page(someone, ListStore.Ranks.NONE, query);
        assertThat(lines).extracting(line -> line.row().id()).containsExactly(answer, other);
        assertThat(lines).extracting(ListStore.ListLine::messages).containsExactly(3, 1);
        assertThat(lines).extracting(ListStore.ListLine::unread).containsExactly(false, true);
        assertThat(cabinet.lists.conversationOf(someone, answer, 10))
                .extracting(line -> line.row().id())
                .containsExactly(elsewhere, answer, question);
        assertThat(cabinet.lists.withConversations(someone, query.messages(), List.of(answer)))
                .containsExactlyInAnyOrder(answer, question);
        cabinet.filing.act(someone, Cause.HAND, "x", List.of(question), state -> state.unread(true));
        assertThat(cabinet.lists
                        .page(someone, ListStore.Ranks.NONE, query)
                        .get(0)
                        .unread())
                .isTrue();
    }

    @Test
    void filtersCombineAndAreCounted() {
        ListQuery unread = inbox(null, Set.of(Filter.UNREAD), Arrangement.USUAL, null, 100);
        assertThat(cabinet.lists.figures(user, unread).size()).isEqualTo(30);
        cabinet.people.markKey(user, "a01@b.example", true);
        Map<Filter, Integer> counts = cabinet.lists.figures(user, unread).narrowed();
        assertThat(counts).containsEntry(Filter.UNREAD, 30).containsEntry(Filter.KEY_PEOPLE, 1);
        ListQuery both = inbox(null, Set.of(Filter.UNREAD, Filter.KEY_PEOPLE), Arrangement.USUAL, null, 100);
        assertThat(page(both))
                .singleElement()
                .satisfies(line -> assertThat(line.row().id()).isEqualTo(ALL.get(1)));
        assertThat(cabinet.lists.all(user, both.messages())).containsExactly(ALL.get(1));
        for (Filter filter : Filter.values()) {
            ListQuery one = inbox(null, Set.of(filter), Arrangement.USUAL, null, 100);
            assertThat(page(one)).hasSize(cabinet.lists.figures(user, one).size());
        }
    }

    @Test
    void narrowsToAnAccountAndToTheUnread() {
        List<ListStore.ListLine> some = page(inbox(club, Set.of(Filter.UNREAD), Arrangement.USUAL, null, 100));
        assertThat(some)
                .hasSize(10)
                .allMatch(line -> line.unread() && line.row().accountId() == club.id());
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
        LabelRef contract = new LabelRef(label, FolderPath.parse("Contract"));
        assertThat(ids(new Query.Meets(new Marked(List.of(contract), List.of(), false))))
                .containsExactlyInAnyOrderElementsOf(three);
        assertThat(ids(Filter.FLAGGED.query())).containsAll(three).hasSize(31);
        assertThat(cabinet.messages.row(user, ALL.get(3)).orElseThrow().labels())
                .containsExactly(label);
        assertThat(cabinet.places.of(user, null).label(label).orElseThrow().unread())
                .isEqualTo(2);
    }

    private static List<Long> ids(Query place) {
        return page(ListQuery.newest(place, 50)).stream()
                .map(line -> line.row().id())
                .toList();
    }

    @Test
    void nobodySeesTheMailOfOthers() {
        long stranger = cabinet.user();
        long id = ALL.get(0);
        assertThat(cabinet.messages.row(stranger, id)).isEmpty();
        assertThat(cabinet.messages.source(stranger, id)).isEmpty();
        assertThat(cabinet.subjects.subject(stranger, id)).isEmpty();
        assertThat(cabinet.messages.filed(stranger, id)).isEmpty();
        for (Query place : List.of(
                inboxOf(user),
                Filter.FLAGGED.query(),
                new Words(Words.WordField.ANYWHERE, "number", false),
                Query.everything())) {
            assertThat(cabinet.lists.page(stranger, ListStore.Ranks.NONE, ListQuery.newest(place, 50)))
                    .isEmpty();
            assertThat(cabinet.lists.all(stranger, place)).isEmpty();
        }
        List<RuleInputStore.RuleCandidate> seen = new ArrayList<>();
        cabinet.subjects.forEach(stranger, Query.everything(), Set.of(), seen::add);
        assertThat(seen).isEmpty();
    }

    @Test
    void visitsEveryMessageOnce() {
        List<Long> seen = new ArrayList<>();
        cabinet.subjects.forEach(
                user,
                Query.everything(),
                Set.of(),
                subject -> seen.add(subject.row().id()));
        assertThat(seen).containsExactlyInAnyOrderElementsOf(ALL);
    }

    @ParameterizedTest
    @CsvSource({
        "'', ",
        "rubbish, ",
        "1.2, ",
        "99999999999999999999.0.1, ",
        "'1.0.1; drop table message', ",
        "1763884800.5.42, 1763884800.5.42",
        "1763884800.5.42.*, ",
        "1763884800.5.42.YQ, 1763884800.5.42.YQ"
    })
    void aPlaceInAListIsReadFromTheAddressOrNotAtAll(String text, @Nullable String read) {
        ListQuery.Cursor cursor = ListQuery.Cursor.parse(text);
        assertThat(cursor == null ? null : cursor.toString()).isEqualTo(read);
    }
}
