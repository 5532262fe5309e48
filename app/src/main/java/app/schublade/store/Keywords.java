package app.schublade.store;

import app.schublade.core.filing.State;
import java.util.Collection;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What a user's labels and categories are called on mail servers.
 *
 * @param labels ids of labels by keyword
 * @param categories ids of categories by keyword, the highest rank first
 */
public record Keywords(Map<String, Long> labels, Map<String, Long> categories) {
    /** The state with the labels, and the highest of the categories, that are among a message's keywords. */
    public State on(State state, Collection<String> keywords) {
        Set<Long> found =
                keywords.stream().map(labels::get).filter(Objects::nonNull).collect(Collectors.toSet());
        return state.labelled(found).categorised(category(keywords));
    }

    private @Nullable Long category(Collection<String> keywords) {
        return categories.entrySet().stream()
                .filter(category -> keywords.contains(category.getKey()))
                .map(Map.Entry::getValue)
                .findFirst()
                .orElse(null);
    }
}
