package app.schublade.web.rules;

import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Rule;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.Acts;
import app.schublade.store.rule.RuleOrderStore;
import app.schublade.store.rule.RuleStore;
import app.schublade.store.rule.RuleVersionStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.RunNotice;
import app.schublade.work.LongActs;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** What is done to rules as they are: switched, moved, doubled, deleted, mended, brought back; one or several at once. */
@Controller
@RequestMapping("/rules")
class RuleActsController {
    private static final int MAX_HEADING = 80;

    private final Acts acts;
    private final RuleStore rules;
    private final RuleOrderStore order;
    private final RuleVersionStore versions;
    private final RuleRuns runs;
    private final HealthCheck health;

    RuleActsController(
            Acts acts,
            RuleStore rules,
            RuleOrderStore order,
            RuleVersionStore versions,
            RuleRuns runs,
            HealthCheck health) {
        this.acts = acts;
        this.order = order;
        this.rules = rules;
        this.versions = versions;
        this.runs = runs;
        this.health = health;
    }

    private Rule rule(CurrentUser person, long id) {
        return rules.byId(person.id(), id)
                .orElseThrow(() -> new ResponseStatusException(
                        HttpStatus.NOT_FOUND, "There is no such rule; it may have been deleted."));
    }

    private static String moved(Rule rule) {
        return "Moved the rule “%s”".formatted(rule.name());
    }

    private void change(CurrentUser person, Rule rule) {
        acts.record(person.id(), "Changed the rule “%s”".formatted(rule.name()), () -> rules.save(person.id(), rule));
    }

    /** What can be done to several rules at once. */
    enum RuleCommand {
        ON,
        OFF,
        RUN,
        DELETE
    }

    @PostMapping("/several")
    String several(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(required = false) @Nullable List<Long> ids,
            @RequestParam RuleCommand deed,
            RedirectAttributes redirect) {
        List<Rule> chosen = rules.all(person.id()).stream()
                .filter(rule -> ids != null && ids.contains(rule.id()))
                .toList();
        if (chosen.isEmpty()) {
            redirect.addFlashAttribute("notice", Notice.told("No rule is chosen."));
            return "redirect:/rules";
        }
        String many = count(chosen.size(), "rule");
        switch (deed) {
            case ON, OFF, DELETE ->
                acts.record(
                        person.id(),
                        "%s: %s".formatted(many, done(deed)),
                        () -> chosen.forEach(rule -> change(person, rule, deed)));
            case RUN ->
                RunNotice.of(
                        redirect,
                        runs.carryOut(
                                person.id(),
                                chosen,
                                ChosenMail.ALL_RECEIVED,
                                Set.of(),
                                changed -> LongActs.ActEnding.told("%s: %s changed; the record can take each run back."
                                        .formatted(many, count(changed, "message")))));
        }
        if (deed != RuleCommand.RUN) {
            redirect.addFlashAttribute("notice", Notice.done("%s: %s".formatted(many, done(deed))));
        }
        return "redirect:/rules";
    }

    private void change(CurrentUser person, Rule rule, RuleCommand deed) {
        if (deed == RuleCommand.DELETE) {
            rules.delete(person.id(), rule.id());
        } else {
            rules.turn(person.id(), rule.id(), deed == RuleCommand.ON);
        }
    }

    private static String done(RuleCommand deed) {
        return switch (deed) {
            case ON -> "switched on";
            case OFF -> "switched off";
            case DELETE -> "deleted; what was filed stays where it is";
            case RUN -> "run";
        };
    }

    private static String count(int number, String what) {
        return "%,d %s".formatted(number, number == 1 ? what : what + "s");
    }

    /**
     * Puts a rule elsewhere in the order.
     *
     * @param before the rule that it comes before, 0 for the end
     */
    @PostMapping("/{id}/place")
    String place(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam(defaultValue = "0") long before,
            Model model) {
        Rule rule = rule(person, id);
        acts.record(person.id(), moved(rule), () -> {
            if (before == 0) {
                order.putLast(person.id(), id);
            } else {
                order.putBefore(person.id(), id, before);
            }
        });
        List<Rule> all = rules.all(person.id());
        int number = all.stream().map(Rule::id).toList().indexOf(id) + 1;
        model.addAttribute("notice", Notice.done("“%s” is rule %d now".formatted(rule.name(), number)));
        return "frame/parts :: noticeAlone";
    }

