package app.schublade.core.place;

import org.jspecify.annotations.Nullable;

/**
 * A category by its identity and its present name; {@link FolderRef#NEW} for one that is still to be made.
 *
 * @param dueDays after how many days something must be done about a message that gets it; null if it does not flag
 */
public record CategoryRef(long id, String name, @Nullable Integer dueDays) {
    public CategoryRef(long id, String name) {
        this(id, name, null);
    }
}
