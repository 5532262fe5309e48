package app.schublade.store.place;

import app.schublade.core.filing.State;
import java.util.Collection;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * What a user's labels and categories are called on mail servers.
 *
 * @param labels ids of labels by keyword
 * @param categories ids of categories by keyword, the highest rank first
 * @param several whether a message may have several categories
 */
public record Keywords(Map<String, Long> labels, Map<String, Long> categories, boolean several) {
    /** The state with the labels and the categories, or the highest of them, that are among a message's keywords. */
    public State on(State state, Collection<String> keywords) {
        Set<Long> found =
                keywords.stream().map(labels::get).filter(Objects::nonNull).collect(Collectors.toSet());
        return state.labelled(found)
                .categorised(categories.entrySet().stream()
                        .filter(category -> keywords.contains(category.getKey()))
                        .map(Map.Entry::getValue)
                        .limit(several ? Long.MAX_VALUE : 1)
                        .toList());
    }
}
