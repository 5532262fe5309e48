package app.schublade.web.frame;

/** How far something is that takes a while, as the strip shows it. */
public interface Progress {
    String title();

    int done();

    int total();

    /** Where to ask again. */
    String address();
}
