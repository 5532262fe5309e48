package app.schublade.store.message;

import app.schublade.core.filing.DayTime;
import app.schublade.core.message.Address;
import app.schublade.core.message.Handled;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A message as a list shows it; its size in bytes.
 *
 * @param written when it was, by its Date header; as it came, if that says nothing or something later
 * @param also its categories of lower ranks
 * @param until when it comes back from the tickler, or came back
 */
public record ListRow(
        long id,
        long accountId,
        long folderId,
        Instant received,
        Instant written,
        boolean unread,
        boolean flagged,
        @Nullable DayTime due,
        int attachments,
        @Nullable Long categoryId,
        List<Long> also,
        @Nullable Long tray,
        @Nullable DayTime until,
        @Nullable Long conversation,
        List<Long> labels,
        Address sender,
        String recipients,
        String subject,
        String snippet,
        int size,
        @Nullable String alias,
        @Nullable String listId,
        Handled handled) {

    /** The ids of all its categories. */
    public List<Long> categories() {
        return Stream.concat(Stream.ofNullable(categoryId), also.stream()).toList();
    }
}
