package app.schublade.core.message;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Whether the user has answered a message or passed it on, here or in another mail program (RFC 3501, section 2.3.2; RFC 5788).
 *
 * @param answeredAt null if it was not answered, or elsewhere
 * @param forwardedAt null if it was not passed on, or elsewhere
 */
public record Handled(
        boolean answered,
        @Nullable Instant answeredAt,
        boolean forwarded,
        @Nullable Instant forwardedAt) {
    /** What the server of a message tells. */
    public static Handled elsewhere(boolean answered, boolean forwarded) {
        return new Handled(answered, null, forwarded, null);
    }
}
