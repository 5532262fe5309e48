package app.schublade.core.message;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Joins messages to conversations, one after the other. It starts from what is known of their keys; what a message
 * brings together becomes one conversation, with the lowest id of those it was before.
 */
public final class Conversations {
    private final Map<Long, Long> byKey;
    private final Map<Long, Long> parents = new HashMap<>();
    private final Map<Long, Long> ofMessages = new LinkedHashMap<>();
    private final Map<Long, Long> changedKeys = new LinkedHashMap<>();

    /** @param known conversations by key: at least for all keys of the messages that will be joined */
    public Conversations(Map<Long, Long> known) {
        byKey = new HashMap<>(known);
    }

    /** Joins a message to its conversation; one that has none begins a conversation with the message's own id. */
    public void join(long message, ConversationKeys keys) {
        Stream<Long> asked = keys.asksSubjects()
                ? Stream.concat(keys.ids().stream(), keys.subjects().stream())
                : keys.ids().stream();
        Set<Long> found =
                asked.map(this::conversation).flatMap(Stream::ofNullable).collect(Collectors.toSet());
        long conversation = found.stream().mapToLong(Long::longValue).min().orElse(message);
        found.stream().filter(other -> other != conversation).forEach(other -> parents.put(other, conversation));
        Stream.concat(keys.ids().stream(), keys.subjects().stream()).forEach(key -> {
            byKey.put(key, conversation);
            changedKeys.put(key, conversation);
        });
        ofMessages.put(message, conversation);
    }

    private @Nullable Long conversation(Long key) {
        Long conversation = byKey.get(key);
        return conversation == null ? null : Long.valueOf(root(conversation));
    }

    private long root(long conversation) {
        long root = conversation;
        for (Long parent = parents.get(root); parent != null; parent = parents.get(root)) {
            root = parent;
        }
        return root;
    }

    /** The conversation of each message that was joined. */
    public Map<Long, Long> ofMessages() {
        return rooted(ofMessages);
    }

    /** The conversation that each key leads to now. */
    public Map<Long, Long> keys() {
        return rooted(changedKeys);
    }

    /** Conversations that have become part of another one. */
    public Map<Long, Long> merged() {
        return rooted(parents);
    }

    private Map<Long, Long> rooted(Map<Long, Long> all) {
        Map<Long, Long> rooted = new LinkedHashMap<>();
        all.forEach((thing, conversation) -> rooted.put(thing, root(conversation)));
        return rooted;
    }
}
