package app.schublade.web.desk;

import app.schublade.core.problem.InputProblem;
import app.schublade.core.query.Filter;
import app.schublade.core.query.SearchReader;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.web.util.UriComponentsBuilder;
import org.springframework.web.util.UriUtils;

/**
 * Where a user stands on the desk, as it is written in the address bar.
 *
 * @param path {@code /mail/inbox}, {@code /mail/folder/12}, ...
 * @param account the code of the account that the view is narrowed to, or null
 * @param narrowing what the list is narrowed to
 * @param alone of a label: without those below it
 * @param words what is searched for, or null; of a saved search, if they are not its own
 */
public record DeskUrl(
        String path,
        @Nullable String account,
        ListFilter narrowing,
        boolean alone,
        @Nullable String words) {
    private static final String SAVED = "/mail/search/";
    private static final int MAX_WORDS = SearchReader.MAX_LENGTH;

    private static boolean isSearch(String path) {
        return path.equals("/mail/find") || path.startsWith(SAVED);
    }

    /** The number of the saved search that was opened; 0 if there is none. */
    long saved() {
        String id = path.startsWith(SAVED) ? path.substring(SAVED.length()) : "";
        return id.matches("\\d{1,18}") ? Long.parseLong(id) : 0;
    }

    /** The same search with other words. */
    public String withWords(String other) {
        return new DeskUrl(path, account, narrowing, alone, other).here();
    }

    /** From a path and the parameters behind it; others than its own are passed over. */
    static DeskUrl of(String path, Map<String, String> parameters) {
        String words = !isSearch(path) ? null : parameters.get("words");
        return new DeskUrl(
                path,
                parameters.get("account"),
                ListFilter.of(parameters),
                parameters.containsKey("alone"),
                words == null
                        ? null
                        : words.strip().substring(0, Math.min(words.strip().length(), MAX_WORDS)));
    }

    /**
     * Reads what {@link #here} wrote.
     *
     * @throws InputProblem if it is no address of the desk
     */
    static DeskUrl parse(String address) {
        UriComponentsBuilder builder = UriComponentsBuilder.fromUriString(address);
        Map<String, String> parameters = new HashMap<>();
        builder.build()
                .getQueryParams()
                .toSingleValueMap()
                .forEach((name, value) ->
                        parameters.put(name, value == null ? "" : UriUtils.decode(value, StandardCharsets.UTF_8)));
        String path = builder.build().getPath();
        if (path == null || !path.startsWith("/mail/")) {
            throw new InputProblem("“%s” is not a list of messages.".formatted(address));
        }
        return of(path, parameters);
    }

    /** The address itself. */
    public String here() {
        return with(Map.of());
    }

    /** The end of the path, by which the arrangement of its list is kept. */
    String place() {
        return path.substring("/mail/".length());
    }

    /** The same place in all accounts, with everything in it. */
    public String everywhere() {
        return new DeskUrl(path, null, ListFilter.NONE, false, words).here();
    }

    /** With a message open: its id comes behind it. */
    public String opening() {
        String here = here();
        return here + (here.contains("?") ? "&" : "?") + "open=";
    }

    /** The rows after a place in the list, under a heading that stands there already. */
    public String after(String cursor, @Nullable String under) {
        return with(under == null ? Map.of("after", cursor) : Map.of("after", cursor, "under", under));
    }

    public boolean has(Filter filter) {
        return narrowing.filters().contains(filter);
    }

    public DeskUrl toggle(Filter filter) {
        return narrowed(narrowing.toggle(filter));
    }

    public DeskUrl toggleOwn() {
        return narrowed(narrowing.toggleOwn());
    }

    public DeskUrl toggleAlone() {
        return new DeskUrl(path, account, narrowing, !alone, words);
    }

    /** The same place with everything in it. */
    public DeskUrl whole() {
        return narrowed(ListFilter.NONE);
    }

    /** The same place without what {@link ListFilter#chosen} tells. */
    public DeskUrl withoutChosen() {
        return narrowed(narrowing.filtersAlone());
    }

    private DeskUrl narrowed(ListFilter other) {
        return new DeskUrl(path, account, other, alone, words);
    }

    public boolean isNarrowed() {
        return !narrowing.parameters().isEmpty();
    }

    /** All but the path, by name; what is chosen from a menu is left out. */
    public Map<String, String> parametersButChosen() {
        return withoutChosen().parameters();
    }

    private Map<String, String> parameters() {
        Map<String, String> all = new LinkedHashMap<>();
        if (words != null) {
            all.put("words", words);
        }
        if (account != null) {
            all.put("account", account);
        }
        all.putAll(narrowing.parameters());
        if (alone) {
            all.put("alone", "on");
        }
        return all;
    }

    private String with(Map<String, String> more) {
        Map<String, String> values = parameters();
        more.keySet().stream().sorted().forEach(name -> values.put(name, more.getOrDefault(name, "")));
        UriComponentsBuilder builder = UriComponentsBuilder.fromPath(path);
        values.keySet().forEach(name -> builder.queryParam(name, "{" + name + "}"));
        return builder.encode().buildAndExpand(values).toUriString();
    }
}
