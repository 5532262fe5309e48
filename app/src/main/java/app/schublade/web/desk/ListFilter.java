package app.schublade.web.desk;

import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Marked;
import app.schublade.core.message.People;
import app.schublade.core.query.Filter;
import app.schublade.core.query.Query;
import app.schublade.store.place.Places;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What a list is narrowed to. A category or label that is gone narrows nothing.
 *
 * @param own whether the user's own filter of the place holds, too
 * @param category the id of a category that messages must have, or null
 * @param label the id of a label that they must have, or one of those in it; or null
 * @param sender the address or domain that they must come from, or null
 */
public record ListFilter(
        Set<Filter> filters,
        boolean own,
        @Nullable Long category,
        @Nullable Long label,
        @Nullable String sender) {
    private static final String OWN = "mine";

    static final ListFilter NONE = new ListFilter(Set.of(), false, null, null, null);

    public ListFilter {
        filters = Set.copyOf(filters);
    }

    /** From the parameters of an address; what it does not know is passed over. */
    static ListFilter of(Map<String, String> parameters) {
        Set<Filter> filters = EnumSet.noneOf(Filter.class);
        for (Filter filter : Filter.values()) {
            if (parameters.containsKey(parameter(filter))) {
                filters.add(filter);
            }
        }
        String from = parameters.getOrDefault("from", "").strip();
        return new ListFilter(
                filters,
                parameters.containsKey(OWN),
                id(parameters.get("category")),
                id(parameters.get("label")),
                from.isEmpty() ? null : People.value(from));
    }

    private static @Nullable Long id(@Nullable String text) {
        return text == null || !text.matches("\\d{1,18}") ? null : Long.valueOf(text);
    }

    private static String parameter(Filter filter) {
        return filter.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** As {@link #of} reads them, in a fixed order. */
    public Map<String, String> parameters() {
        Map<String, String> parameters = new LinkedHashMap<>();
        new TreeSet<>(filters).forEach(filter -> parameters.put(parameter(filter), "on"));
        if (own) {
            parameters.put(OWN, "on");
        }
        if (category != null) {
            parameters.put("category", category.toString());
        }
        if (label != null) {
            parameters.put("label", label.toString());
        }
        if (sender != null) {
            parameters.put("from", sender);
        }
        return parameters;
    }

    ListFilter toggle(Filter filter) {
        Set<Filter> others = EnumSet.noneOf(Filter.class);
        others.addAll(filters);
        if (!others.remove(filter)) {
            others.add(filter);
        }
        return new ListFilter(others, own, category, label, sender);
    }

    ListFilter toggleOwn() {
        return new ListFilter(filters, !own, category, label, sender);
    }

    /** Without what is chosen from a menu. */
    ListFilter filtersAlone() {
        return new ListFilter(filters, own, null, null, null);
    }

    /** @param ownFilter what the user's own filter leaves: messages for which one of these holds */
    Query query(Places places, Set<Filter> ownFilter) {
        Query query = Query.everything();
        for (Filter filter : new TreeSet<>(filters)) {
            query = query.and(filter.query());
        }
        if (own) {
            query = query.and(
                    new Query.Any(ownFilter.stream().sorted().map(Filter::query).toList()));
        }
        Optional<Marked> marked = categoryIn(places).map(one -> new Marked(List.of(), List.of(one.ref()), false));
        query = marked.map(Query.Meets::new).map(query::and).orElse(query);
        Optional<Marked> labelled = labelIn(places).map(one -> new Marked(places.withBelow(one), List.of(), false));
        query = labelled.map(Query.Meets::new).map(query::and).orElse(query);
        return sender == null ? query : query.and(new Query.Meets(Correspondent.sender(sender)));
    }

    private Optional<Places.Category> categoryIn(Places places) {
        return places.categories().stream()
                .filter(one -> category != null && one.id() == category)
                .findFirst();
    }

    private Optional<Places.Label> labelIn(Places places) {
        return Optional.ofNullable(label).flatMap(places::label);
    }

    /** What it is narrowed to besides the filters: {@code "Urgent"}, {@code "from wharf.example"}. */
    public List<String> chosen(Places places) {
        List<String> chosen = new ArrayList<>();
        categoryIn(places).ifPresent(one -> chosen.add(one.name()));
        labelIn(places).ifPresent(one -> chosen.add(one.path().shown()));
        if (sender != null) {
            chosen.add("from " + sender);
        }
        return chosen;
    }

    /** As the end of "Nothing here is …": {@code "unread and labelled Objects / Sails"}. */
    String words(Places places, Set<Filter> ownFilter) {
        List<String> all = new ArrayList<>();
        new TreeSet<>(filters).forEach(filter -> all.add(filter.words()));
        if (own) {
            all.add((ownFilter.size() > 1 ? "either " : "") + either(ownFilter));
        }
        categoryIn(places).ifPresent(one -> all.add("in the category " + one.name()));
        labelIn(places).ifPresent(one -> all.add("labelled " + one.path().shown()));
        if (sender != null) {
            all.add("from " + sender);
        }
        return String.join(" and ", all);
    }

    /** {@code "unread or flagged"}. */
    static String either(Set<Filter> some) {
        return some.stream().sorted().map(Filter::words).collect(Collectors.joining(" or "));
    }
}
