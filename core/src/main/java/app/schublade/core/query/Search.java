package app.schublade.core.query;

import app.schublade.core.query.SearchWorld.Named;
import app.schublade.core.query.SearchWorld.Reference;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What somebody typed into the find box, and what it was understood as.
 *
 * @param typed as it was typed
 * @param alternatives of which one must be so: terms that all must be so
 */
public record Search(String typed, List<List<SearchTerm>> alternatives, SearchWorld world) {
    public Search {
        alternatives = alternatives.stream().map(List::copyOf).toList();
    }

    /** What a part of the text is about. */
    public enum TermTopic {
        WORDS,
        PERSON,
        PLACE,
        TIME,
        MARK,
        FILES,
        SUBJECT
    }

    /**
     * A part of the text.
     *
     * @param start, end where it stands in the text
     * @param wanted whether it must be so, or must not
     * @param lead the word before its value: {@code "from"}; empty if there is none
     * @param value what it is about, as it is shown: {@code "Ottoline"}
     * @param place what it names, or null
     */
    public record SearchTerm(
            int start,
            int end,
            boolean wanted,
            TermTopic kind,
            String lead,
            String value,
            Query query,
            @Nullable Named place) {
        /** Whether it is more than words. */
        public boolean isUnderstood() {
            return kind != TermTopic.WORDS;
        }

        boolean outOfSight() {
            return place != null && place.outOfSight();
        }

        Query meant() {
            return wanted ? query : new Query.Without(query);
        }

        /** In plain English: {@code "not from Ottoline"}. */
        public String said() {
            return Stream.of(wanted ? "" : "not", lead, value)
                    .filter(one -> !one.isEmpty())
                    .reduce((one, other) -> one + " " + other)
                    .orElse("");
        }
    }

    public List<SearchTerm> terms() {
        return alternatives.stream().flatMap(List::stream).toList();
    }

    /** The words that must be somewhere in a message but in somebody's name, for marking them there. */
    public List<Words> wanted() {
        return terms().stream()
                .filter(term -> term.wanted() && term.kind() != TermTopic.PERSON)
                .map(SearchTerm::query)
                .filter(Words.class::isInstance)
                .map(Words.class::cast)
                .toList();
    }

    /** Whether there is nothing to be found by. */
    public boolean isEmpty() {
        return alternatives.isEmpty();
    }

    /** All that was asked for, junk and trash among it. */
    public Query everywhere() {
        List<Query> any = new ArrayList<>();
        for (List<SearchTerm> terms : alternatives) {
            List<Query> all = terms.stream().map(SearchTerm::meant).toList();
            any.add(all.size() == 1 ? all.get(0) : new Query.All(all));
        }
        return any.size() == 1 ? any.get(0) : new Query.Any(any);
    }

    /** Whether junk and trash are left out, for nothing asks for them. */
    public boolean leavesOut() {
        return terms().stream().noneMatch(SearchTerm::outOfSight);
    }

    /** What is found. */
    public Query query() {
        return leavesOut() ? everywhere().and(new Query.Without(world.outOfSight())) : everywhere();
    }

    /** What a term would find alone. */
    public Query only(SearchTerm term) {
        return term.outOfSight() ? term.query() : term.query().and(new Query.Without(world.outOfSight()));
    }

    /** What would be found too if it had been asked for. */
    public Query leftOut() {
        return leavesOut() ? everywhere().and(world.outOfSight()) : new Query.Any(List.of());
    }

    /** What is named, so that it is found when it is called otherwise. */
    public List<Reference> references() {
        return terms().stream()
                .map(SearchTerm::place)
                .filter(Objects::nonNull)
                .map(place -> new Reference(place.kind(), place.id(), place.shown()))
                .distinct()
                .toList();
    }

    /** The text with the names that places have now. */
    public String withNamesOfNow() {
        Search now = this;
        for (int i = 0; i < terms().size(); i++) {
            SearchTerm term = now.terms().get(i);
            if (term.place() != null && term.place().isRenamed()) {
                now = SearchReader.read(
                        now.changed(term, term.lead() + " \"" + term.place().shown() + '"'), world);
            }
        }
        return now.typed;
    }

    /** In plain English. */
    public String sentence() {
        return String.join(
                " or ",
                alternatives.stream()
                        .map(terms -> String.join(
                                ", ",
                                terms.stream()
                                        .map(one -> one.isUnderstood()
                                                ? one.said()
                                                : (one.wanted() ? "" : "not ")
                                                        + one.query().sentence())
                                        .toList()))
                        .toList());
    }

    private String with(SearchTerm term, String other) {
        String before = typed.substring(0, term.start).stripTrailing();
        String after = typed.substring(term.end).stripLeading();
        return Stream.of(before, other, after)
                .filter(one -> !one.isEmpty())
                .reduce((one, next) -> one + " " + next)
                .orElse("");
    }

    /** The text without a term. */
    public String without(SearchTerm term) {
        String rest = with(term, "");
        return SearchReader.withoutLooseEnds(rest);
    }

    /** The text with a term as nothing but words: no more of it in quotes than it takes. */
    public String asWords(SearchTerm term) {
        String source = typed.substring(term.start, term.end);
        String before = typed.substring(0, term.start);
        String after = typed.substring(term.end);
        int space = before.stripTrailing().lastIndexOf(' ') + 1;
        // "from" without a name before it would take what is in quotes for one.
        String quotedBefore = before.substring(0, space) + SearchReader.quoted(before.substring(space), 1) + " ";
        return Stream.of(
                        before + SearchReader.quoted(source, 1) + after,
                        before + SearchReader.quoted(source, Integer.MAX_VALUE) + after,
                        quotedBefore + SearchReader.quoted(source, Integer.MAX_VALUE) + after)
                .filter(one -> understoodIn(one) < understoodIn(typed))
                .findFirst()
                .orElse(SearchReader.quoted(typed, Integer.MAX_VALUE));
    }

    private long understoodIn(String text) {
        return SearchReader.read(text, world).terms().stream()
                .filter(SearchTerm::isUnderstood)
                .count();
    }

    /** The text with a term turned round. */
    public String turned(SearchTerm term) {
        String source = typed.substring(term.start, term.end);
        return with(term, term.wanted ? "not " + source : SearchReader.withoutNot(source));
    }

    /** The text with one term more, in each alternative: {@code "crates in Loans or sails in Loans"}. */
    public String narrowed(String term) {
        return String.join(
                " or ",
                alternatives.stream()
                        .map(terms -> typed.substring(terms.get(0).start, terms.get(terms.size() - 1).end) + " " + term)
                        .toList());
    }

    /** The text with another term in the place of one. */
    public String changed(SearchTerm term, String other) {
        return with(term, term.wanted ? other : "not " + other);
    }
}
