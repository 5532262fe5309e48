package app.schublade.web.frame;

import app.schublade.work.LongActs;
import java.time.Duration;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** What the next page says of something that may take long: what it did, or how far it is. */
public final class RunNotice {
    private static final Duration PATIENCE = Duration.ofMillis(1500);

    private RunNotice() {}

    public static void of(RedirectAttributes redirect, LongActs.LongAct run) {
        LongActs.ActEnding said = run.await(PATIENCE).said();
        if (said == null) {
            redirect.addFlashAttribute("act", Progress.address(run));
        } else {
            redirect.addFlashAttribute("notice", Notice.of(said));
        }
    }
}
