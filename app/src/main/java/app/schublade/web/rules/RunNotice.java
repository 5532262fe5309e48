package app.schublade.web.rules;

import app.schublade.web.frame.LongActs;
import app.schublade.web.frame.Notice;
import java.time.Duration;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** What the next page says of a run: what it did, or how far it is. */
final class RunNotice {
    private static final Duration PATIENCE = Duration.ofMillis(1500);

    private RunNotice() {}

    static void of(RedirectAttributes redirect, LongActs.LongAct run) {
        Notice said = run.await(PATIENCE).said();
        if (said == null) {
            redirect.addFlashAttribute("act", run.address());
        } else {
            redirect.addFlashAttribute("notice", said);
        }
    }
}
