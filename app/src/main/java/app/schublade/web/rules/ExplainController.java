package app.schublade.web.rules;

import app.schublade.store.message.RuleInputStore;
import app.schublade.store.message.RuleInputStore.RuleCandidate;
import app.schublade.store.rule.RuleStore;
import app.schublade.web.frame.CurrentUser;
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
    private final RuleInputStore subjects;

    ExplainController(RuleStore rules, RuleInputStore subjects) {
        this.rules = rules;
        this.subjects = subjects;
    }

    @GetMapping("/rules/explained/{message}")
    String explain(@AuthenticationPrincipal CurrentUser person, @PathVariable long message, Model model) {
        RuleCandidate subject = subjects.subject(person.id(), message)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "This message is gone."));
        model.addAttribute("explanations", rules.book(person.id()).explain(subject.message(), subject.state()));
        return "rules/explained :: list";
    }
}
