package app.schublade.web.desk;

import app.schublade.core.message.Address;
import app.schublade.core.query.Search;
import app.schublade.core.query.Search.SearchTerm;
import app.schublade.core.query.Words;
import app.schublade.store.find.SavedSearchStore.SavedSearch;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What was searched for, as the page shows it below the find box.
 *
 * @param alternatives of which one must be so: chips
 * @param kept the saved search that was opened, or null
 * @param changed whether it is another search than the saved one
 * @param marked the words that are marked where they stand, as the page's script reads them
 */
public record SearchView(
        String typed,
        List<List<ChipView>> alternatives,
        @Nullable SavedSearch kept,
        boolean changed,
        String marked) {
    private static final List<String> TIMES = List.of("today", "this week", "last month", "this year", "last year");
    private static final List<String> FILES =
            List.of("with files", "with a PDF", "with a picture", "with a spreadsheet");

    /**
     * A term.
     *
     * @param lead the word before its value, with "not" where it must not be so
     * @param understood whether it is more than words
     * @param asWords the text with it as words
     * @param choices what it can be changed to
     */
    public record ChipView(String lead, String value, boolean understood, String asWords, List<ChipChoice> choices) {}

    /** @param words the whole text then */
    public record ChipChoice(String name, String words) {}

    static SearchView of(
            Search search, @Nullable SavedSearch kept, boolean changed, Function<String, List<Address>> people) {
        List<List<ChipView>> alternatives = search.alternatives().stream()
                .map(terms ->
                        terms.stream().map(term -> chip(search, term, people)).toList())
                .toList();
        return new SearchView(search.typed(), alternatives, kept, changed, marked(search));
    }

    /** One line for each: whether it must be whole, and its forms. */
    private static String marked(Search search) {
        List<String> lines = new ArrayList<>();
        for (Words words : search.wanted()) {
            List<List<String>> forms = words.forms();
            String how = words.exact() ? "whole" : words.isPart(forms) ? "part" : "beginning";
            List<String> each = forms.stream().map(one -> String.join("|", one)).toList();
            lines.add(how + " " + String.join(" ", each));
        }
        return String.join("\n", lines);
    }

    private static ChipView chip(Search search, SearchTerm term, Function<String, List<Address>> people) {
        List<ChipChoice> choices = new ArrayList<>();
        others(term, people)
                .map(other -> new ChipChoice(other, search.changed(term, other)))
                .forEach(choices::add);
        choices.add(new ChipChoice(term.wanted() ? "Not this" : "This after all", search.turned(term)));
        choices.add(new ChipChoice("Leave it out", search.without(term)));
        String lead = term.wanted() ? term.lead() : ("not " + term.lead()).strip();
        return new ChipView(
                lead,
                term.value(),
                term.isUnderstood(),
                term.isUnderstood() ? search.asWords(term) : search.without(term),
                choices);
    }

    /** What else it could be, as it is typed. */
    private static Stream<String> others(SearchTerm term, Function<String, List<Address>> people) {
        return switch (term.kind()) {
            case PERSON ->
                Stream.concat(
                        people.apply(term.value()).stream()
                                .map(person -> term.lead() + " " + person.email())
                                .filter(other -> !other.endsWith(" " + term.value())),
                        Stream.of("from", "to", "with")
                                .filter(role -> !role.equals(term.lead()))
                                .map(role -> role + " " + quoted(term.value())));
            case PLACE ->
                Stream.of("in", "below")
                        .filter(lead -> !lead.equals(term.lead()))
                        .map(lead -> lead + " " + quoted(term.value()));
            case TIME -> TIMES.stream().filter(other -> !other.equals(term.value()));
            case FILES -> FILES.stream().filter(other -> !other.equals(term.said()));
            case SUBJECT -> Stream.of("from " + quoted(term.value()), "file " + quoted(term.value()));
            case WORDS -> Stream.of("about " + quoted(term.value()), "from " + quoted(term.value()));
            case MARK -> Stream.of();
        };
    }

    static String quoted(String value) {
        return value.matches("[\\p{L}\\p{N}@.+_-]+") ? value : '"' + value.replace("\"", "") + '"';
    }

    /** Whether there is nothing that was understood as more than words. */
    public boolean isPlain() {
        return alternatives.size() == 1 && alternatives.get(0).stream().noneMatch(ChipView::understood);
    }
}
