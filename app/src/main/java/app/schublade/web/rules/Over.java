package app.schublade.web.rules;

import app.schublade.core.place.SpecialUse;
import app.schublade.store.message.RuleInputStore.Scope;
import app.schublade.store.place.Places;
import java.util.Set;

/**
 * The mail that a run goes over.
 *
 * @param what {@link #RECEIVED}, {@link #EVERYTHING}, {@link #FOUND}, or the id of a folder
 * @param words what is searched for, as in the find box
 */
public record Over(String what, String words) {
    /** All that came from others. */
    static final String RECEIVED = "received";

    /** What the user wrote, too. */
    static final String EVERYTHING = "everything";

    /** What has certain words. */
    static final String FOUND = "found";

    static final Over ALL_RECEIVED = new Over(RECEIVED, "");

    Scope scope(Places places) {
        if (what.equals(EVERYTHING)) {
            return Scope.EVERYTHING;
        }
        if (what.matches("\\d{1,18}")) {
            return new Scope(Set.of(Long.valueOf(what)), true, "");
        }
        Set<Long> written = Set.of(
                places.special(SpecialUse.SENT).id(),
                places.special(SpecialUse.DRAFTS).id());
        return new Scope(written, false, what.equals(FOUND) ? words.strip() : "");
    }

    public boolean isSearch() {
        return what.equals(FOUND);
    }
}
