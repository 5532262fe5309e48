package app.schublade.mail.discovery;

/** What a server of an account is for. */
public enum Service {
    IMAP,
    POP3,
    /** Handing in mail to be sent (RFC 6409). */
    SUBMISSION
}
