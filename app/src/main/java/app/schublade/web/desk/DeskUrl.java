package app.schublade.web.desk;

import app.schublade.core.problem.InputProblem;
import app.schublade.store.message.ListQuery.Filter;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.web.util.UriComponentsBuilder;
import org.springframework.web.util.UriUtils;

/**
 * Where a user stands on the desk, as it is written in the address bar.
 *
 * @param path {@code /mail/inbox}, {@code /mail/folder/12}, ...
 * @param account the code of the account that the view is narrowed to, or null
 * @param filters what the list is narrowed to
 * @param alone of a label: without those below it
 * @param words what is searched for, or null
 */
public record DeskUrl(
        String path,
        @Nullable String account,
        Set<Filter> filters,
        boolean alone,
        @Nullable String words) {
    private static final int MAX_WORDS = 200;

    public DeskUrl {
        filters = Set.copyOf(filters);
    }

    /** From a path and the parameters behind it; others than its own are passed over. */
    static DeskUrl of(String path, Map<String, String> parameters) {
        Set<Filter> filters = EnumSet.noneOf(Filter.class);
        Arrays.stream(Filter.values())
                .filter(filter -> parameters.containsKey(parameter(filter)))
                .forEach(filters::add);
        String words =
                path.equals("/mail/find") ? parameters.getOrDefault("words", "").strip() : null;
        return new DeskUrl(
                path,
                parameters.get("account"),
                filters,
                parameters.containsKey("alone"),
                words == null ? null : words.substring(0, Math.min(words.length(), MAX_WORDS)));
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
            throw new InputProblem("“%s” is no list of messages.".formatted(address));
        }
        return of(path, parameters);
    }

    private static String parameter(Filter filter) {
        return filter.name().toLowerCase(Locale.ROOT).replace('_', '-');
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
        return new DeskUrl(path, null, Set.of(), false, words).here();
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
        return filters.contains(filter);
    }

    public DeskUrl toggle(Filter filter) {
        Set<Filter> others = EnumSet.noneOf(Filter.class);
        others.addAll(filters);
        if (!others.remove(filter)) {
            others.add(filter);
        }
        return new DeskUrl(path, account, others, alone, words);
    }

    public DeskUrl toggleAlone() {
        return new DeskUrl(path, account, filters, !alone, words);
    }

    /** The same place with everything in it. */
    public DeskUrl whole() {
        return new DeskUrl(path, account, Set.of(), alone, words);
    }

    /** What the list is narrowed to, in words: {@code "unread and flagged"}. */
    public String narrowing() {
        return new TreeSet<>(filters).stream().map(Filter::words).collect(Collectors.joining(" and "));
    }

    public boolean isNarrowed() {
        return !filters.isEmpty();
    }

    private String with(Map<String, String> more) {
        UriComponentsBuilder builder = UriComponentsBuilder.fromPath(path);
        Map<String, String> values = new HashMap<>(more);
        if (words != null) {
            builder.queryParam("words", "{words}");
            values.put("words", words);
        }
        if (account != null) {
            builder.queryParam("account", "{account}");
            values.put("account", account);
        }
        new TreeSet<>(filters).forEach(filter -> builder.queryParam(parameter(filter), "on"));
        if (alone) {
            builder.queryParam("alone", "on");
        }
        more.keySet().stream().sorted().forEach(name -> builder.queryParam(name, "{" + name + "}"));
        return builder.encode().buildAndExpand(values).toUriString();
    }
}
