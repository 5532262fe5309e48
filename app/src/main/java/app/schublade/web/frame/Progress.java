package app.schublade.web.frame;

import app.schublade.work.LongActs;
import org.jspecify.annotations.Nullable;

/**
 * How far something is that takes a while, as the strip shows it.
 *
 * @param total 0 if it is not known how much there is to do
 * @param address where to ask again
 * @param stoppedAt where to stop it; null if it cannot be stopped
 */
public record Progress(
        String title,
        int done,
        int total,
        String address,
        @Nullable String stoppedAt) {
    static Progress of(LongActs.LongAct act) {
        return new Progress(act.title(), act.done(), act.total(), address(act), stop(act.id()));
    }

    static String address(LongActs.LongAct act) {
        return "/act/" + act.id();
    }

    /** Only acts that are known to all processes can be stopped. */
    static @Nullable String stop(String id) {
        return id.matches("\\d{1,18}") ? "/act/" + id + "/stop" : null;
    }
}
