package app.schublade.web.compose;

import app.schublade.core.filing.Routine;
import app.schublade.core.format.OutgoingMessage.AttachedFile;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.Acts;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.OutgoingStore.OutgoingState;
import app.schublade.store.rule.RoutineStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeParseException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** A message is written on a page of its own, kept as it is typed, sent, and taken back in time. */
@Controller
class ComposeController {
    /** An address of the desk. */
    private static final String LIST = "/mail/[\\w/]{1,60}(\\?[\\w=&%.@+~:,-]{0,2000})?";

    /** Whoever awaits an answer until a day is told when it ends. */
    private static final LocalTime AWAITED_FROM = LocalTime.of(17, 0);

    private static final String ASKED_AGAIN =
            "May I ask again? I have not had an answer to this yet, and would be glad to hear from you.\n";

    private final Acts acts;
    private final Frame frame;
    private final OutgoingStore outgoing;
    private final OutgoingFileStore files;
    private final Writing writing;
    private final Dates dates;
    private final RoutineStore routines;

    ComposeController(
            Acts acts,
            Frame frame,
            OutgoingStore outgoing,
            OutgoingFileStore files,
            Writing writing,
            Dates dates,
            RoutineStore routines) {
        this.routines = routines;
        this.dates = dates;
        this.files = files;
        this.acts = acts;
        this.frame = frame;
        this.outgoing = outgoing;
        this.writing = writing;
    }

    @PostMapping("/write")
    String write(@AuthenticationPrincipal CurrentUser person) {
        return "redirect:/write/" + writing.begin(person);
    }

    @PostMapping("/answer/{message}")
    String answer(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long message,
            @RequestParam(defaultValue = "false") boolean all,
            @RequestParam(defaultValue = "false") boolean again) {
        String beginning = again ? ASKED_AGAIN : "";
        long id = writing.answer(person, message, all, beginning).orElseThrow(ComposeController::gone);
        return "redirect:/write/" + id;
    }

    /** The answer that a routine begins, with its text. */
    @PostMapping("/answer")
    String answer(@AuthenticationPrincipal CurrentUser person, @RequestParam long message, @RequestParam long routine) {
        String text = routines.of(person.id(), routine).map(Routine::answer).orElse("");
        long id = writing.answer(person, message, false, text).orElseThrow(ComposeController::gone);
        return "redirect:/write/" + id;
    }

    /**
     * @param ids of the messages that are passed on, with commas between
     * @param attached whether one alone goes along as it came, too
     */
    @PostMapping("/forward")
    String forward(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam List<Long> ids,
            @RequestParam(defaultValue = "false") boolean attached) {
        long id = writing.forward(person, ids, attached).orElseThrow(ComposeController::gone);
        return "redirect:/write/" + id;
    }

