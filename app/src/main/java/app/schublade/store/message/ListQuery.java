package app.schublade.store.message;

import app.schublade.core.place.Arrangement;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Which messages a list shows, and in what order.
 *
 * @param account only that account's, or null for all
 * @param filters what all messages of the list must be
 * @param after where the previous page ended, or null for the first page
 */
public record ListQuery(
        Place place,
        @Nullable Long account,
        Set<Filter> filters,
        Arrangement arrangement,
        @Nullable Cursor after,
        int limit) {
    public ListQuery {
        filters = Set.copyOf(filters);
    }

    /** Everything in a place, newest first. */
    public static ListQuery newest(Place place, int limit) {
        Arrangement plain = new Arrangement(Arrangement.Grouping.NONE, Arrangement.SortOrder.NEWEST, false);
        return new ListQuery(place, null, Set.of(), plain, null, limit);
    }

    /** Where the messages of a list come from. */
    public sealed interface Place {}

    /** The messages that lie in a folder. */
    public record InFolder(long folder) implements Place {}

    /** The messages of one tray of the Inbox. */
    public record InTray(long inbox, long tray) implements Place {}

    /** The messages that have one of these labels. */
    public record WithLabel(Set<Long> labels) implements Place {}

    /** The messages in the tickler, and those that came back from there and lie in the Inbox. */
    public record InTickler(long folder) implements Place {}

    /** All messages that are flagged. */
    public record Flagged() implements Place {}

    /** All messages that have these words, as people type them into a find box. */
    public record Found(String words) implements Place {}

    /** All messages of a conversation, wherever they lie. */
    public record Conversation(long id) implements Place {}

    /** What a list can be narrowed to; several together narrow it further. */
    public enum Filter {
        UNREAD("unread", "Unread"),
        FLAGGED("flagged", "Flagged"),
        FILES("with files", "Has files"),
        TO_ME("addressed to me", "To me"),
        KEY_PEOPLE("from key people", "Key people");

        private final String words;
        private final String shown;

        Filter(String words, String shown) {
            this.words = words;
            this.shown = shown;
        }

        /** As the end of "Nothing here is …". */
        public String words() {
            return words;
        }

        public String shown() {
            return shown;
        }
    }

    /**
     * A place in a list.
     *
     * @param keys what the list is grouped and sorted by, besides the time; as text
     */
    public record Cursor(List<String> keys, Instant received, long id) {
        private static final String SEPARATOR = "\u001f";

        public Cursor {
            keys = List.copyOf(keys);
        }

        /** Reads what {@link #toString} wrote; null if it cannot be read. */
        public static @Nullable Cursor parse(@Nullable String text) {
            if (text == null || !text.matches("-?\\d{1,11}\\.\\d{1,9}\\.\\d{1,18}(\\.[\\w-]*)?")) {
                return null;
            }
            String[] parts = text.split("\\.", 4);
            List<String> keys = new ArrayList<>();
            if (parts.length == 4) {
                byte[] decoded;
                try {
                    decoded = Base64.getUrlDecoder().decode(parts[3]);
                } catch (IllegalArgumentException e) {
                    return null;
                }
                keys = Arrays.asList(new String(decoded, StandardCharsets.UTF_8).split(SEPARATOR, -1));
            }
            return new Cursor(
                    keys,
                    Instant.ofEpochSecond(Long.parseLong(parts[0]), Long.parseLong(parts[1])),
                    Long.parseLong(parts[2]));
        }

        @Override
        public String toString() {
            String time = received.getEpochSecond() + "." + received.getNano() + "." + id;
            byte[] joined = String.join(SEPARATOR, keys).getBytes(StandardCharsets.UTF_8);
            return keys.isEmpty()
                    ? time
                    : time + "." + Base64.getUrlEncoder().withoutPadding().encodeToString(joined);
        }
    }
}
