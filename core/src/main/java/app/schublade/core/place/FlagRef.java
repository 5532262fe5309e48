package app.schublade.core.place;

/** A flag of the user's own by its identity and its present name. */
public record FlagRef(long id, String name) {}
