package app.schublade.mail;

/** Something that a mail server did or did not do; the message is a sentence for the user. */
public final class MailException extends Exception {
    private static final long serialVersionUID = 1L;

    /** What went wrong, as far as it decides what to do next. */
    public enum Kind {
        /** The server cannot be reached: try again later. */
        AWAY,
        /** The connection broke or made no sense: connect anew. */
        LOST,
        /** Login name or password are refused: ask the user, do not repeat. */
        LOGIN_REFUSED,
        /** The server understood and said no: repeating it will not help. */
        REFUSED
    }

    private final Kind kind;
    private final String sentence;

    MailException(Kind kind, String message, Throwable cause) {
        super(message, cause);
        this.kind = kind;
        this.sentence = message;
    }

    MailException(Kind kind, String message) {
        super(message);
        this.kind = kind;
        this.sentence = message;
    }

    public Kind kind() {
        return kind;
    }

    @Override
    public String getMessage() {
        return sentence;
    }
}
