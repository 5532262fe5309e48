package app.schublade.core.filing;

import java.util.Arrays;
import java.util.List;

/** What is done to mail as it arrives without a rule of the user's, and is written down in the same way. */
public enum BuiltIn {
    RETIRED_ALIAS("Retired alias"),
    BLOCKED_SENDER("Blocked sender"),
    MUTED_CONVERSATION("Muted conversation");

    private final String shown;

    BuiltIn(String shown) {
        this.shown = shown;
    }

    /** In the place of a rule's name. */
    public String shown() {
        return shown;
    }

    /** Whether a name that no rule has any more is one of these rather than that of a rule that was deleted. */
    public static boolean isName(String name) {
        return Arrays.stream(values()).anyMatch(one -> one.shown.equals(name));
    }

    /** @param reason why, as rules say it */
    public Verdict.Hit hit(String reason, List<Effect> effects) {
        Rule rule = new Rule(0, shown, true, List.of(), List.of(), effects, true);
        return new Verdict.Hit(rule, 0, List.of(reason), effects, List.of());
    }
}
