package app.schublade.web.desk;

import app.schublade.core.query.Search;
import app.schublade.store.find.IndexStore;
import app.schublade.store.find.SavedSearchStore;
import app.schublade.store.find.VocabularyStore;
import app.schublade.store.message.FacetStore;
import app.schublade.store.message.ListQuery;
import app.schublade.store.user.PeopleStore;
import app.schublade.web.frame.CurrentUser;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;

/** What the page of a search has besides its list. */
@Component
class SearchPages {
    private static final int MOST_PEOPLE = 4;
    /** More in junk and trash are not counted. */
    private static final int MOST_LEFT_OUT = 1000;

    private static final int MOST_ALONE = 8;

    private final FacetStore facets;
    private final SavedSearchStore saved;
    private final PeopleStore people;
    private final IndexStore index;
    private final VocabularyStore vocabulary;

    SearchPages(
            FacetStore facets,
            SavedSearchStore saved,
            PeopleStore people,
            IndexStore index,
            VocabularyStore vocabulary) {
        this.vocabulary = vocabulary;
        this.facets = facets;
        this.saved = saved;
        this.people = people;
        this.index = index;
    }

    /** What was understood; noted as searched for. */
    void addSearch(CurrentUser person, MessageList listing, Model model) {
        MessageList.Found found = listing.found();
        if (found == null) {
            return;
        }
        Search search = found.search();
        if (found.kept() == null && !search.isEmpty()) {
            saved.searched(person.id(), search.typed());
        }
        model.addAttribute(
                "searched",
                SearchView.of(
                        search,
                        found.kept(),
                        found.kept() != null && listing.address().words() != null,
                        name -> people.like(person.id(), name, MOST_PEOPLE)));
    }

    /**
     * How much was found.
     *
     * @param leftOut how much more is in junk and trash, in words; empty if nothing is
     * @param everywhere the text that finds that too
     * @param toIndex how many messages cannot be found by their words yet
     */
    public record Total(String messages, String leftOut, String everywhere, int toIndex) {}

    /**
     * Of a search without a match: how much there is for one of its terms alone.
     *
     * @param words the text that finds that
     */
    public record Alone(String said, String words, int messages) {
        public String figure() {
            return messages == MOST_LEFT_OUT ? "%,d or more".formatted(messages) : "%,d".formatted(messages);
        }
    }

    private List<Alone> alone(CurrentUser person, Search search) {
        List<Search.SearchTerm> terms = search.terms();
        return terms.size() < 2
                ? List.of()
                : terms.stream()
                        .filter(Search.SearchTerm::wanted)
                        .limit(MOST_ALONE)
                        .map(term -> new Alone(
                                term.isUnderstood() ? term.said() : "“" + term.value() + "”",
                                search.typed().substring(term.start(), term.end()),
                                facets.count(person.id(), search.only(term), MOST_LEFT_OUT)))
                        .toList();
    }

    void addFacets(CurrentUser person, MessageList listing, Model model) {
        MessageList.Found found = listing.found();
        if (found == null) {
            return;
        }
        ListQuery query = listing.query(null, 1);
        FacetStore.Facets all = facets.of(person.id(), query.messages());
        int leftOut = facets.count(person.id(), found.search().leftOut().and(query.narrowing()), MOST_LEFT_OUT);
        model.addAttribute("alone", all.total() == 0 ? alone(person, found.search()) : List.of());
        model.addAttribute(
                "meant",
                all.total() == 0
                        ? vocabulary.closest(person.id(), found.search()).orElse(null)
                        : null);
        model.addAttribute("facets", FacetView.of(all, found.search(), listing.known()));
        model.addAttribute(
                "total",
                new Total(
                        all.isAll()
                                ? all.total() == 1 ? "1 message" : "%,d messages".formatted(all.total())
                                : "more than %,d messages".formatted(FacetStore.MOST),
                        leftOut == 0
                                ? ""
                                : "%,d%s more in Junk and Trash"
                                        .formatted(leftOut, leftOut == MOST_LEFT_OUT ? " or" : ""),
                        everywhere(found.search()),
                        index.toIndexOf(person.id())));
    }

    /** The same, in the trash or in junk. */
    private static String everywhere(Search search) {
        return search.isEmpty() ? "" : search.narrowed("in Trash") + " or " + search.narrowed("in Junk");
    }
}
