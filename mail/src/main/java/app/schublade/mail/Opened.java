package app.schublade.mail;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A folder as the server opened it (RFC 3501, section 6.3.1).
 *
 * @param keywords whether any keyword may be set and is kept
 * @param readOnly whether nothing can be changed in it
 * @param changes what changed since the look that was named, or null if the server cannot tell
 */
public record Opened(
        String serverName,
        FolderStatus status,
        boolean keywords,
        boolean readOnly,
        @Nullable MailboxChanges changes) {

    /** An opened folder of which no changes are known. */
    public Opened(String serverName, FolderStatus status, boolean keywords) {
        this(serverName, status, keywords, false, null);
    }

    public long uidValidity() {
        return status.uidValidity();
    }

    public long uidNext() {
        return status.uidNext();
    }

    public int messages() {
        return status.messages();
    }

    /**
     * What changed (RFC 7162).
     *
     * @param sightings messages that are new or marked differently
     * @param gone ranges of UIDs that are there no longer; null if the server does not tell that
     */
    public record MailboxChanges(
            List<Sighting> sightings, @Nullable List<Range> gone) {}

    /** UIDs from the first to the last, both included. */
    public record Range(long first, long last) {}
}
