package app.schublade.web.rules;

import app.schublade.core.filing.Rule;
import app.schublade.store.act.Acts;
import app.schublade.store.rule.RuleStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.RunNotice;
import app.schublade.work.LongActs;
import java.util.List;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Tries the rule that is being edited, keeps it, and runs it. */
@Controller
class RuleKeepingController {
    private final Acts acts;
    private final RuleStore rules;
    private final RuleMaker maker;
    private final RuleRuns runs;
    private final TrialPart trial;
    private final RulePage page;

    RuleKeepingController(Acts acts, RuleStore rules, RuleMaker maker, RuleRuns runs, TrialPart trial, RulePage page) {
        this.acts = acts;
        this.rules = rules;
        this.maker = maker;
        this.runs = runs;
        this.trial = trial;
        this.page = page;
    }

    @PostMapping("/rules/trial")
    String trial(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam MultiValueMap<String, String> fields,
            Model model) {
        RuleFormData sent = new RuleFormData(fields);
        model.addAttribute("form", sent.form());
        trial.add(person, sent, sent.form(), model);
        return "rules/trial :: trial";
    }

    /** Keeps the rule; {@code run} files what is there too. */
    @PostMapping("/rules")
    String keep(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam MultiValueMap<String, String> fields,
            @RequestParam(defaultValue = "false") boolean run,
            RedirectAttributes redirect) {
        RuleFormData sent = new RuleFormData(fields);
        Double expected = trial.expected(person, sent);
        Rule kept = acts.record(person.id(), act -> {
            Rule rule = maker.forKeeping(person.id(), sent.form());
            act.called((rule.id() == 0 ? "Created the rule “%s”" : "Changed the rule “%s”").formatted(rule.name()));
            long id = rules.save(person.id(), rule);
            if (expected != null) {
                rules.expect(person.id(), id, expected);
            }
            return page.rule(person, id);
        });
        if (run) {
            RunNotice.of(
                    redirect,
                    runs.carryOut(
                            person.id(),
                            List.of(kept),
                            sent.over(),
                            sent.unticked(),
                            count -> count == 0
                                    ? LongActs.ActEnding.done("Saved; nothing to file")
                                    : LongActs.ActEnding.done("Saved, and %,d %s filed by “%s”"
                                            .formatted(count, count == 1 ? "message" : "messages", kept.name()))));
        } else {
            redirect.addFlashAttribute("notice", Notice.done("Saved “%s” for new mail".formatted(kept.name())));
        }
        return "redirect:/rules/" + kept.id();
    }
}
