package app.schublade.web.places;

import app.schublade.core.message.Amount;
import app.schublade.core.place.FolderPath;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Acts;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.RunNotice;
import app.schublade.work.LongActs;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** One folder's own page: its name, where it lies, and what goes when it is deleted. */
@Controller
@RequestMapping("/folders/{id}")
class FolderController {
    private final Acts acts;
    private final Frame frame;
    private final FolderStore folders;
    private final PlaceStore places;
    private final LongActs longActs;

    FolderController(Acts acts, Frame frame, FolderStore folders, PlaceStore places, LongActs longActs) {
        this.longActs = longActs;
        this.acts = acts;
        this.places = places;
        this.frame = frame;
        this.folders = folders;
    }

    private FolderStore.Portrait folder(CurrentUser person, long id) {
        return folders.portrait(person.id(), id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such folder."));
    }

    @GetMapping
    String page(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        model.addAttribute("view", frame.view(person, "/mail/folder/" + id, null));
        model.addAttribute("folder", folder(person, id));
        model.addAttribute("others", others(person, id));
        model.addAttribute("servers", folders.without(person.id(), id));
        return "places/folder";
    }

    @PostMapping
    String rename(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String path,
            RedirectAttributes redirect) {
        FolderPath wanted = FolderPath.parse(path);
        FolderStore.Portrait folder = folder(person, id);
        acts.record(
                person.id(),
                "Renamed the folder %s to %s".formatted(folder.path().shown(), wanted.shown()),
                () -> folders.rename(person.id(), folder, wanted));
        redirect.addFlashAttribute("notice", Notice.done("The folder is called %s now".formatted(wanted.shown())));
        return "redirect:/mail/folder/" + id;
    }

    /** On an account's server, before anything is filed into it. */
    @PostMapping("/servers")
    String make(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam long account,
            RedirectAttributes redirect) {
        FolderStore.MissingServer server = folders.makeOn(
                        person.id(), folder(person, id).id(), account)
                .orElseThrow(() -> new ResponseStatusException(
                        HttpStatus.NOT_FOUND, "It is on that server, or there is no such account."));
        redirect.addFlashAttribute("notice", Notice.told("It is being created on the server of " + server.name()));
        return "redirect:/folders/" + id;
    }

    /** The folders that it can be merged into. */
    private List<Places.Folder> others(CurrentUser person, long id) {
        Places all = places.of(person.id(), null);
        FolderPath path = all.folder(id).orElseThrow().path();
        return all.folderTree()
                .inOrder()
                .filter(other -> other.id() != id && !other.path().isBelow(path) && !path.isBelow(other.path()))
                .toList();
    }

    @PostMapping("/merge")
    String merge(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam long into,
            RedirectAttributes redirect) {
        FolderStore.Portrait folder = folder(person, id);
        FolderStore.Portrait other = folder(person, into);
        String title = "Merging %s into %s"
                .formatted(folder.path().shown(), other.path().shown());
        RunNotice.of(redirect, longActs.begin(person.id(), title, 0, watch -> {
            ActOutcome outcome = folders.merge(person.id(), folder, other);
            int changed = outcome.changed().size();
            return LongActs.ActEnding.done(
                    changed == 0
                            ? "They are now one folder"
                            : "%s: %s".formatted(outcome.title(), Amount.messages(changed)));
        }));
        return "redirect:/mail/folder/" + into;
    }

    @PostMapping("/delete")
    String delete(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        FolderStore.Portrait folder = folder(person, id);
        String title = "Deleting the folder %s".formatted(folder.path().shown());
        RunNotice.of(redirect, longActs.begin(person.id(), title, 0, watch -> {
            folders.delete(person.id(), folder);
            String told = "Deleted the folder %s".formatted(folder.path().shown());
            return LongActs.ActEnding.done(
                    folder.messages() == 0
                            ? told
                            : "%s; %s in the trash now".formatted(told, Amount.messages(folder.messages())));
        }));
        return "redirect:/mail/inbox";
    }
}
