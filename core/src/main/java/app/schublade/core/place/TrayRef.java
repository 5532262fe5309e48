package app.schublade.core.place;

/** A tray by its identity and its present name. */
public record TrayRef(long id, String name) {}
