package app.schublade.store.act;

/** An act was taken back while it was still going on: no part more of it is done. */
public final class TakenBack extends RuntimeException {
    private static final long serialVersionUID = 1L;

    public TakenBack() {
        super("The act was taken back while it was going on.", null, false, false);
    }
}
