package app.schublade.store;

import app.schublade.core.message.Address;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A message as a list shows it. */
public record ListRow(
        long id,
        long accountId,
        long folderId,
        Instant received,
        boolean unread,
        boolean flagged,
        int attachments,
        @Nullable Long categoryId,
        List<Long> labels,
        Address sender,
        String recipients,
        String subject,
        String snippet,
        @Nullable String alias,
        @Nullable String listId) {

    public ListQuery.Cursor cursor() {
        return new ListQuery.Cursor(received, id);
    }
}
