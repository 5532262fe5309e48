package app.schublade.web.triage;

import app.schublade.core.filing.Effect;
import app.schublade.core.message.Amount;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import app.schublade.store.filing.EffectRunner;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.triage.TidyStore;
import app.schublade.store.triage.TidyStore.TidyHabit;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import java.time.DayOfWeek;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The page on which what is done with leaves the Inbox, heap by heap or all of it. */
@Controller
class TidyController {
    /** So many messages are heaped up at once. */
    static final int MOST = 2000;

    private static final int LONGEST = 3650;
    private static final List<Integer> AGES = List.of(0, 7, 14, 30, 90, 365);

    private final TidyStore tidy;
    private final TidyHeaps heaps;
    private final PlaceStore places;
    private final EffectRunner effects;
    private final Acts acts;
    private final Frame frame;
    private final Dates dates;

    TidyController(
            TidyStore tidy,
            TidyHeaps heaps,
            PlaceStore places,
            EffectRunner effects,
            Acts acts,
            Frame frame,
            Dates dates) {
        this.tidy = tidy;
        this.heaps = heaps;
        this.places = places;
        this.effects = effects;
        this.acts = acts;
        this.frame = frame;
        this.dates = dates;
    }

    /** Heaping up thousands takes a moment: the page is there before. */
    @GetMapping("/tidy")
    String page(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("view", frame.view(person, "/tidy", null));
        model.addAttribute("habit", tidy.habit(person.id()));
        model.addAttribute("ages", AGES);
        model.addAttribute("days", DayOfWeek.values());
        return "triage/tidy";
    }

    @GetMapping("/tidy/heaps")
    String heaps(@AuthenticationPrincipal CurrentUser person, Model model) {
        Instant before = before(person);
        model.addAttribute("heaps", heaps.of(person.id(), tidy.newest(person.id(), before, MOST)));
        model.addAttribute("count", tidy.count(person.id(), before));
        model.addAttribute("most", MOST);
        model.addAttribute(
                "folders",
                places.of(person.id(), null).folders().stream()
                        .filter(Places.Folder::isForFiling)
                        .map(Places.Folder::path)
                        .sorted()
                        .toList());
        return "triage/tidy :: heaps";
    }

    private Instant before(CurrentUser person) {
        return tidy.habit(person.id()).before(dates.now());
    }

    /** What is to be filed where. */
    private record Filing(FolderPath folder, List<Long> messages) {}

    /**
     * Files heaps, as one act. What was flagged, filed or answered in another window since the page came stays as it is.
     *
     * @param fields for each heap its messages ({@code heap}) and where they go ({@code into}); those that are to stay ({@code
     *     stays}); the number of the one heap that is meant ({@code only}), if it is not all of them
     */
    @PostMapping("/tidy")
    String tidyUp(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam MultiValueMap<String, String> fields,
            RedirectAttributes redirect) {
        List<Filing> wanted = wanted(fields);
        Instant before = before(person);
        int moved = acts.record(person.id(), act -> {
            int all = 0;
            String last = "";
            for (Filing one : wanted) {
                List<Long> messages = tidy.still(person.id(), before, one.messages());
                if (messages.isEmpty()) {
                    continue;
                }
                FolderRef folder = places.folder(person.id(), one.folder());
                last = "Filed into " + folder.path().shown();
                all += effects.carryOut(
                                person.id(), Cause.HAND, last, messages, List.of(new Effect.FileInto(folder)), 0)
                        .changed()
                        .size();
            }
            act.called((wanted.size() == 1 ? last : "Tidied up") + ": " + Amount.messages(all));
            return all;
        });
        String told =
                wanted.size() == 1 ? "Filed into " + wanted.get(0).folder().shown() : "Tidied up";
        redirect.addFlashAttribute(
                "notice",
                moved == 0
                        ? Notice.told("Nothing was moved: all of it stays, or was dealt with elsewhere meanwhile.")
                        : Notice.done(told + ": " + Amount.messages(moved)));
        return "redirect:/tidy";
    }

    private static List<Filing> wanted(MultiValueMap<String, String> fields) {
        List<String> all = fields.getOrDefault("heap", List.of());
        List<String> into = fields.getOrDefault("into", List.of());
        String only = fields.getFirst("only");
        Set<Long> staying = new HashSet<>(numbers(String.join(",", fields.getOrDefault("stays", List.of()))));
        List<Filing> wanted = new ArrayList<>();
        for (int i = 0; i < Math.min(all.size(), into.size()); i++) {
            if (only == null || only.equals(String.valueOf(i))) {
                List<Long> messages = numbers(all.get(i)).stream()
                        .filter(id -> !staying.contains(id))
                        .limit(MOST)
                        .toList();
                wanted.add(new Filing(FolderPath.parse(into.get(i)), messages));
            }
        }
        return wanted;
    }

    /** @throws InputProblem if it is none */
    private static List<Long> numbers(String typed) {
        try {
            return Stream.of(typed.split(",", -1))
                    .filter(one -> !one.isBlank())
                    .map(Long::valueOf)
                    .toList();
        } catch (NumberFormatException e) {
            throw new InputProblem("The page is not as it was sent. Load it again.", e);
        }
    }

    @PostMapping("/tidy/habit")
    String keep(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam int after,
            @RequestParam(required = false) @Nullable DayOfWeek day) {
        if (after < 0 || after > LONGEST) {
            throw new InputProblem("Between 0 and %,d days.".formatted(LONGEST));
        }
        tidy.keep(person.id(), new TidyHabit(day, after));
        return "redirect:/tidy";
    }
}
