package app.schublade.web.frame;

import app.schublade.work.LongActs;
import java.io.Serializable;
import org.jspecify.annotations.Nullable;

/**
 * What the filing strip says; kept in the session over a redirect.
 *
 * @param undoable whether {@code Z} takes it back
 * @param problem whether something did not work
 * @param recall where a message that was sent is taken back, until it leaves; or null
 */
public record Notice(
        String text,
        boolean undoable,
        boolean problem,
        @Nullable String recall) implements Serializable {
    private static final long serialVersionUID = 1L;
    /** What quotes a book that somebody typed need not quote all of it. */
    private static final int LONGEST = 600;

    public Notice {
        text = text.length() <= LONGEST ? text : text.substring(0, text.offsetByCodePoints(0, LONGEST - 1)) + "…";
    }

    public Notice(String text, boolean undoable, boolean problem) {
        this(text, undoable, problem, null);
    }

    public static Notice done(String text) {
        return new Notice(text, true, false);
    }

    public static Notice told(String text) {
        return new Notice(text, false, false);
    }

    public static Notice sent(String text, String recall) {
        return new Notice(text, false, false, recall);
    }

    public static Notice of(LongActs.ActEnding ending) {
        return new Notice(ending.text(), ending.undoable(), ending.problem());
    }

    public static Notice problem(@Nullable String text) {
        return new Notice(text == null ? "That did not work." : text, false, true);
    }
}
