package app.schublade.core.place;

/** A category by its identity and its present name; {@link FolderRef#NEW} for one that is still to be made. */
public record CategoryRef(long id, String name) {}
