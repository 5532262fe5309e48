package app.schublade.web.rules;

import app.schublade.core.query.Query;
import app.schublade.store.find.SearchWorlds;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import org.springframework.stereotype.Component;

/** Knows what a choice of mail means for a user. */
@Component
class ChosenMails {
    private final PlaceStore places;
    private final SearchWorlds searches;

    ChosenMails(PlaceStore places, SearchWorlds searches) {
        this.places = places;
        this.searches = searches;
    }

    /** The places that a user chooses from. */
    Places places(long userId) {
        return places.of(userId, null);
    }

    Query query(long userId, ChosenMail chosen) {
        return chosen.query(places(userId), words -> searches.read(userId, words));
    }
}
