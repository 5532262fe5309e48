package app.schublade.store;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Which messages a list shows.
 *
 * @param account only that account's, or null for all
 * @param after where the previous page ended, or null for the first page
 */
public record ListQuery(
        Place place,
        @Nullable Long account,
        boolean unread,
        boolean flagged,
        boolean files,
        @Nullable Cursor after,
        int limit) {

    /** Where the messages of a list come from. */
    public sealed interface Place {}

    /** The messages that lie in a folder. */
    public record InFolder(long folder) implements Place {}

    /** The messages that have a label. */
    public record WithLabel(long label) implements Place {}

    /** All messages that are flagged. */
    public record Flagged() implements Place {}

    /** All messages that have these words, as people type them into a find box. */
    public record Found(String words) implements Place {}

    /** A place in a list, newest first: time, then id. */
    public record Cursor(Instant received, long id) {
        /** Reads what {@link #toString} wrote; null if it cannot be read. */
        public static @Nullable Cursor parse(@Nullable String text) {
            if (text == null || !text.matches("-?\\d{1,19}\\.\\d{1,9}\\.\\d{1,18}")) {
                return null;
            }
            String[] parts = text.split("\\.", -1);
            return new Cursor(
                    Instant.ofEpochSecond(Long.parseLong(parts[0]), Long.parseLong(parts[1])),
                    Long.parseLong(parts[2]));
        }

        @Override
        public String toString() {
            return received.getEpochSecond() + "." + received.getNano() + "." + id;
        }
    }
}