    @PostMapping("/{id}/versions/{version}")
    String bringBack(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @PathVariable long version,
            RedirectAttributes redirect) {
        acts.record(
                person.id(),
                "Restored an earlier version of the rule “%s”"
                        .formatted(rule(person, id).name()),
                () -> versions.bringBack(person.id(), id, version));
        redirect.addFlashAttribute("notice", Notice.done("The rule is as it was; how it was until now is kept, too"));
        return "redirect:/rules/" + id;
    }

    @PostMapping("/{id}/turn")
    String turn(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        Rule rule = rule(person, id);
        acts.record(
                person.id(),
                "Switched the rule “%s” %s".formatted(rule.name(), rule.on() ? "off" : "on"),
                () -> rules.turn(person.id(), id, !rule.on()));
        redirect.addFlashAttribute(
                "notice", Notice.done("“%s” is %s now".formatted(rule.name(), rule.on() ? "off" : "on")));
        return "redirect:/rules/" + id;
    }

    @PostMapping("/{id}/heading")
    String heading(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String heading,
            RedirectAttributes redirect) {
        String text = heading.strip();
        if (text.length() > MAX_HEADING) {
            throw new InputProblem("A heading has at most %d letters.".formatted(MAX_HEADING));
        }
        acts.record(
                person.id(),
                "Changed the heading of the rule “%s”"
                        .formatted(rule(person, id).name()),
                () -> order.setHeading(person.id(), id, text));
        redirect.addFlashAttribute(
                "notice",
                Notice.done(
                        text.isEmpty() ? "No heading stands there any more" : "“%s” stands above it".formatted(text)));
        return "redirect:/rules/" + id;
    }

    /** @param by -1 for one place up, 1 for one down */
    @PostMapping("/{id}/shift")
    String shift(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, @RequestParam int by) {
        acts.record(person.id(), moved(rule(person, id)), () -> order.shift(person.id(), id, Integer.signum(by)));
        return "redirect:/rules/" + id;
    }

    /** Puts a rule before the one that stands in its way. */
    @PostMapping("/{id}/before/{other}")
    String putBefore(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @PathVariable long other,
            RedirectAttributes redirect) {
        Rule rule = rule(person, id);
        acts.record(person.id(), moved(rule), () -> order.putBefore(person.id(), id, other));
        redirect.addFlashAttribute(
                "notice",
                Notice.done("“%s” now comes before “%s”"
                        .formatted(rule.name(), rule(person, other).name())));
        return "redirect:/rules/" + id;
    }

    /** A rule that deletes archives from now on. */
    @PostMapping("/{id}/archive-instead")
    String archiveInstead(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        change(person, health.archiving(person.id(), rule(person, id)));
        redirect.addFlashAttribute("notice", Notice.done("It archives now instead of deleting"));
        return "redirect:/rules/" + id;
    }

    /** A rule that took too much leaves mail of these senders alone from now on. */
    @PostMapping("/{id}/leave-out")
    String leaveOut(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam List<String> sender,
            RedirectAttributes redirect) {
        Rule narrower = rule(person, id).unless(Correspondent.sender(sender.toArray(String[]::new)));
        change(person, narrower);
        redirect.addFlashAttribute("notice", Notice.done("It leaves out %s now".formatted(String.join(", ", sender))));
        return "redirect:/rules/" + id;
    }

    @PostMapping("/{id}/duplicate")
    String duplicate(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        Rule rule = rule(person, id);
        Rule copy = new Rule(0, "Copy of " + rule.name(), false, rule.when(), rule.unless(), rule.then(), rule.last());
        long made = acts.record(person.id(), act -> {
            act.called("Copied the rule “%s”".formatted(rule.name()));
            return rules.save(person.id(), copy);
        });
        redirect.addFlashAttribute("notice", Notice.done("The copy is off until you switch it on"));
        return "redirect:/rules/" + made;
    }

    @PostMapping("/{id}/delete")
    String delete(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, RedirectAttributes redirect) {
        Rule rule = rule(person, id);
        acts.record(person.id(), "Deleted the rule “%s”".formatted(rule.name()), () -> rules.delete(person.id(), id));
        redirect.addFlashAttribute(
                "notice", Notice.done("Deleted “%s”; what it filed stays where it is".formatted(rule.name())));
        return "redirect:/rules";
    }
}
