package app.schublade.standin.world;

/** What goes with a letter; made when the letter is put into its envelope. */
public sealed interface Enclosure {
    /** A file whose content is made from these lines, by the ending of its name: pdf, jpg, png, csv, txt, ics. */
    record File(String name, String lines, Person from) implements Enclosure {}

    /** Another letter as a whole (message/rfc822, RFC 2046, section 5.2.1). */
    record Whole(Letter letter) implements Enclosure {}

    /** The report that a letter did not arrive (RFC 3464). */
    record Undelivered(Letter letter, Person recipient) implements Enclosure {}
}
