package app.schublade.core.problem;

/**
 * Something that a user typed, chose or asked for and that cannot be; the message is a sentence for the user that says what,
 * where, and the way out. Whatever else is thrown is a mistake in the program, and is never shown.
 */
public final class InputProblem extends RuntimeException {
    private static final long serialVersionUID = 1L;

    public InputProblem(String sentence) {
        super(sentence);
    }

    public InputProblem(String sentence, Throwable cause) {
        super(sentence, cause);
    }
}
