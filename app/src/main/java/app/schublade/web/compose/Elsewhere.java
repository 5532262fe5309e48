package app.schublade.web.compose;

import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.Edition;
import app.schublade.web.frame.CurrentUser;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;

/** Tells a window what another one has done with the message that is written in both. */
@Component
class Elsewhere {
    private final OutgoingStore outgoing;

    Elsewhere(OutgoingStore outgoing) {
        this.outgoing = outgoing;
    }

    /** What became of it. */
    enum Fate {
        SAME,
        CHANGED,
        ON_ITS_WAY,
        GONE
    }

    /** What has become of it since a window showed it. */
    String told(CurrentUser person, long id, Edition known, Model model) {
        Fate fate = outgoing.byId(person.id(), id)
                .map(now -> !now.isOpen() ? Fate.ON_ITS_WAY : now.edition().isKnownTo(known) ? Fate.SAME : Fate.CHANGED)
                .orElse(Fate.GONE);
        return note(fate, model);
    }

    /** Nothing was done for a window that does not know what was written since. */
    String refused(CurrentUser person, long id, HttpServletResponse response, Model model) {
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        response.setHeader("HX-Reswap", "none");
        response.setHeader("HX-Push-Url", "false");
        Fate fate = outgoing.byId(person.id(), id)
                .map(now -> now.isOpen() ? Fate.CHANGED : Fate.ON_ITS_WAY)
                .orElse(Fate.GONE);
        return note(fate, model);
    }

    private static String note(Fate fate, Model model) {
        model.addAttribute("fate", fate.name());
        return "compose/page :: elsewhere";
    }
}
