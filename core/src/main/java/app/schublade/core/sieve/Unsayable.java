package app.schublade.core.sieve;

/** Something has no counterpart on the other side. The message ends a sentence that begins with its subject. */
final class Unsayable extends Exception {
    private static final long serialVersionUID = 1;

    Unsayable(String what) {
        super(what);
    }

    String what() {
        return String.valueOf(getMessage());
    }
}
