package app.schublade.mail;

import java.time.Instant;

/**
 * A message as fetched.
 *
 * @param received when it arrived at the server
 * @param size of the whole source, in bytes
 * @param source the source, or its beginning if it is larger than was asked for; only the Message-ID header for a
 *     {@linkplain ImapConnection#fetchIds glance}
 */
@SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
public record Fetched(Sighting sighting, Instant received, int size, byte[] source) {
    public long uid() {
        return sighting.uid();
    }

    public boolean isWhole() {
        return source.length >= size;
    }
}
