package app.schublade.web.desk;

import app.schublade.core.place.FolderPath;
import app.schublade.store.FolderStore;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.Person;
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
    private final Frame frame;
    private final FolderStore folders;

    FolderController(Frame frame, FolderStore folders) {
        this.frame = frame;
        this.folders = folders;
    }

    private FolderStore.Portrait folder(Person person, long id) {
        return folders.portrait(person.id(), id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such folder."));
    }

    @GetMapping
    String page(@AuthenticationPrincipal Person person, @PathVariable long id, Model model) {
        model.addAttribute("view", frame.view(person, "/mail/folder/" + id, null));
        model.addAttribute("folder", folder(person, id));
        return "desk/folder";
    }

    @PostMapping
    String rename(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            @RequestParam String path,
            RedirectAttributes redirect) {
        FolderPath wanted = FolderPath.parse(path);
        folders.rename(person.id(), folder(person, id), wanted);
        redirect.addFlashAttribute("notice", Notice.told("The folder is called %s now.".formatted(wanted.shown())));
        return "redirect:/mail/folder/" + id;
    }

    @PostMapping("/delete")
    String delete(@AuthenticationPrincipal Person person, @PathVariable long id, RedirectAttributes redirect) {
        FolderStore.Portrait folder = folder(person, id);
        folders.delete(person.id(), folder);
        String told = "Deleted the folder %s".formatted(folder.path().shown());
        redirect.addFlashAttribute(
                "notice",
                folder.messages() == 0
                        ? Notice.told(told + ".")
                        : Notice.done("%s; %,d messages are in the trash.".formatted(told, folder.messages())));
        return "redirect:/mail/inbox";
    }
}
