package app.schublade.web.places;

import app.schublade.core.filing.Effect;
import app.schublade.core.message.Amount;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.Habits;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.cabinet.FolderStore.FolderTrait;
import app.schublade.store.cabinet.LabelStore;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.user.HabitStore;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.Choice;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.ReturnTo;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** What is done to folders and labels in the cabinet itself: by their menus, and by drag. */
@Controller
class CabinetController {
    private final Acts acts;
    private final PlaceStore places;
    private final FolderStore folders;
    private final LabelStore labels;
    private final FilingStore filing;
    private final HabitStore habits;
    private final Answers answers;

    CabinetController(
            Acts acts,
            PlaceStore places,
            FolderStore folders,
            LabelStore labels,
            FilingStore filing,
            HabitStore habits,
            Answers answers) {
        this.acts = acts;
        this.places = places;
        this.folders = folders;
        this.labels = labels;
        this.filing = filing;
        this.habits = habits;
        this.answers = answers;
    }

    private Places.Folder folder(CurrentUser person, long id) {
        return places.of(person.id(), null).folder(id).orElseThrow(CabinetController::gone);
    }

    private Places.Label label(CurrentUser person, long id) {
        return places.of(person.id(), null).label(id).orElseThrow(CabinetController::gone);
    }

    private static ResponseStatusException gone() {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such place.");
    }

    @GetMapping("/folders/{id}/menu")
    String folderMenu(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        model.addAttribute("folder", folder(person, id));
        model.addAttribute("habits", habits.of(person.id()));
        return "places/menus :: ofFolder";
    }

    @GetMapping("/labels/{id}/menu")
    String labelMenu(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        model.addAttribute("label", label(person, id));
        model.addAttribute("tones", Tone.values());
        return "places/menus :: ofLabel";
    }

    /** All of a folder, not of those in it: marked as read, or thrown away. */
    @PostMapping("/folders/{id}/all/{deed}")
    String all(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @PathVariable String deed,
            ReturnTo standing,
            Model model) {
        Places.Folder folder = folder(person, id);
        boolean empties = deed.equals("empty");
        if (!empties && !deed.equals("read")) {
            throw gone();
        }
        FolderRef trash = places.shared(person.id(), SpecialUse.TRASH);
        if (empties && folder.id() == trash.id()) {
            throw new InputProblem("What is in the trash is deleted for good by “Empty the trash”.");
        }
        Effect effect = empties ? new Effect.FileInto(trash) : new Effect.MarkRead(true);
        String told = (empties ? "Emptied " : "Marked as read: all of ")
                + folder.path().shown();
        ActOutcome outcome =
                filing.act(person.id(), Cause.HAND, told, folders.messages(person.id(), id, false), effect::on);
        Notice notice = outcome.changed().isEmpty()
                ? Notice.told("No change: that is how it is already.")
                : Notice.done("%s, %s"
                        .formatted(told, Amount.messages(outcome.changed().size())));
        return answers.told(person, standing, notice, model);
    }

    @PostMapping("/folders/{id}/turn/{trait}")
    String turn(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @PathVariable String trait,
            @RequestParam boolean on,
            ReturnTo standing,
            Model model) {
        FolderTrait turned = Choice.of(FolderTrait.class, trait);
        if (turned == FolderTrait.FOLDED) { // A look, no act.
            folders.turn(person.id(), id, turned, on);
        } else {
            String told = (turned == FolderTrait.PINNED ? (on ? "Pinned " : "Unpinned ") : (on ? "Hid " : "Showed "));
            acts.record(
                    person.id(),
                    told + "the folder " + folder(person, id).path().shown(),
                    () -> folders.turn(person.id(), id, turned, on));
        }
        return answers.told(person, standing, null, model);
    }

    /** Puts a folder beside another, or into it. */
    @PostMapping("/folders/{id}/put")
    String put(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam long other,
            @RequestParam String where,
            ReturnTo standing,
            Model model) {
        DropPosition there = DropPosition.of(where);
        Places.Folder moved = folder(person, id);
        Places.Folder beside = folder(person, other);
        FolderPath path = there.path(moved.path(), beside.path());
        if (moved.use() != null || beside.use() != null) {
            throw new InputProblem("The folders that every account has stay where they are.");
        }
        boolean stays = path.equals(moved.path());
        String told = stays
                ? "Moved the folder %s among the others".formatted(path.shown())
                : "%s is %s now".formatted(moved.path().shown(), path.shown());
        acts.record(person.id(), told, () -> {
            if (!stays) {
                folders.rename(
                        person.id(), folders.portrait(person.id(), id).orElseThrow(CabinetController::gone), path);
            }
            Places now = places.of(person.id(), null);
            folders.arrange(person.id(), there.order(now.folderTree(), Places.Folder::id, moved, beside));
        });
        Notice notice = stays ? null : Notice.done(told);
        return answers.told(person, standing, notice, model);
    }

