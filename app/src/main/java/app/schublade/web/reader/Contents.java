package app.schublade.web.reader;

import app.schublade.core.filing.Sized;
import app.schublade.core.format.Invitation;
import app.schublade.core.format.OutsidePictures;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Part;
import app.schublade.core.format.QuotedEnd;
import app.schublade.core.message.Address;
import java.util.List;
import java.util.stream.Collectors;

/**
 * What a message holds, or a message in it.
 *
 * @param message the id of the outermost message
 * @param pictures whether its pictures are fetched from outside
 * @param within where in that it is, such as {@code "3.1"}; empty for the message itself
 */
public record Contents(long message, String within, ParsedMail mail, boolean pictures) {
    private static final int MAX_RECIPIENTS = 12;
    /** Larger pictures are not shown in small; in bytes. */
    private static final int MAX_SHOWN = 5_000_000;

    /** Where in the outermost message a part is. */
    public String path(Part part) {
        return within.isEmpty() ? Integer.toString(part.number()) : within + "." + part.number();
    }

    /** The address of its HTML as a document. */
    public String html() {
        String path = "/message/%d/html%s".formatted(message, within.isEmpty() ? "" : "/" + within);
        return pictures ? path + "?pictures=true" : path;
    }

    /** The pictures that it only names. */
    public OutsidePictures outside() {
        return OutsidePictures.in(mail.html());
    }

    /** Its plain text without what it quotes at its end. */
    public String own() {
        String text = mail.text();
        return text.isBlank()
                ? "This message has no text."
                : text.substring(0, QuotedEnd.in(text)).stripTrailing();
    }

    /** What its plain text quotes at its end; empty if it quotes nobody there. */
    public String quoted() {
        String text = mail.text();
        return text.substring(QuotedEnd.in(text)).strip();
    }

    public String to() {
        return names(mail.to());
    }

    public String cc() {
        return names(mail.cc());
    }

    /** Who is invited to the event in it. */
    public String invited() {
        Invitation invitation = mail.invitation();
        return invitation == null ? "" : names(invitation.invited());
    }

    /** Some names, and how many more there are. */
    static String names(List<Address> addresses) {
        String some =
                addresses.stream().limit(MAX_RECIPIENTS).map(Address::shown).collect(Collectors.joining(", "));
        int more = addresses.size() - MAX_RECIPIENTS;
        return more > 0 ? "%s and %,d more".formatted(some, more) : some;
    }

    /** Whether a file is a picture that can be shown beside its name. */
    public boolean isShown(Part part) {
        return part.isPicture() && part.size() <= MAX_SHOWN;
    }

    /** A size as people say it. */
    public String size(Part part) {
        return Sized.inWords(part.size());
    }
}
