package app.schublade.web.desk;

import app.schublade.core.place.SpecialUse;
import app.schublade.core.query.Query;
import app.schublade.core.query.SearchReader;
import app.schublade.core.query.SearchWorld;
import app.schublade.store.find.SavedSearchStore;
import app.schublade.store.find.SavedSearchStore.SavedSearch;
import app.schublade.store.find.SearchWorlds;
import app.schublade.store.message.ListStore;
import app.schublade.store.noise.QuietStore;
import app.schublade.store.user.ArrangementStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import java.util.EnumSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.server.ResponseStatusException;

/** Finds the list of an address. */
@Component
class MessageLists {
    private static final Set<SpecialUse> STAYING =
            EnumSet.of(SpecialUse.SENT, SpecialUse.DRAFTS, SpecialUse.JUNK, SpecialUse.TRASH);

    private final Frame frame;
    private final ArrangementStore arrangements;
    private final ListStore lists;
    private final SearchWorlds searches;
    private final SavedSearchStore saved;
    private final QuietStore quiet;
    private final Dates dates;

    MessageLists(
            Frame frame,
            ArrangementStore arrangements,
            ListStore lists,
            SearchWorlds searches,
            SavedSearchStore saved,
            QuietStore quiet,
            Dates dates) {
        this.quiet = quiet;
        this.dates = dates;
        this.saved = saved;
        this.searches = searches;
        this.frame = frame;
        this.arrangements = arrangements;
        this.lists = lists;
    }

    /** @throws ResponseStatusException if there is no such place */
    MessageList at(CurrentUser person, DeskUrl address) {
        Frame.FrameData known = frame.known(person, address.account());
        MessageList.Found found = found(person, address, known);
        PlaceView spot = PlaceView.at(address, known.places(), found)
                .orElseThrow(() -> new ResponseStatusException(
                        HttpStatus.NOT_FOUND, "There is no such place; it may have been removed."));
        Long inbox = known.places().special(SpecialUse.INBOX).id();
        String nextLook = inbox.equals(spot.folder())
                ? quiet.nextLook(person.id()).map(dates::look).orElse(null)
                : null;
        return new MessageList(
                address,
                known,
                spot,
                arrangements.of(person.id(), address.place()),
                arrangements.ownFilter(person.id(), address.place()),
                found,
                nextLook);
    }

    private MessageList.@Nullable Found found(CurrentUser person, DeskUrl address, Frame.FrameData known) {
        SavedSearch kept = saved.of(person.id(), address.saved()).orElse(null);
        String words = address.words();
        if (words == null && kept == null) {
            return null;
        }
        SearchWorld world = searches.of(person.id(), known.places(), known.accounts());
        if (words != null) {
            return new MessageList.Found(SearchReader.read(words, world), kept);
        }
        String now = SearchWorlds.read(Objects.requireNonNull(kept), world).withNamesOfNow();
        return new MessageList.Found(SearchReader.read(now, world.asOf(kept.places())), kept);
    }

    /** What stands around the list. */
    Frame.View around(CurrentUser person, MessageList listing) {
        DeskUrl address = listing.address();
        String here = address.path().equals("/mail/find") ? address.everywhere() : address.path();
        return frame.around(person, here, listing.known());
    }

    /** All messages of a list, however many. */
    List<Long> all(CurrentUser person, String address) {
        return lists.all(person.id(), whole(person, address));
    }

    /**
     * Those of a list that are meant by filing all of it: what the user has sent or thrown away stays where it is, unless it is
     * in its own folder that the user stands.
     */
    List<Long> toFile(CurrentUser person, String address, List<Long> all) {
        return at(person, DeskUrl.parse(address)).spot().folder() == null
                ? lists.outside(person.id(), all, STAYING)
                : all;
    }

    /** These messages and those of their conversations that are in the list. */
    List<Long> withConversations(CurrentUser person, String address, List<Long> messages) {
        return lists.withConversations(person.id(), whole(person, address), messages);
    }

    private Query whole(CurrentUser person, String address) {
        return at(person, DeskUrl.parse(address)).query(null, Integer.MAX_VALUE).messages();
    }
}
