package app.schublade.core.message;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A message as the rules see it.
 *
 * @param account the account it came to
 * @param from the first author
 * @param subject decoded; empty where there is none
 * @param sentTo the account's own addresses that it was sent to, in lower case: by envelope, To or Cc
 * @param listId the list's identifier (RFC 2919), in lower case, or null
 */
public record Message(
        long account,
        Address from,
        String subject,
        List<String> sentTo,
        @Nullable String listId) {
    public Message {
        sentTo = List.copyOf(sentTo);
    }
}
