package app.schublade.store.message;

import app.schublade.core.place.Arrangement;
import app.schublade.core.query.Query;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Which messages a list shows, and in what order.
 *
 * @param place where they come from
 * @param narrowing what the list is narrowed to there
 * @param days what the days are that it can be ordered by
 * @param after where the previous page ended, or null for the first page
 * @param skip how many are passed over before the first
 */
public record ListQuery(
        Query place,
        Query narrowing,
        Arrangement arrangement,
        ListDays days,
        @Nullable Cursor after,
        int skip,
        int limit) {
    /** The days of messages that matter in a list, besides those on which they came. */
    public enum ListDays {
        /** Until when something must be done. */
        DUE,
        /** When they come back from the tickler. */
        RETURN,
        /** When their flags were ticked off; the list goes by these in place of the days on which they came. */
        DONE
    }

    public ListQuery(
            Query place, Query narrowing, Arrangement arrangement, ListDays days, @Nullable Cursor after, int limit) {
        this(place, narrowing, arrangement, days, after, 0, limit);
    }

    /** Everything in a place, newest first. */
    public static ListQuery newest(Query place, int limit) {
        Arrangement plain = new Arrangement(Arrangement.Grouping.NONE, Arrangement.SortOrder.NEWEST, false);
        return new ListQuery(place, Query.everything(), plain, ListDays.DUE, null, limit);
    }

    /** The same from a place on that is named by its number; that costs more, the further down it is. */
    public ListQuery from(int number) {
        return new ListQuery(place, narrowing, arrangement, days, null, number, limit);
    }

    /** All that is meant, in whatever order. */
    public Query messages() {
        return place.and(narrowing);
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
