package app.schublade.web.rules;

import app.schublade.core.place.SpecialUse;
import app.schublade.core.query.Query;
import app.schublade.core.query.Search;
import app.schublade.store.place.Places;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Stream;

/**
 * The mail that a run goes over.
 *
 * @param what {@link #RECEIVED}, {@link #EVERYTHING}, {@link #FOUND}, or the id of a folder
 * @param words what is searched for, as in the find box
 */
public record ChosenMail(String what, String words) {
    /** All that came from others. */
    static final String RECEIVED = "received";

    /** What the user wrote, too. */
    static final String EVERYTHING = "everything";

    /** What has certain words. */
    static final String FOUND = "found";

    static final ChosenMail ALL_RECEIVED = new ChosenMail(RECEIVED, "");

    /**
     * A folder that is gone has no mail.
     *
     * @param search what words mean in the find box
     */
    Query query(Places places, Function<String, Search> search) {
        if (what.equals(EVERYTHING)) {
            return Query.everything();
        }
        if (what.matches("\\d{1,18}")) {
            return places.folder(Long.parseLong(what))
                    .<Query>map(folder -> new Query.InFolder(folder.ref()))
                    .orElse(new Query.Any(List.of()));
        }
        Query received = received(places);
        return isSearch() && !words.isBlank() ? received.and(search.apply(words).query()) : received;
    }

    /** What came from others. */
    static Query received(Places places) {
        return new Query.Without(new Query.Any(Stream.of(SpecialUse.SENT, SpecialUse.DRAFTS)
                .<Query>map(use -> new Query.InFolder(places.special(use).ref()))
                .toList()));
    }

    public boolean isSearch() {
        return what.equals(FOUND);
    }
}
