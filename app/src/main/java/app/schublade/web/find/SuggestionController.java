package app.schublade.web.find;

import app.schublade.core.message.Address;
import app.schublade.core.query.Search;
import app.schublade.core.query.SearchReader;
import app.schublade.core.query.SearchWorld;
import app.schublade.core.words.Fold;
import app.schublade.store.find.SavedSearchStore;
import app.schublade.store.find.SearchWorlds;
import app.schublade.store.find.VocabularyStore;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.ListStore;
import app.schublade.store.user.PeopleStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.util.UriComponentsBuilder;

/** What is offered while somebody types into the find box. */
@Controller
class SuggestionController {
    private static final int MOST_PEOPLE = 3;
    private static final int MOST_SEARCHES = 4;
    private static final int MOST_MESSAGES = 5;
    private static final int FEW_LETTERS = 3;

    private final SearchWorlds worlds;
    private final SavedSearchStore searches;
    private final VocabularyStore vocabulary;
    private final PeopleStore people;
    private final ListStore lists;
    private final Dates dates;

    SuggestionController(
            SearchWorlds worlds,
            SavedSearchStore searches,
            VocabularyStore vocabulary,
            PeopleStore people,
            ListStore lists,
            Dates dates) {
        this.worlds = worlds;
        this.searches = searches;
        this.vocabulary = vocabulary;
        this.people = people;
        this.lists = lists;
        this.dates = dates;
    }

    /**
     * Something that is offered.
     *
     * @param kind what it is, in a word
     */
    public record Suggestion(String text, String kind, String address) {
        static Suggestion search(String text, String kind, String words) {
            return new Suggestion(
                    text,
                    kind,
                    UriComponentsBuilder.fromPath("/mail/find")
                            .queryParam("words", "{words}")
                            .encode()
                            .buildAndExpand(words)
                            .toUriString());
        }
    }

    /** @param place where the user stands, as it is named in a search; empty if it cannot be */
    @GetMapping("/find/suggest")
    String suggest(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(defaultValue = "") String letters,
            @RequestParam(defaultValue = "") String place,
            Model model) {
        String typed = letters.strip();
        typed = typed.substring(0, Math.min(typed.length(), SearchReader.MAX_LENGTH));
        List<Suggestion> all = new ArrayList<>();
        if (typed.isEmpty()) {
            searches.recent(person.id(), MOST_SEARCHES)
                    .forEach(one -> all.add(Suggestion.search(one, "searched for", one)));
        } else {
            SearchWorld world = worlds.of(person.id());
            Search search = SearchReader.read(typed, world);
            inPlace(search, place, world).ifPresent(all::add);
            all.addAll(saved(person, typed));
            all.addAll(people(person, typed));
            all.addAll(recent(person, typed));
            List<ListRow> first = first(person, search);
            first.forEach(row -> all.add(new Suggestion(
                    row.subject().isBlank() ? "No subject" : row.subject(),
                    row.sender().shown() + " · " + dates.brief(row.received()),
                    "/message/" + row.id())));
            if (first.isEmpty()) {
                meant(person, search).ifPresent(all::add);
            }
        }
        model.addAttribute("suggestions", all);
        model.addAttribute("asked", typed);
        return "desk/found :: suggestions";
    }

    /** The search in the place where one stands. */
    private static Optional<Suggestion> inPlace(Search search, String place, SearchWorld world) {
        String name = "in \"" + place.replace("\"", "") + '"';
        boolean known = !place.isBlank()
                && !search.isEmpty()
                && SearchReader.read(name, world).terms().stream().allMatch(Search.SearchTerm::isUnderstood);
        return known
                ? Optional.of(Suggestion.search(search.typed() + " in " + place, "only here", search.narrowed(name)))
                : Optional.empty();
    }

    private List<Suggestion> saved(CurrentUser person, String typed) {
        String wanted = Fold.text(typed);
        return searches.of(person.id()).stream()
                .filter(one -> Fold.text(one.name()).contains(wanted))
                .limit(MOST_SEARCHES)
                .map(one -> new Suggestion(one.name(), "saved search", "/mail/search/" + one.id()))
                .toList();
    }

    /** The last word may begin somebody's name; with a word before it that says how, that stays. */
    private List<Suggestion> people(CurrentUser person, String typed) {
        int blank = typed.lastIndexOf(' ') + 1;
        String last = typed.substring(blank);
        String before = typed.substring(0, blank);
        boolean said = before.matches("(?is)(.*\\s)?(from|to|with)\\s+");
        if (last.length() < FEW_LETTERS - 1 || last.contains("\"")) {
            return List.of();
        }
        List<Suggestion> found = new ArrayList<>();
        for (Address one : people.like(person.id(), last, MOST_PEOPLE)) {
            String words = before + (said ? "" : "from ") + one.email();
            found.add(Suggestion.search(before + (said ? "" : "from ") + one.shown(), "person", words));
        }
        return found;
    }

    private List<Suggestion> recent(CurrentUser person, String typed) {
        String wanted = Fold.text(typed);
        return searches.recent(person.id(), Integer.MAX_VALUE).stream()
                .filter(one -> !one.equals(typed) && Fold.text(one).startsWith(wanted))
                .limit(MOST_SEARCHES)
                .map(one -> Suggestion.search(one, "searched for", one))
                .toList();
    }

    private List<ListRow> first(CurrentUser person, Search search) {
        boolean little =
                search.terms().stream().mapToInt(term -> term.value().length()).sum() < FEW_LETTERS;
        return search.isEmpty() || little
                ? List.of()
                : lists
                        .page(person.id(), ListStore.Ranks.NONE, ListQuery.newest(search.query(), MOST_MESSAGES))
                        .stream()
                        .map(ListStore.ListLine::row)
                        .toList();
    }

    /** The same with each word that no message has as one that some have. */
    private Optional<Suggestion> meant(CurrentUser person, Search search) {
        return vocabulary.closest(person.id(), search).map(words -> Suggestion.search(words, "did you mean", words));
    }
}
