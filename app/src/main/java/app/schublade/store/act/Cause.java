package app.schublade.store.act;

/** Who or what acted. */
public enum Cause {
    /** The user, by key, pointer or drag. */
    HAND,
    /** The user, by looking at it: no act that one would want to take back. */
    GLANCE,
    /** A rule, as mail arrived. */
    ARRIVAL,
    /** A rule that the user ran over mail that was there. */
    RUN,
    /** The tickler, on the day. */
    TICKLER,
    /** The user, who deleted for good or left a mailing list: nothing takes that back. */
    FOR_GOOD
}
