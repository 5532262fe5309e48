package app.schublade.store.base;

/** Why Schublade does not start, and what to do: for whoever runs it. */
public final class StartProblem extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final String wayOut;

    public StartProblem(String what, String wayOut) {
        super(what);
        this.wayOut = wayOut;
    }

    /** What to do. */
    public String wayOut() {
        return wayOut;
    }
}
