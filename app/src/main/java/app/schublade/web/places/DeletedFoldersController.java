package app.schublade.web.places;

import app.schublade.core.place.SpecialUse;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.cabinet.DeletedFolderStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Folders that were deleted, to be had out of the trash again. */
@Controller
class DeletedFoldersController {
    private static final String HERE = "/folders/deleted";

    private final Frame frame;
    private final DeletedFolderStore folders;

    DeletedFoldersController(Frame frame, DeletedFolderStore folders) {
        this.frame = frame;
        this.folders = folders;
    }

    @GetMapping(HERE)
    String page(@AuthenticationPrincipal CurrentUser person, Model model) {
        Frame.View view = frame.view(person, HERE, null);
        model.addAttribute("view", view);
        model.addAttribute("deleted", folders.deleted(person.id()));
        model.addAttribute("trash", view.places().special(SpecialUse.TRASH).id());
        return "places/deleted";
    }

    @PostMapping(HERE + "/{id}")
    String putBack(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        ActOutcome outcome = folders.restore(person.id(), id);
        int messages = outcome.changed().size();
        String told = "The folder is back, with %,d %s.".formatted(messages, messages == 1 ? "message" : "messages");
        return PlacePages.told(redirect, told, "/mail/folder/" + id);
    }
}
