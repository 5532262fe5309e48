package app.schublade.web.desk;

import app.schublade.core.filing.InAccount;
import app.schublade.core.place.Arrangement;
import app.schublade.core.place.Columns;
import app.schublade.core.query.Filter;
import app.schublade.core.query.Query;
import app.schublade.core.query.Search;
import app.schublade.core.query.Words;
import app.schublade.store.account.Account;
import app.schublade.store.find.SavedSearchStore.SavedSearch;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListStore;
import app.schublade.web.frame.Frame;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A list that the desk shows: where it is, what its messages can have, and how it is arranged.
 *
 * @param found what is searched for, or null if it is not what was found
 * @param ownFilter what the user's own filter leaves in this place: messages for which one of these holds
 * @param nextLook when new mail comes into it, {@code at 13:00}; null if it does so as it arrives
 */
public record MessageList(
        DeskUrl address,
        Frame.FrameData known,
        PlaceView spot,
        Arrangement arrangement,
        Set<Filter> ownFilter,
        @Nullable Found found,
        @Nullable String nextLook) {
    /**
     * What is searched for.
     *
     * @param kept the saved search that was opened, or null
     */
    record Found(Search search, @Nullable SavedSearch kept) {}

    /** The words that are looked for, for showing where they stand. */
    List<Words> wanted() {
        return found == null ? List.of() : found.search().wanted();
    }

    ListStore.Ranks ranks() {
        return ListStore.Ranks.of(known.places(), known.accounts());
    }

    /** Whether it is known without counting how many messages there are. */
    public boolean hasFigures() {
        return spot.total() >= 0 && !address.isNarrowed();
    }

    /** How many messages there are, as far as that is known without counting. */
    public String figures() {
        return address.isNarrowed()
                ? figures(PlaceView.UNKNOWN, PlaceView.UNKNOWN)
                : figures(spot.total(), spot.unread());
    }

    /** How many messages there are, all filters heeded. */
    String figures(ListStore.ListFigures counted) {
        return figures(counted.size(), counted.narrowed().getOrDefault(Filter.UNREAD, 0));
    }

    private String figures(int total, int unread) {
        return spot.figures(known, total, unread) + (nextLook == null ? "" : " · new mail " + nextLook);
    }

    /** What a list can be grouped by. */
    public List<Arrangement.Grouping> groupings() {
        return List.of(Arrangement.Grouping.values());
    }

    /** What a list can be sorted by. */
    public List<Arrangement.SortOrder> orders() {
        return List.of(Arrangement.SortOrder.values());
    }

    public List<Columns.Column> columnChoices() {
        return List.of(Columns.Column.values());
    }

    /** Those that it has, or would have if it were in columns. */
    public Columns columnsOrUsual() {
        return arrangement.columns().isEmpty() ? Columns.USUAL : arrangement.columns();
    }

    public List<Filter> filters() {
        return List.of(Filter.values());
    }

    /** As the end of "Nothing here is …". */
    public String narrowing() {
        return address.narrowing().words(known.places(), ownFilter);
    }

    /** What the user's own filter leaves, in words: {@code "unread or flagged"}. */
    public String ownFilterWords() {
        return ListFilter.either(ownFilter);
    }

    /** What the list is narrowed to besides its filters. */
    public List<String> chosen() {
        return address.narrowing().chosen(known.places());
    }

    ListQuery query(ListQuery.@Nullable Cursor after, int limit) {
        Account account = known.account();
        Query place = account == null
                ? spot.place()
                : spot.place().and(new Query.Meets(new InAccount(List.of(account.ref()))));
        return new ListQuery(
                place, address.narrowing().query(known.places(), ownFilter), arrangement, spot.days(), after, limit);
    }
}
