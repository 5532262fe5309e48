package app.schublade.web.find;

import app.schublade.core.query.Search;
import app.schublade.store.act.Acts;
import app.schublade.store.find.SavedSearchStore;
import app.schublade.store.find.SavedSearchStore.SavedSearch;
import app.schublade.store.find.SearchWorlds;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.ReturnTo;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Searches that are kept under a name. */
@Controller
class SavedSearchController {
    private final SavedSearchStore searches;
    private final SearchWorlds worlds;
    private final Acts acts;
    private final Answers answers;

    SavedSearchController(SavedSearchStore searches, SearchWorlds worlds, Acts acts, Answers answers) {
        this.searches = searches;
        this.worlds = worlds;
        this.acts = acts;
        this.answers = answers;
    }

    private SavedSearch search(CurrentUser person, long id) {
        return searches.of(person.id(), id)
                .orElseThrow(() -> new ResponseStatusException(
                        HttpStatus.NOT_FOUND, "This search has been deleted. Undo (Z) brings it back."));
    }

    @PostMapping("/searches")
    String save(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String name,
            @RequestParam String words,
            RedirectAttributes redirect) {
        Search search = worlds.read(person.id(), words);
        long[] saved = new long[1];
        acts.record(person.id(), "Saved the search " + name.strip(), () -> {
            saved[0] = searches.add(person.id(), name, search);
        });
        redirect.addFlashAttribute(
                "notice", Notice.done("Saved as “%s”; it stands in the cabinet".formatted(name.strip())));
        return "redirect:/mail/search/" + saved[0];
    }

    @PostMapping("/searches/{id}")
    String change(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String name,
            @RequestParam String words,
            @RequestParam(defaultValue = "false") boolean ifUnread,
            RedirectAttributes redirect) {
        SavedSearch before = search(person, id);
        Search search = worlds.read(person.id(), words);
        boolean same = words.strip().equals(before.words());
        SavedSearch after = new SavedSearch(
                id,
                name,
                same ? before.words() : search.typed(),
                same ? before.places() : search.references(),
                ifUnread);
        acts.record(person.id(), "Changed the search " + before.name(), () -> searches.change(person.id(), after));
        redirect.addFlashAttribute("notice", Notice.done("Saved “%s”".formatted(name.strip())));
        return "redirect:/mail/search/" + id;
    }

    @PostMapping("/searches/{id}/remove")
    String remove(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        SavedSearch gone = search(person, id);
        acts.record(person.id(), "Deleted the search " + gone.name(), () -> searches.remove(person.id(), id));
        redirect.addFlashAttribute("notice", Notice.done("Deleted the search “%s”".formatted(gone.name())));
        return "redirect:/mail/inbox";
    }

    /**
     * @param other the number of the search beside which it is put; without one it goes to the end
     * @param where {@code before} it, or {@code after}
     */
    @PostMapping("/searches/{id}/put")
    String put(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam(defaultValue = "0") long other,
            @RequestParam(defaultValue = "before") String where,
            ReturnTo standing,
            Model model) {
        SavedSearch moved = search(person, id);
        acts.record(
                person.id(),
                "Moved the search " + moved.name(),
                () -> searches.move(person.id(), id, other, where.equals("after")));
        return answers.told(person, standing, Notice.done("Moved the search “%s”".formatted(moved.name())), model);
    }

    @PostMapping("/searches/recent/forget")
    String forget(@AuthenticationPrincipal CurrentUser person, ReturnTo standing, Model model) {
        searches.forgetRecent(person.id());
        return answers.told(person, standing, Notice.told("Recent searches are forgotten."), model);
    }
}
