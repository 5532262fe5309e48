package app.schublade.web.frame;

import app.schublade.work.LongActs;
import java.io.Serializable;
import org.jspecify.annotations.Nullable;

/**
 * What the filing strip says; kept in the session over a redirect.
 *
 * @param undoable whether {@code Z} takes it back
 * @param problem whether something did not work
 */
public record Notice(String text, boolean undoable, boolean problem) implements Serializable {
    private static final long serialVersionUID = 1L;

    public static Notice done(String text) {
        return new Notice(text, true, false);
    }

    public static Notice told(String text) {
        return new Notice(text, false, false);
    }

    public static Notice of(LongActs.ActEnding ending) {
        return new Notice(ending.text(), ending.undoable(), ending.problem());
    }

    public static Notice problem(@Nullable String text) {
        return new Notice(text == null ? "That did not work." : text, false, true);
    }
}
