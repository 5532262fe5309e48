package app.schublade.web.triage;

import app.schublade.store.triage.ReminderStore;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.ReturnTo;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;

/** Reminders that the user has seen. */
@Controller
class ReminderController {
    private final ReminderStore reminders;
    private final Answers answers;

    ReminderController(ReminderStore reminders, Answers answers) {
        this.reminders = reminders;
        this.answers = answers;
    }

    @PostMapping("/reminders/{id}/close")
    String close(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, ReturnTo standing, Model model) {
        reminders.close(person.id(), id);
        return answers.told(person, standing, null, model);
    }
}