    private static ResponseStatusException gone() {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "This message is gone; it may have been sent.");
    }

    private Outgoing one(CurrentUser person, long id) {
        return outgoing.byId(person.id(), id).orElseThrow(ComposeController::gone);
    }

    @GetMapping("/write/{id}")
    String page(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        Outgoing one = one(person, id);
        if (one.state() == OutgoingState.WAITING || one.state() == OutgoingState.SENT) {
            return "redirect:/outgoing";
        }
        model.addAttribute("view", frame.view(person, "/write", null));
        model.addAttribute("one", one);
        model.addAttribute("senders", writing.senders(person, one.text().sender()));
        model.addAttribute("files", files.of(id));
        model.addAttribute("times", dates.laterChoices());
        return "compose/page";
    }

    /** Takes a file, as its bytes alone. */
    @PostMapping(path = "/write/{id}/files", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    String addFile(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String name,
            @RequestParam(defaultValue = "") String type,
            InputStream body,
            Model model)
            throws IOException {
        one(person, id);
        byte[] content = body.readNBytes(OutgoingFileStore.MAX_BYTES + 1);
        if (content.length > OutgoingFileStore.MAX_BYTES) {
            throw OutgoingFileStore.tooLarge(name);
        }
        files.add(person.id(), id, AttachedFile.of(name, type, content));
        return files(person, id, model);
    }

    @PostMapping("/write/{id}/files/{file}/remove")
    String removeFile(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long id, @PathVariable long file, Model model) {
        files.remove(person.id(), id, file);
        return files(person, id, model);
    }

    private String files(CurrentUser person, long id, Model model) {
        model.addAttribute("one", one(person, id));
        model.addAttribute("files", files.of(id));
        return "compose/page :: files";
    }

    /** Keeps what is typed, as it is typed. */
    @PostMapping("/write/{id}/keep")
    @ResponseBody
    String keep(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Writing.WritingFields typed) {
        outgoing.keep(person.id(), id, writing.text(person, typed));
        return "";
    }

    /**
     * @param at when it is to leave, as the user's clock shows it then; {@code own} for what was typed; else at once
     * @param own what was typed
     */
    @PostMapping("/write/{id}/send")
    String send(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            Writing.WritingFields typed,
            @RequestParam(defaultValue = "") String back,
            @RequestParam(defaultValue = "") String at,
            @RequestParam(defaultValue = "") String own,
            @RequestParam(required = false) @Nullable LocalDate await,
            RedirectAttributes redirect) {
        Outgoing one = one(person, id);
        LocalDateTime later = time(at.equals("own") ? own : at, !at.isEmpty());
        Instant until = await == null ? null : dates.instant(await.atTime(AWAITED_FROM));
        Instant due = writing.send(person, one, writing.text(person, typed), later, until);
        String told = later == null
                ? "Sent in %d seconds".formatted(Writing.GRACE.toSeconds())
                : "Leaves on %s".formatted(dates.exact(due));
        redirect.addFlashAttribute("notice", Notice.sent(told, "/write/%d/recall".formatted(id)));
        return "redirect:" + (back.matches(LIST) ? back : "/mail/inbox");
    }

    private static @Nullable LocalDateTime time(String typed, boolean wanted) {
        if (!wanted) {
            return null;
        }
        try {
            return LocalDateTime.parse(typed);
        } catch (DateTimeParseException e) {
            throw new InputProblem("Choose the day and the hour when it is to leave.", e);
        }
    }

    @PostMapping("/write/{id}/recall")
    String recall(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        if (outgoing.recall(person.id(), id)) {
            redirect.addFlashAttribute("notice", Notice.told("Sending was undone. It is a draft again."));
            return "redirect:/write/" + id;
        }
        redirect.addFlashAttribute("notice", Notice.problem("It has left already."));
        return "redirect:/outgoing";
    }

    @PostMapping("/write/{id}/discard")
    String discard(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        acts.record(person.id(), "Discarded a draft", () -> outgoing.discard(person.id(), id));
        redirect.addFlashAttribute("notice", Notice.done("Draft discarded"));
        return outgoing.count(person.id()) == 0 ? "redirect:/mail/inbox" : "redirect:/outgoing";
    }

    @GetMapping("/outgoing")
    String list(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("view", frame.view(person, "/outgoing", null));
        addAll(person, model);
        return "compose/outgoing";
    }

    /** The lines alone, as messages leave. */
    @GetMapping("/outgoing/lines")
    String lines(@AuthenticationPrincipal CurrentUser person, Model model) {
        addAll(person, model);
        return "compose/outgoing :: lines";
    }

    private void addAll(CurrentUser person, Model model) {
        List<Outgoing> all = outgoing.of(person.id());
        Instant soon = Instant.now().plus(Duration.ofMinutes(10));
        Map<Long, String> later = new HashMap<>();
        for (Outgoing one : all) {
            Instant due = one.dueAt();
            if (one.state() == OutgoingState.WAITING && due != null && due.isAfter(soon)) {
                later.put(one.id(), "leaves on " + dates.exact(due));
            }
        }
        model.addAttribute("all", all);
        model.addAttribute("later", later);
    }
}
