package app.schublade.web.rules;

import app.schublade.core.filing.BookRun;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.MessageStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.RunNotice;
import app.schublade.work.LongActs;
import app.schublade.work.Scan;
import app.schublade.work.Scans;
import java.time.Duration;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** All rules at once over the mail that is there: what each takes, where two want different folders; and carried out. */
@Controller
@RequestMapping("/rules/check")
class CheckController {
    private static final Duration PATIENCE = Duration.ofMillis(500);

    private final Frame frame;
    private final Trials trials;
    private final RuleRuns runs;
    private final MessageStore messages;
    private final Scans scans;

    CheckController(Frame frame, Trials trials, RuleRuns runs, MessageStore messages, Scans scans) {
        this.scans = scans;
        this.frame = frame;
        this.trials = trials;
        this.runs = runs;
        this.messages = messages;
    }

    /**
     * @param scan the id of the look that the page follows, or null
     * @param stop whether it is to end
     */
    record Wanted(
            @Nullable String over,
            @Nullable String overWords,
            @Nullable String scan,
            @Nullable String stop) {
        ChosenMail mail() {
            return new ChosenMail(over == null ? ChosenMail.RECEIVED : over, overWords == null ? "" : overWords);
        }
    }

    @GetMapping
    String page(
            @AuthenticationPrincipal CurrentUser person,
            Wanted wanted,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        Scan<?> scan = scans.find(person.id(), wanted.scan())
                .<Scan<?>>map(Function.identity())
                .orElseGet(() -> trials.check(person.id(), wanted.mail(), wanted.scan()));
        if (wanted.stop() != null) {
            scan.stop();
        }
        Object found = scan.await(PATIENCE).found();
        model.addAttribute("scan", scan);
        model.addAttribute("over", wanted.mail());
        model.addAttribute("everywhere", trials.folders(person.id()));
        model.addAttribute("run", found);
        model.addAttribute("subjects", found instanceof BookRun.Findings run ? subjects(person, run) : Map.of());
        if ("check".equals(target)) {
            return "rules/check :: check";
        }
        model.addAttribute("view", frame.view(person, "/rules", null));
        return "rules/check";
    }

    /** Of the examples, by id. */
    private Map<Long, String> subjects(CurrentUser person, BookRun.Findings run) {
        Map<Long, String> subjects = new HashMap<>();
        run.lines().stream()
                .flatMap(line -> line.conflicts().values().stream())
                .map(BookRun.Conflict::examples)
                .flatMap(Collection::stream)
                .forEach(id -> subjects.put(
                        id, messages.row(person.id(), id).map(ListRow::subject).orElse("")));
        return subjects;
    }

    @PostMapping
    String carryOut(@AuthenticationPrincipal CurrentUser person, Wanted wanted, RedirectAttributes redirect) {
        RunNotice.of(
                redirect,
                runs.carryOutAll(
                        person.id(),
                        wanted.mail(),
                        count -> count == 0
                                ? LongActs.ActEnding.told("Nothing to do.")
                                : LongActs.ActEnding.done(
                                        "%,d %s done".formatted(count, count == 1 ? "message" : "messages"))));
        return "redirect:/rules/check";
    }
}
