package app.schublade.store.message;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.State;
import app.schublade.core.message.Address;
import app.schublade.core.message.Handled;
import java.time.Instant;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A message as a list shows it; its size in bytes.
 *
 * @param written when it was, by its Date header; as it came, if that says nothing or something later
 */
public record ListRow(
        long id,
        long accountId,
        Instant received,
        Instant written,
        State state,
        int attachments,
        @Nullable Long conversation,
        Address sender,
        String recipients,
        String subject,
        String snippet,
        int size,
        @Nullable String alias,
        @Nullable String listId,
        Handled handled) {

    public long folderId() {
        return state.folder();
    }

    public boolean unread() {
        return state.unread();
    }

    public boolean flagged() {
        return state.flagged();
    }

    public @Nullable DayTime due() {
        return state.due();
    }

    /** The ids of all its categories. */
    public Set<Long> categories() {
        return state.categories();
    }

    public Set<Long> labels() {
        return state.labels();
    }

    public @Nullable Long tray() {
        return state.tray();
    }

    /** When it comes back from the tickler, or came back. */
    public @Nullable DayTime until() {
        return state.until();
    }
}
