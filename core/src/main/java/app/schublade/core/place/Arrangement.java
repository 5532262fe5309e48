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
public record Arrangement(Grouping grouping, Order order, boolean conversations, Columns columns) {
    /** Of a place that nobody has arranged: newest first, under the days. */
    public static final Arrangement USUAL = new Arrangement(Grouping.DAY, Order.NEWEST, false);

    /** Of a place that nobody has arranged: the tickler by the days when things come back. */
    public static Arrangement usualIn(String place) {
        return place.equals("tickler") ? new Arrangement(Grouping.DUE, Order.SOONEST, false) : USUAL;
    }

    /** With rows of two lines. */
    public Arrangement(Grouping grouping, Order order, boolean conversations) {
        this(grouping, order, conversations, Columns.NONE);
    }

    public Arrangement by(Order other) {
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
        DUE("due date");

        private final String words;

        Grouping(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** What messages can be ordered by. */
    public enum Key {
        DATE,
        SENDER,
        SUBJECT,
        SIZE,
        RANK,
        DUE
    }

    /** Which message stands above another. */
    public enum Order {
        NEWEST(Key.DATE, false, "date, newest first"),
        OLDEST(Key.DATE, true, "date, oldest first"),
        SENDER(Key.SENDER, true, "sender, A to Z"),
        SENDER_BACKWARDS(Key.SENDER, false, "sender, Z to A"),
        SUBJECT(Key.SUBJECT, true, "subject, A to Z"),
        SUBJECT_BACKWARDS(Key.SUBJECT, false, "subject, Z to A"),
        LARGEST(Key.SIZE, false, "size, largest first"),
        SMALLEST(Key.SIZE, true, "size, smallest first"),
        URGENT(Key.RANK, true, "rank, most urgent first"),
        LEAST_URGENT(Key.RANK, false, "rank, least urgent first"),
        SOONEST(Key.DUE, true, "due date, soonest first"),
        LATEST(Key.DUE, false, "due date, latest first");

        private final Key key;
        private final boolean ascending;
        private final String words;

        Order(Key key, boolean ascending, String words) {
            this.key = key;
            this.ascending = ascending;
            this.words = words;
        }

        public Key key() {
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
        public Order next(Key wanted) {
            return Arrays.stream(values())
                    .filter(order -> order.key == wanted && (key != wanted || order.ascending != ascending))
                    .findFirst()
                    .orElseThrow();
        }
    }
}
