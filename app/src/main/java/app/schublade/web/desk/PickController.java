package app.schublade.web.desk;

import app.schublade.core.filing.Routine;
import app.schublade.core.place.FolderFinder;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.AccountStore;
import app.schublade.store.message.MessageStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RoutineStore;
import app.schublade.store.rule.RuleOrderStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.reader.LikelyFolders;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Finds folders, labels and whatever one can go to by a few letters of their names. */
@Controller
class PickController {
    private static final int MOST = 8;
    private static final int LIKELY = 3;
    private static final String OPEN_MESSAGE = "message/\\d{1,18}";

    private final PlaceStore places;
    private final MessageStore messages;
    private final AccountStore accounts;
    private final RuleOrderStore rules;
    private final LikelyFolders likely;
    private final RoutineStore routines;

    PickController(
            PlaceStore places,
            MessageStore messages,
            AccountStore accounts,
            RuleOrderStore rules,
            LikelyFolders likely,
            RoutineStore routines) {
        this.routines = routines;
        this.likely = likely;
        this.messages = messages;
        this.accounts = accounts;
        this.rules = rules;
        this.places = places;
    }

    /**
     * @param kind {@code folder} to file into one, {@code copy} to copy into one
     * @param on the id of the open message; nothing typed yet, its likely folders and those of late come first
     */
    @GetMapping("/folders/pick")
    String pick(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(defaultValue = "") String letters,
            @RequestParam(defaultValue = "folder") String kind,
            @RequestParam(defaultValue = "") String on,
            Model model) {
        model.addAttribute("asked", asked(letters, on));
        model.addAttribute("kind", kind.equals("copy") ? "copy" : "folder");
        Places known = places.of(person.id(), null);
        List<Places.Folder> all = known.folders().stream()
                .filter(folder ->
                        folder.use() == null || folder.use() == SpecialUse.INBOX || folder.use() == SpecialUse.ARCHIVE)
                .toList();
        List<Places.Folder> found = FolderFinder.find(all, Places.Folder::path, letters, MOST);
        model.addAttribute("choices", letters.isBlank() ? likelyFirst(person, on, known, all, found) : found);
        model.addAttribute(
                "unmade",
                unmade(path -> all.stream().anyMatch(folder -> folder.path().compareTo(path) == 0), letters));
        return "desk/picker :: folders";
    }

    private List<Places.Folder> likelyFirst(
            CurrentUser person, String message, Places places, List<Places.Folder> all, List<Places.Folder> byName) {
        List<Long> ids = new ArrayList<>();
        if (message.matches("\\d{1,18}")) {
            messages.row(person.id(), Long.parseLong(message))
                    .ifPresent(row -> likely.folders(person.id(), row, places, LIKELY)
                            .forEach(one -> ids.add(one.folder().id())));
        }
        ids.addAll(this.places.filedIntoLast(person.id(), MOST));
        Map<Long, Places.Folder> open = all.stream().collect(Collectors.toMap(Places.Folder::id, one -> one));
        return Stream.concat(ids.stream().map(open::get).filter(Objects::nonNull), byName.stream())
                .distinct()
                .limit(MOST)
                .toList();
    }

    /**
     * @param on ids of the labels that the selected messages have, with spaces between them, and {@code message/} with the id
     *     of the open one: nothing typed yet, what it is likely to get comes first
     */
    @GetMapping("/labels/pick")
    String labels(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(defaultValue = "") String letters,
            @RequestParam(defaultValue = "") String on,
            Model model) {
        model.addAttribute("asked", asked(letters, on));
        Places known = places.of(person.id(), null);
        List<Places.Label> all = known.labelTree().inOrder().toList();
        Set<Long> has = Arrays.stream(on.split(" "))
                .filter(id -> id.matches("\\d{1,18}"))
                .map(Long::valueOf)
                .collect(Collectors.toSet());
        List<Places.Label> found = FolderFinder.find(all, Places.Label::path, letters, MOST);
        model.addAttribute("choices", letters.isBlank() ? likelyLabelsFirst(person, on, known, found) : found);
        model.addAttribute("on", has);
        model.addAttribute("unmade", unmade(path -> known.label(path).isPresent(), letters));
        return "desk/picker :: labels";
    }

    private List<Places.Label> likelyLabelsFirst(
            CurrentUser person, String on, Places known, List<Places.Label> byName) {
        Stream<Places.Label> first = Arrays.stream(on.split(" ", -1))
                .filter(one -> one.matches(OPEN_MESSAGE))
                .map(one -> Long.parseLong(one.substring(one.indexOf('/') + 1)))
                .flatMap(message -> likely.labels(person.id(), message, known, LIKELY).stream())
                .flatMap(id -> known.label(id).stream());
        return Stream.concat(first, byName.stream()).distinct().limit(MOST).toList();
    }

    /** Routines, in their order or by a few letters of their names. */
    @GetMapping("/routines/pick")
    String routines(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(defaultValue = "") String letters,
            @RequestParam(defaultValue = "") String on,
            Model model) {
        model.addAttribute("asked", asked(letters, on));
        List<Routine> all = routines.of(person.id());
        model.addAttribute(
                "choices",
                letters.isBlank()
                        ? all.stream().limit(MOST).toList()
                        : FolderFinder.find(all, one -> FolderPath.of(List.of(one.name())), letters, MOST));
        return "desk/picker :: routines";
    }

    /** A place that one can go to. */
    public record Goal(String name, String kind, String address) {}

    @GetMapping("/places/pick")
    String places(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(defaultValue = "") String letters,
            @RequestParam(defaultValue = "") String on,
            Model model) {
        model.addAttribute("asked", asked(letters, on));
        Places known = places.of(person.id(), null);
        List<Goal> goals = new ArrayList<>();
        known.folders()
                .forEach(folder -> goals.add(new Goal(
                        folder.path().shown(),
                        "folder",
                        folder.use() == SpecialUse.INBOX ? "/mail/inbox" : "/mail/folder/" + folder.id())));
        known.labels()
                .forEach(label -> goals.add(new Goal(label.path().shown(), "label", "/mail/label/" + label.id())));
        known.flags().forEach(flag -> goals.add(new Goal(flag.name(), "flag", "/mail/flag/" + flag.id())));
        known.trays().forEach(tray -> goals.add(new Goal(tray.name(), "tray", "/mail/tray/" + tray.id())));
        if (!letters.isBlank()) {
            accounts.of(person.id())
                    .forEach(account -> goals.add(new Goal(account.name(), "account", "/accounts/" + account.id())));
            rules.names(person.id()).forEach((id, name) -> goals.add(new Goal(name, "rule", "/rules/" + id)));
        }
        model.addAttribute("choices", FolderFinder.find(goals, PickController::path, letters, MOST));
        return "desk/picker :: places";
    }

    private static FolderPath path(Goal goal) {
        boolean nests = goal.kind().equals("folder") || goal.kind().equals("label");
        return nests ? FolderPath.parse(goal.name()) : FolderPath.of(List.of(goal.name()));
    }

    /** What choices are an answer to, as the page compares it with what stands in its fields by then. */
    private static String asked(String letters, String on) {
        return letters + "|" + on;
    }

    /** What was typed as something that could be made; null if it is there already or cannot be. */
    private static @Nullable FolderPath unmade(Predicate<FolderPath> isThere, String letters) {
        if (letters.isBlank()) {
            return null;
        }
        try {
            FolderPath path = FolderPath.parse(letters);
            return isThere.test(path) ? null : path;
        } catch (InputProblem e) {
            return null;
        }
    }
}
