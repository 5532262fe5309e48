package app.schublade.sync;

/**
 * How many messages of an account are asked for at once: fewer after a line that broke, more again after answers that came
 * whole. It outlives the connection, so that a bad line brings a few messages each time and not the same none.
 */
final class FetchPace {
    static final int MOST = 100;
    /** Three tries each for some messages. */
    private static final int MOST_BLAMED = 30;

    private final Runnable progressed;
    private int size = MOST;
    /** How many tries in a row have brought nothing. */
    private int notGiven;

    /** @param progressed called when something has been stored; perhaps from several threads */
    FetchPace(Runnable progressed) {
        this.progressed = progressed;
    }

    synchronized int size() {
        return size;
    }

    synchronized void wentWell() {
        size = Math.min(MOST, size * 2);
        notGiven = 0;
    }

    /** @param given how many of those that were asked for came before it broke */
    synchronized void broke(int given) {
        size = Math.max(1, Math.min(size / 2, Math.max(1, given)));
        notGiven = given > 0 ? 0 : notGiven;
    }

    /**
     * A single message was not given. That is progress too, as the next try knows it; but not if none is given at all: then
     * it is the server or the line, and no message.
     *
     * @return whether the message may be to blame
     */
    synchronized boolean blame() {
        if (++notGiven > MOST_BLAMED) {
            return false;
        }
        progressed.run();
        return true;
    }

    void stored() {
        progressed.run();
    }
}
