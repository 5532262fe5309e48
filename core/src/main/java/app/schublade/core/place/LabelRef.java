package app.schublade.core.place;

/** A label by its identity and its present path; {@link FolderRef#NEW} for one that is still to be made. */
public record LabelRef(long id, FolderPath path) {}
