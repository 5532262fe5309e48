package app.schublade.core.format;

import org.jspecify.annotations.Nullable;

/**
 * One attachment or embedded picture.
 *
 * @param number its place in the message, from 1
 * @param name a file name without any path, never empty
 * @param type the media type in lower case, without parameters
 * @param contentId what the HTML calls it by (RFC 2392), or null
 * @param content decoded
 */
@SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
public record Part(
        int number, String name, String type, @Nullable String contentId, byte[] content) {
    public boolean insideHtml() {
        return contentId != null && type.startsWith("image/");
    }

    public int size() {
        return content.length;
    }
}
