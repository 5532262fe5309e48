package app.schublade.web.desk;

import app.schublade.store.account.Account;
import app.schublade.store.message.ListRow;
import app.schublade.store.place.Places;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * A message, or a conversation, as a row of the list.
 *
 * @param group what it is put together with others by, or null where there are no groups
 * @param opensGroup whether the group's heading stands above it
 * @param who the sender; in Sent and Drafts the recipients
 * @param messages how many messages the row stands for
 * @param unread whether one of them is unread
 * @param flag the own flag that it is flagged as, or null
 * @param due until when something must be done, as people say it, or null
 * @param until when it comes back from the tickler, or that it came back; null for others
 * @param via the alias it came to, shortened: {@code loans@}; null if it came to the main address
 * @param folder the folder it lies in
 * @param place the same, where the list is not of that folder; null otherwise
 * @param beginning how its text begins, or what stands around a word that was looked for
 * @param inner whether it stands below the row of its conversation
 */
public record RowView(
        ListRow row,
        Account account,
        @Nullable String group,
        boolean opensGroup,
        String who,
        int messages,
        boolean unread,
        String date,
        String exact,
        Places.@Nullable OwnFlag flag,
        @Nullable String due,
        boolean overdue,
        @Nullable String until,
        @Nullable String via,
        List<Places.Category> categories,
        List<Places.Label> labels,
        String folder,
        @Nullable String place,
        String beginning,
        boolean inner) {

    /** The subject, or that there is none. */
    public String subject() {
        return row.subject().isBlank() ? "No subject" : row.subject();
    }

    /** Bytes as people say them: {@code 4 KB}, {@code 1.3 MB}. */
    static String size(int bytes) {
        return bytes < 1_000_000
                ? Math.max(1, bytes / 1000) + " KB"
                : String.format(Locale.ENGLISH, "%.1f MB", bytes / 1e6);
    }

    /** Its classes in the style sheet. */
    public String css() {
        return (unread ? "new " : "")
                + (row.flagged() ? "flagged " : "")
                + (inner ? "inner " : "")
                + (messages > 1 ? "many" : "");
    }
}
