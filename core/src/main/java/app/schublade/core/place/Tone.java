package app.schublade.core.place;

/** The colours that accounts, labels and categories can have; each is a custom property of the style sheet. */
public enum Tone {
    PETROL,
    PLUM,
    AMBER,
    SLATE,
    BRICK,
    MOSS,
    OCEAN,
    ROSE,
    OLIVE,
    UMBER;

    /** A tone for the n-th thing of a kind, going round when all are used. */
    public static Tone nth(int n) {
        return values()[Math.floorMod(n, values().length)];
    }

    public String css() {
        return "tone-" + name().toLowerCase(java.util.Locale.ROOT);
    }
}
