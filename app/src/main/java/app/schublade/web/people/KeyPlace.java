package app.schublade.web.people;

import app.schublade.store.find.SavedSearchStore;
import app.schublade.store.find.SearchWorlds;
import app.schublade.web.frame.CurrentUser;
import org.springframework.stereotype.Component;

/** The place in the cabinet for the mail of key people: a saved search, which comes with the first of them. */
@Component
class KeyPlace {
    private static final String NAME = "Key people";
    private static final String WORDS = "from key people";

    private final SavedSearchStore searches;
    private final SearchWorlds worlds;

    KeyPlace(SavedSearchStore searches, SearchWorlds worlds) {
        this.searches = searches;
        this.worlds = worlds;
    }

    /** Whether there is none yet, and room for it. */
    boolean isWanted(CurrentUser person) {
        return !searches.isFull(person.id())
                && searches.of(person.id()).stream()
                        .noneMatch(
                                one -> one.words().equals(WORDS) || one.name().equalsIgnoreCase(NAME));
    }

    void make(CurrentUser person) {
        searches.add(person.id(), NAME, worlds.read(person.id(), WORDS));
    }
}
