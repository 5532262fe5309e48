package app.schublade.web.frame;

import app.schublade.store.work.UnfinishedActStore;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** How far something is that takes a while; asked again and again until it is done. */
@Controller
class ProgressController {
    private final ProgressAnswers progress;
    private final UnfinishedActStore unfinished;

    ProgressController(ProgressAnswers progress, UnfinishedActStore unfinished) {
        this.progress = progress;
        this.unfinished = unfinished;
    }

    @GetMapping("/act/{id}")
    String act(@AuthenticationPrincipal CurrentUser person, @PathVariable String id, ReturnTo standing, Model model) {
        return progress.of(person, id, standing, model);
    }

    /** The part that is being done is done to its end. */
    @PostMapping("/act/{batch}/stop")
    String stop(@AuthenticationPrincipal CurrentUser person, @PathVariable long batch, ReturnTo standing, Model model) {
        unfinished.stop(person.id(), batch);
        return progress.of(person, String.valueOf(batch), standing, model);
    }

    @GetMapping("/carried/{batch}")
    String carried(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long batch,
            @RequestParam int of,
            @RequestParam String title,
            @RequestParam(defaultValue = "true") boolean undoable,
            ReturnTo standing,
            Model model) {
        ProgressAnswers.OnServers act = new ProgressAnswers.OnServers(title, of, undoable);
        return progress.onServers(person, batch, act, standing, model);
    }
}
