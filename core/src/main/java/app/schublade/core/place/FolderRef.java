package app.schublade.core.place;

/**
 * A folder by its identity and its present path.
 *
 * @param id {@link #NEW} for one that is still to be made
 */
public record FolderRef(long id, FolderPath path) {
    /** The id of a folder, label or category that does not exist yet. */
    public static final long NEW = -1;

    public static FolderRef unmade(String typed) {
        return new FolderRef(NEW, FolderPath.parse(typed));
    }
}
