package app.schublade.core.format;

import app.schublade.core.message.Address;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a calendar part says of an event (RFC 5545, RFC 5546).
 *
 * @param what its title; empty where it has none
 * @param from when it begins; null where nothing is said
 * @param to when it ends, of whole days the last one; null where nothing is said
 * @param where empty where nothing is said
 * @param organizer who invites; null where nobody does
 * @param invited who is invited; in an answer, who answers
 * @param answer how an invitation is answered, such as {@code "accepts"}; empty in what is no answer
 * @param repeats how often, such as {@code "every 2 weeks, 10 times"}; empty if once
 * @param others how many more events the part has
 */
public record Invitation(
        Kind kind,
        String what,
        @Nullable EventTime from,
        @Nullable EventTime to,
        String where,
        @Nullable Address organizer,
        List<Address> invited,
        String answer,
        String repeats,
        int others) {
    public Invitation {
        invited = List.copyOf(invited);
    }

    /** What it is about the event. */
    public enum Kind {
        REQUEST,
        ANSWER,
        CANCELLATION,
        OTHER_TIME_WANTED,
        ENTRY
    }

    /**
     * A time of an event.
     *
     * @param local as written
     * @param instant when that is; null for whole days, and for what is at this time of day wherever one is
     */
    public record EventTime(LocalDateTime local, @Nullable Instant instant, boolean wholeDay) {}
}
