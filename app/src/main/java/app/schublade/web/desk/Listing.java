package app.schublade.web.desk;

import app.schublade.core.place.Arrangement;
import app.schublade.store.Account;
import app.schublade.store.ListQuery;
import app.schublade.store.ListStore;
import app.schublade.web.frame.Frame;
import org.jspecify.annotations.Nullable;

/** A list that the desk shows: where it is, what stands around it, and how it is arranged. */
public record Listing(DeskAddress address, Frame.View view, Spot spot, Arrangement arrangement) {

    ListStore.Ranks ranks() {
        return ListStore.Ranks.of(
                view.places(), view.chips().stream().map(Frame.Chip::account).toList());
    }

    ListQuery query(ListQuery.@Nullable Cursor after, int limit) {
        Account account = view.account();
        return new ListQuery(
                spot.place(), account == null ? null : account.id(), address.filters(), arrangement, after, limit);
    }
}
