package app.schublade.core.place;

import java.util.Arrays;

/**
 * How the list of a place is arranged.
 *
 * @param grouping what the messages are put together by; groups stand in their own order, whatever the order
 * @param order the order within a group
 * @param conversations whether messages that answer each other are one row
 * @param columns none for rows of two lines
 */
public record Arrangement(Grouping grouping, SortOrder order, boolean conversations, Columns columns) {
    /** Of a place that nobody has arranged: newest first, under the days. */
    public static final Arrangement USUAL = new Arrangement(Grouping.DAY, SortOrder.NEWEST, false);

    /** Of a place that nobody has arranged: the tickler by the days when things come back. */
    public static Arrangement usualIn(String place) {
        return place.equals("tickler") ? new Arrangement(Grouping.DUE, SortOrder.SOONEST, false) : USUAL;
    }

    /** With rows of two lines. */
    public Arrangement(Grouping grouping, SortOrder order, boolean conversations) {
        this(grouping, order, conversations, Columns.NONE);
    }

    public Arrangement by(SortOrder other) {
        return new Arrangement(grouping, other, conversations, columns);
    }

    public Arrangement in(Columns other) {
        return new Arrangement(grouping, order, conversations, other);
    }

    /** What messages are put together by. */
    public enum Grouping {
        NONE("nothing"),
        DAY("day"),
        SENDER("sender"),
        ACCOUNT("account"),
        CATEGORY("category"),
        LABEL("label"),
        TRAY("tray"),
        FLAG("flag"),
        DUE("due date"),
        /** Key people first, then what is flagged. */
        MATTERS("who matters");

        private final String words;

        Grouping(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** What messages can be ordered by. */
    public enum SortKey {
        DATE,
        WRITTEN,
        SENDER,
        SUBJECT,
        SIZE,
        RANK,
        DUE
    }

    /** Which message stands above another. */
    public enum SortOrder {
        NEWEST(SortKey.DATE, false, "date, newest first"),
        OLDEST(SortKey.DATE, true, "date, oldest first"),
        LATEST_WRITTEN(SortKey.WRITTEN, false, "day written, newest first"),
        EARLIEST_WRITTEN(SortKey.WRITTEN, true, "day written, oldest first"),
        SENDER(SortKey.SENDER, true, "sender, A to Z"),
        SENDER_BACKWARDS(SortKey.SENDER, false, "sender, Z to A"),
        SUBJECT(SortKey.SUBJECT, true, "subject, A to Z"),
        SUBJECT_BACKWARDS(SortKey.SUBJECT, false, "subject, Z to A"),
        LARGEST(SortKey.SIZE, false, "size, largest first"),
        SMALLEST(SortKey.SIZE, true, "size, smallest first"),
        URGENT(SortKey.RANK, true, "rank, most urgent first"),
        LEAST_URGENT(SortKey.RANK, false, "rank, least urgent first"),
        SOONEST(SortKey.DUE, true, "due date, soonest first"),
        LATEST(SortKey.DUE, false, "due date, latest first");

        private final SortKey key;
        private final boolean ascending;
        private final String words;

        SortOrder(SortKey key, boolean ascending, String words) {
            this.key = key;
            this.ascending = ascending;
            this.words = words;
        }

        public SortKey key() {
            return key;
        }

        /** Whether it runs from the smallest, earliest or first of the alphabet on. */
        public boolean ascending() {
            return ascending;
        }

        public String words() {
            return words;
        }

        /** By this key as one mostly wants it; the other way if it is by this key already. */
        public SortOrder next(SortKey wanted) {
            return Arrays.stream(values())
                    .filter(order -> order.key == wanted && (key != wanted || order.ascending != ascending))
                    .findFirst()
                    .orElseThrow();
        }
    }
}
