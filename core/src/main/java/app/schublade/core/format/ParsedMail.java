package app.schublade.core.format;

import app.schublade.core.message.Address;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A message as read from its source.
 *
 * @param messageId without angle brackets; empty where there is none
 * @param envelopeTo where servers say it was delivered (Delivered-To, Envelope-To, …), and whom it was sent on or copied to unseen
 * @param references ids of earlier messages of the conversation, oldest first, In-Reply-To last
 * @param sent the Date header, or null where it cannot be read
 * @param listId the identifier of the mailing list (RFC 2919) in lower case, or null
 * @param body what is in it
 * @param cuts what of the message was left out, in sentences; empty where it was read as a whole
 */
public record ParsedMail(
        String messageId,
        Address from,
        List<Address> replyTo,
        List<Address> to,
        List<Address> cc,
        List<Address> envelopeTo,
        String subject,
        List<String> references,
        @Nullable Instant sent,
        @Nullable String listId,
        MailBody body,
        Headers headers,
        List<String> cuts) {

    /** Everybody the message is known to be sent to: first by envelope, then To, then Cc. */
    public List<Address> recipients() {
        List<Address> all = new ArrayList<>(envelopeTo);
        all.addAll(to);
        all.addAll(cc);
        return all;
    }

    /** The body as plain text, made from the HTML where there is no plain part. */
    public String text() {
        return body.text();
    }

    /** The body as rules and the search go by it: the text without the addresses of links in HTML. */
    public String words() {
        return body.words();
    }

    /** The body as HTML, or null. */
    public @Nullable String html() {
        return body.html();
    }

    /** Everything that is not the text. */
    public List<Part> parts() {
        return body.parts();
    }

    /** What a reader should know of it, in sentences. */
    public List<String> notes() {
        return body.notes();
    }

    /** What it says of an event, or null. */
    public @Nullable Invitation invitation() {
        return body.invitation();
    }

    /** The parts that a person calls attachments. */
    public List<Part> attachments() {
        return parts().stream().filter(part -> part.role() == PartRole.FILE).toList();
    }

    /** All other parts. */
    public List<Part> otherParts() {
        return parts().stream().filter(part -> part.role() != PartRole.FILE).toList();
    }

    /** The beginning of the words on one line, at most so many characters. */
    public String snippet(int length) {
        String text = words();
        StringBuilder line = new StringBuilder(length);
        for (int i = 0; i < text.length() && line.length() < length; i++) {
            char sign = text.charAt(i);
            if (!isBlank(sign)) {
                line.append(sign);
            } else if (!line.isEmpty() && line.charAt(line.length() - 1) != ' ') {
                line.append(' ');
            }
        }
        return line.toString().strip();
    }

    private static boolean isBlank(char sign) {
        return sign < 0x80
                ? sign <= ' ' || sign == 0x7f
                : Character.isWhitespace(sign)
                        || Character.isISOControl(sign)
                        || Character.getType(sign) == Character.FORMAT;
    }
}
