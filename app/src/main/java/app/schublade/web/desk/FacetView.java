package app.schublade.web.desk;

import app.schublade.core.query.Search;
import app.schublade.store.message.FacetStore.Facet;
import app.schublade.store.message.FacetStore.FacetKind;
import app.schublade.store.message.FacetStore.Facets;
import app.schublade.web.frame.Frame;
import java.time.YearMonth;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * Of what was found, how much is where, as bars that narrow it by a press.
 *
 * @param title {@code "Where"}
 */
public record FacetView(String title, List<Bar> bars) {
    private static final int SHOWN = 3;
    private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("MMM yyyy", Locale.ENGLISH);

    /**
     * A part.
     *
     * @param words the whole text of the search that finds it alone
     * @param width of the bar, from 0 to 100
     * @param css its colour; empty for the usual one
     */
    public record Bar(String name, int messages, int width, String css, String words) {}

    /** The first that tell something: one part alone does not. */
    static List<FacetView> of(Facets facets, Search search, Frame.FrameData known) {
        List<FacetView> views = new ArrayList<>();
        Map<FacetKind, List<Facet>> parts = facets.parts();
        for (FacetKind kind : FacetKind.values()) {
            List<Facet> all = parts.getOrDefault(kind, List.of());
            int most = all.stream().mapToInt(Facet::messages).max().orElse(1);
            List<Bar> bars = all.stream()
                    .map(facet -> bar(kind, facet, most, search, known))
                    .flatMap(Optional::stream)
                    .toList();
            if (bars.size() > 1 && views.size() < SHOWN) {
                views.add(new FacetView(title(kind), bars));
            }
        }
        return views;
    }

    private static String title(FacetKind kind) {
        return switch (kind) {
            case FOLDER -> "Where";
            case TIME -> "When";
            case PERSON -> "From";
            case ACCOUNT -> "Account";
            case FILE -> "Files";
        };
    }

    private static Optional<Bar> bar(FacetKind kind, Facet facet, int most, Search search, Frame.FrameData known) {
        int width = Math.max(2, 100 * facet.messages() / most);
        return switch (kind) {
            case FOLDER ->
                known.places().folder(Long.parseLong(facet.key())).map(folder -> {
                    String path = folder.path().shown();
                    return new Bar(path, facet.messages(), width, "", search.narrowed("in " + SearchView.quoted(path)));
                });
            case ACCOUNT ->
                known.accounts().stream()
                        .filter(one -> one.id() == Long.parseLong(facet.key()))
                        .findFirst()
                        .map(one -> new Bar(
                                one.name(),
                                facet.messages(),
                                width,
                                one.tone().css(),
                                search.narrowed("in " + SearchView.quoted(one.name()))));
            case PERSON ->
                Optional.of(new Bar(
                        facet.name().isBlank() ? facet.key() : facet.name(),
                        facet.messages(),
                        width,
                        "",
                        search.narrowed("from " + SearchView.quoted(facet.key()))));
            case TIME -> {
                boolean year = facet.key().length() == 4;
                String name = year ? facet.key() : MONTH.format(YearMonth.parse(facet.key()));
                yield Optional.of(new Bar(name, facet.messages(), width, "", search.narrowed("in " + name)));
            }
            case FILE ->
                Optional.of(new Bar(
                        facet.key().toUpperCase(Locale.ROOT),
                        facet.messages(),
                        width,
                        "",
                        search.narrowed("file " + facet.key())));
        };
    }
}
