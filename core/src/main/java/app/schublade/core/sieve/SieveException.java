package app.schublade.core.sieve;

/** A script that is no Sieve: says what is wrong in which line. */
public final class SieveException extends Exception {
    private static final long serialVersionUID = 1;

    private final int line;

    SieveException(int line, String what) {
        super("Line %d: %s".formatted(line, what));
        this.line = line;
    }

    /** From 1. */
    public int line() {
        return line;
    }
}
