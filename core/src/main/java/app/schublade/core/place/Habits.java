package app.schublade.core.place;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * How a person likes the desk.
 *
 * @param readAfter after how many seconds an open message counts as read; {@link #WHEN_LEFT}; null for never by itself
 * @param opens the place that is shown first: the end of its address, {@code inbox} or {@code folder/12}
 * @param unreadOnly whether the cabinet shows only folders and labels with something unread
 * @param hiddenToo whether it shows the hidden ones too
 * @param trays whether the Inbox is divided into trays
 * @param severalCategories whether a message may have more than one
 * @param scheme light or dark
 */
public record Habits(
        Pane pane,
        Density density,
        @Nullable Integer readAfter,
        String opens,
        boolean unreadOnly,
        boolean hiddenToo,
        boolean trays,
        boolean severalCategories,
        Scheme scheme,
        Letters letters) {
    /** An open message counts as read when one goes on to another, or closes it. */
    public static final int WHEN_LEFT = -1;

    /** What it is until somebody changes it. */
    public static final Habits USUAL =
            new Habits(Pane.RIGHT, Density.ROOMY, 1, "inbox", false, false, true, false, Scheme.SYSTEM, Letters.USUAL);

    /** Where a message is read. */
    public enum Pane {
        RIGHT("beside the list"),
        BELOW("below the list"),
        OFF("in the place of the list");

        private final String words;

        Pane(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** How much room a row has. */
    public enum Density {
        ROOMY("two lines"),
        CLOSE("two lines, closer together"),
        SINGLE("one line");

        private final String words;

        Density(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** Whether there is dark ink on light paper, or the reverse. */
    public enum Scheme {
        SYSTEM("as the system has it"),
        LIGHT("light"),
        DARK("dark");

        private final String words;

        Scheme(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /**
     * How conversations are read and answered.
     *
     * @param oldestFirst whether the other messages of a conversation stand in the order in which they came
     * @param copyBeside whether an answer is put into the folder of what it answers, besides Sent
     */
    public record Letters(boolean oldestFirst, boolean copyBeside) {
        public static final Letters USUAL = new Letters(false, false);
    }

    public Habits unreadOnly(boolean value) {
        return new Habits(pane, density, readAfter, opens, value, hiddenToo, trays, severalCategories, scheme, letters);
    }

    public Habits hiddenToo(boolean value) {
        return new Habits(
                pane, density, readAfter, opens, unreadOnly, value, trays, severalCategories, scheme, letters);
    }

    /** As classes of the style sheet. */
    public String css() {
        return "pane-%s rows-%s scheme-%s".formatted(pane, density, scheme).toLowerCase(Locale.ROOT);
    }

    public boolean isReadWhenLeft() {
        return readAfter != null && readAfter == WHEN_LEFT;
    }
}
