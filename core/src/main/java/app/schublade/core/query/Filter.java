package app.schublade.core.query;

import app.schublade.core.filing.Marked;
import app.schublade.core.filing.Traits;
import app.schublade.core.message.Trait;
import java.util.List;

/** What a list can be narrowed to by one press; several together narrow it further. */
public enum Filter {
    UNREAD("unread", "Unread"),
    FLAGGED("flagged", "Flagged"),
    FILES("with files", "Has files"),
    TO_ME("addressed to me", "To me"),
    KEY_PEOPLE("from key people", "Key people");

    private final String words;
    private final String shown;

    Filter(String words, String shown) {
        this.words = words;
        this.shown = shown;
    }

    /** As the end of "Nothing here is …". */
    public String words() {
        return words;
    }

    public String shown() {
        return shown;
    }

    /** What it leaves in a list. */
    public Query query() {
        return switch (this) {
            case UNREAD -> new Query.Unread();
            case FLAGGED -> new Query.Meets(new Marked(List.of(), List.of(), true));
            case FILES -> is(Trait.ATTACHMENT);
            case TO_ME -> is(Trait.TO_ME);
            case KEY_PEOPLE -> is(Trait.KEY_PERSON);
        };
    }

    private static Query is(Trait trait) {
        return new Query.Meets(new Traits(List.of(trait)));
    }
}
