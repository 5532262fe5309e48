package app.schublade.web.rules;

import app.schublade.store.RuleStore;
import app.schublade.store.SubjectStore;
import app.schublade.store.SubjectStore.Subject;
import app.schublade.web.frame.Person;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.server.ResponseStatusException;

/** What each rule says of one message as it is now, and why. */
@Controller
class ExplainController {
    private final RuleStore rules;
    private final SubjectStore subjects;

    ExplainController(RuleStore rules, SubjectStore subjects) {
        this.rules = rules;
        this.subjects = subjects;
    }

    @GetMapping("/rules/explained/{message}")
    String explain(@AuthenticationPrincipal Person person, @PathVariable long message, Model model) {
        Subject subject = subjects.subject(person.id(), message)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "This message is gone."));
        model.addAttribute("explanations", rules.book(person.id()).explain(subject.message(), subject.state()));
        return "rules/explained :: list";
    }
}
