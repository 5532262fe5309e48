package app.schublade.web.triage;

import app.schublade.core.filing.BuiltIn;
import app.schublade.core.query.Query;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.ListStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RulePauses;
import app.schublade.store.triage.AwaitingStore;
import app.schublade.store.triage.AwaitingStore.Awaited;
import app.schublade.store.triage.DayStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;

/** One page that tells what happened by itself, and what is open. */
@Controller
class DayController {
    /** So many messages are named of each kind; the rest is a figure. */
    private static final int MOST = 20;
    /** Whoever has never said that all was seen is told of so much. */
    private static final Duration AT_FIRST = Duration.ofDays(1);

    private final DayStore day;
    private final AwaitingStore awaiting;
    private final ListStore lists;
    private final RulePauses pauses;
    private final Proposals proposals;
    private final Frame frame;
    private final Dates dates;

    DayController(
            DayStore day,
            AwaitingStore awaiting,
            ListStore lists,
            RulePauses pauses,
            Proposals proposals,
            Frame frame,
            Dates dates) {
        this.day = day;
        this.awaiting = awaiting;
        this.lists = lists;
        this.pauses = pauses;
        this.proposals = proposals;
        this.frame = frame;
        this.dates = dates;
    }

    /** A folder and its name, as a line names it. */
    public record FolderLine(String name, long folder, int messages, int unread) {}

    /** What a rule did, as a line tells it. */
    public record RuleLine(String rule, @Nullable Long id, String did, int messages) {
        /** Whether no rule of the user's did it. */
        public boolean isBuiltIn() {
            return id == null && BuiltIn.isName(rule);
        }
    }

    @GetMapping("/today")
    String today(@AuthenticationPrincipal CurrentUser person, Model model) {
        long user = person.id();
        Instant since = day.seen(user).orElseGet(() -> now().minus(AT_FIRST));
        Frame.View view = frame.view(person, "/today", null);
        Places known = view.places();
        List<ListRow> due = lists
                .page(user, ListStore.Ranks.NONE, ListQuery.newest(new Query.DueOn(null, dates.today()), MOST + 1))
                .stream()
                .map(ListStore.ListLine::row)
                .toList();
        List<Awaited> open =
                awaiting.of(user).stream().filter(one -> one.isOverdue(now())).toList();
        model.addAttribute("view", view);
        model.addAttribute("since", since);
        model.addAttribute("due", due.stream().limit(MOST).toList());
        model.addAttribute("moreDue", due.size() > MOST);
        model.addAttribute("open", open.stream().limit(MOST).toList());
        model.addAttribute("paused", pauses.paused(user));
        model.addAttribute("proposals", proposals.of(user));
        model.addAttribute(
                "filed",
                day.filed(user, since).stream()
                        .map(one -> new RuleLine(one.name(), one.rule(), filed(known, one.folder()), one.messages()))
                        .toList());
        model.addAttribute(
                "arrived",
                day.arrived(user, since).stream()
                        .map(one -> new FolderLine(
                                known.folderOf(one.folder()).path().shown(),
                                one.folder(),
                                one.messages(),
                                one.unread()))
                        .toList());
        return "triage/today";
    }

    private static String filed(Places known, @Nullable Long folder) {
        return folder == null
                ? "marked"
                : known.folder(folder)
                        .map(one -> "filed into " + one.path().shown())
                        .orElse("filed into a folder that is gone");
    }

    private Instant now() {
        return dates.now();
    }

    /** All of it was seen: the sheet begins anew. */
    @PostMapping("/today/seen")
    String seen(@AuthenticationPrincipal CurrentUser person) {
        day.see(person.id(), now());
        return "redirect:/today";
    }
}
