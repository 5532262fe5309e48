package app.schublade.web.desk;

import app.schublade.store.act.ActOutcome;
import app.schublade.store.filing.UndoStore;
import app.schublade.store.filing.UndoStore.OpenAct;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.ProgressAnswers;
import app.schublade.web.frame.ReturnTo;
import app.schublade.work.LongActs;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Optional;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;

/** Takes back what a user did, whatever it was. */
@Controller
class UndoController {
    private final UndoStore undo;
    private final Undoing undoing;
    private final ProgressAnswers progress;
    private final Answers answers;

    UndoController(UndoStore undo, Undoing undoing, ProgressAnswers progress, Answers answers) {
        this.undo = undo;
        this.undoing = undoing;
        this.progress = progress;
        this.answers = answers;
    }

    @PostMapping("/undo")
    String latest(
            @AuthenticationPrincipal CurrentUser person,
            ReturnTo standing,
            HttpServletRequest request,
            HttpServletResponse response,
            Model model) {
        return undone(person, undo.latestOf(person.id()), standing, request, response, model);
    }

    @PostMapping("/undo/{batch}")
    String act(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long batch,
            ReturnTo standing,
            HttpServletRequest request,
            HttpServletResponse response,
            Model model) {
        return undone(person, undo.of(person.id(), batch), standing, request, response, model);
    }

    @PostMapping("/undo/{batch}/{message}")
    String ofMessage(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long batch,
            @PathVariable long message,
            ReturnTo standing,
            Model model) {
        ActOutcome outcome = undo.of(person.id(), message, batch);
        return answers.told(person, standing, Notice.of(Undoing.told(outcome)), model);
    }

    private String undone(
            CurrentUser person,
            Optional<OpenAct> act,
            ReturnTo standing,
            HttpServletRequest request,
            HttpServletResponse response,
            Model model) {
        if (act.isPresent() && act.get().messages() > LongActs.CHUNK) {
            return progress.of(person, undoing.begin(act.get()), standing, model);
        }
        ActOutcome outcome = act.map(one -> undo.act(person.id(), one.batch())).orElse(ActOutcome.NOTHING);
        Notice notice = Notice.of(Undoing.told(outcome));
        return outcome.title().isEmpty()
                ? answers.told(person, standing, notice, model)
                : answers.toldAnew(person, standing, notice, request, response, model);
    }
}
