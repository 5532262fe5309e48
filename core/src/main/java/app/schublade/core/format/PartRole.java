package app.schublade.core.format;

/** What a part of a message that is not its text is to those who read it. */
public enum PartRole {
    /** What a person calls an attachment. */
    FILE("attachment"),
    /** A picture that the HTML shows in its place. */
    PICTURE("picture in the text"),
    /** An invitation, an answer to one, a cancellation (RFC 5546). */
    CALENDAR("calendar entry"),
    /** What a signature is checked by (RFC 1847). */
    SEAL("signature"),
    /** What programs read of a report (RFC 3464, RFC 8098), and the message that it is about. */
    REPORT("report"),
    /** The text once more, for programs that read nothing better. */
    OTHER_FORM("the text in another form"),
    /** What the content is wrapped in: encrypted, or in a form of its own. */
    WRAPPER("as it was wrapped");

    private final String words;

    PartRole(String words) {
        this.words = words;
    }

    /** As readers are told. */
    public String words() {
        return words;
    }
}