    @PostMapping("/labels/{id}/put")
    String putLabel(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam long other,
            @RequestParam String where,
            ReturnTo standing,
            Model model) {
        DropPosition there = DropPosition.of(where);
        Places.Label moved = label(person, id);
        Places.Label beside = label(person, other);
        FolderPath path = there.path(moved.path(), beside.path());
        acts.record(person.id(), "Moved the label " + moved.path().shown(), () -> {
            if (!path.equals(moved.path())) {
                labels.rename(person.id(), moved, path);
            }
            Places now = places.of(person.id(), null);
            labels.arrange(person.id(), there.order(now.labelTree(), Places.Label::id, moved, beside));
        });
        return answers.told(person, standing, null, model);
    }

    @PostMapping("/labels/{id}/hide")
    String hideLabel(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam boolean on,
            ReturnTo standing,
            Model model) {
        acts.record(
                person.id(),
                (on ? "Hid the label " : "Showed the label ")
                        + label(person, id).path().shown(),
                () -> labels.hide(person.id(), id, on));
        return answers.told(person, standing, null, model);
    }

    @PostMapping("/cabinet/by-name")
    String byName(@AuthenticationPrincipal CurrentUser person, ReturnTo standing, Model model) {
        acts.record(person.id(), "Sorted the folders from A to Z", () -> folders.sortByName(person.id()));
        return answers.told(person, standing, Notice.done("Folders are sorted from A to Z again"), model);
    }

    @PostMapping("/cabinet/unread-only")
    String unreadOnly(
            @AuthenticationPrincipal CurrentUser person, @RequestParam boolean on, ReturnTo standing, Model model) {
        Habits now = habits.of(person.id());
        habits.keep(person.id(), now.unreadOnly(on));
        return answers.told(person, standing, null, model);
    }

    @PostMapping("/cabinet/hidden-too")
    String hiddenToo(
            @AuthenticationPrincipal CurrentUser person, @RequestParam boolean on, ReturnTo standing, Model model) {
        Habits now = habits.of(person.id());
        habits.keep(person.id(), now.hiddenToo(on));
        return answers.told(person, standing, null, model);
    }

    /** A folder in another one. */
    @PostMapping("/folders/{id}/within")
    String makeFolderWithin(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String name,
            ReturnTo standing,
            Model model) {
        return makeFolder(person, folder(person, id).path().child(PlacePages.name(name, "folder")), standing, model);
    }

    @PostMapping("/folders")
    String makeFolder(
            @AuthenticationPrincipal CurrentUser person, @RequestParam String path, ReturnTo standing, Model model) {
        return makeFolder(person, FolderPath.parse(path), standing, model);
    }

    private String makeFolder(CurrentUser person, FolderPath wanted, ReturnTo standing, Model model) {
        Optional<Places.Folder> known = places.of(person.id(), null).folder(wanted);
        if (known.isPresent()) {
            String shown = known.get().path().shown();
            return answers.told(person, standing, Notice.told("There is a folder %s already.".formatted(shown)), model);
        }
        String told = "Created the folder %s".formatted(wanted.shown());
        acts.record(person.id(), told, () -> places.folder(person.id(), wanted));
        return answers.told(person, standing, Notice.done(told), model);
    }

    /** A label in another one. */
    @PostMapping("/labels/{id}/within")
    String makeLabelWithin(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String name,
            ReturnTo standing,
            Model model) {
        FolderPath wanted = label(person, id).path().child(PlacePages.name(name, "label"));
        if (places.of(person.id(), null).labels().stream()
                .anyMatch(one -> one.path().equals(wanted))) {
            String shown = wanted.shown();
            return answers.told(person, standing, Notice.told("There is a label %s already.".formatted(shown)), model);
        }
        String told = "Created the label %s".formatted(wanted.shown());
        acts.record(person.id(), told, () -> places.label(person.id(), wanted));
        return answers.told(person, standing, Notice.done(told), model);
    }

    @PostMapping("/labels/{id}/tone/{tone}")
    String recolour(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @PathVariable Tone tone,
            ReturnTo standing,
            Model model) {
        String told =
                "Recoloured the label %s".formatted(label(person, id).path().shown());
        acts.record(person.id(), told, () -> labels.recolour(person.id(), id, tone, null, false));
        return answers.told(person, standing, Notice.done(told), model);
    }
}
