package app.schublade.core.format;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What is in a message.
 *
 * @param text as plain text, made from the HTML where there is no plain part
 * @param words the same as rules and the search go by it: without the addresses of links in HTML
 * @param html the HTML, or null
 * @param parts everything that is not the text
 * @param notes what a reader should know of it, in sentences: that it is encrypted, who did not get what
 * @param invitation what its calendar part says, or null
 */
record MailBody(
        String text,
        String words,
        @Nullable String html,
        List<Part> parts,
        List<String> notes,
        @Nullable Invitation invitation) {
    MailBody {
        parts = List.copyOf(parts);
        notes = List.copyOf(notes);
    }

    /** Text alone. */
    static MailBody of(String text) {
        return new MailBody(text, text, null, List.of(), List.of(), null);
    }
}
