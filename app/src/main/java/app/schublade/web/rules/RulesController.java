package app.schublade.web.rules;

import app.schublade.core.filing.Narrowing;
import app.schublade.core.filing.Rule;
import app.schublade.core.message.Message;
import app.schublade.store.filing.RecordStore;
import app.schublade.store.find.SearchWorlds;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.message.RuleInputStore.RuleCandidate;
import app.schublade.web.frame.Choice;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.rules.RuleForm.FormPart;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** The rules: seen in their order, and edited. */
@Controller
class RulesController {
    /** Of so many messages that a rule took it is looked at which ones an exception would spare. */
    private static final int MOST_TAKEN = 1000;

    private final RuleMaker maker;
    private final RuleInputStore subjects;
    private final RecordStore records;
    private final RulePage page;
    private final SearchWorlds searches;
    private final RuleStart start;

    RulesController(
            RuleMaker maker,
            RuleInputStore subjects,
            RecordStore records,
            RulePage page,
            SearchWorlds searches,
            RuleStart start) {
        this.start = start;
        this.searches = searches;
        this.maker = maker;
        this.subjects = subjects;
        this.records = records;
        this.page = page;
    }

    @GetMapping("/rules")
    String page(@AuthenticationPrincipal CurrentUser person, Model model) {
        return page.show(person, null, model);
    }

    /**
     * @param by by which of the things that are typical of the message
     * @param words of a search that the rule is to take new mail by
     */
    @GetMapping("/rules/new")
    String fresh(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(required = false) Long message,
            @RequestParam(required = false) @Nullable String by,
            @RequestParam(required = false) @Nullable String words,
            Model model) {
        if (words != null) {
            RuleFromSearch made = RuleFromSearch.of(searches.read(person.id(), words));
            model.addAttribute("leftOut", String.join(", ", made.leftOut()));
            return page.show(person, maker.form(person.id(), made.rule()).filing(), model);
        }
        RuleForm form = Optional.ofNullable(message)
                .flatMap(id -> subjects.subject(person.id(), id))
                .map(one -> start.from(person, one.row(), by, model))
                .orElse(RuleForm.EMPTY);
        return page.show(person, form, model);
    }

    @GetMapping("/rules/{id}")
    String one(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam(required = false) @Nullable Long spare,
            Model model) {
        Rule rule = page.rule(person, id);
        Rule narrower = spare == null ? rule : narrower(person, rule, spare, model);
        return page.show(person, maker.form(person.id(), narrower), model);
    }

    /** The rule with an exception that would have spared a message, as far as there is one. */
    private Rule narrower(CurrentUser person, Rule rule, long spare, Model model) {
        List<Long> taken = records.taken(person.id(), rule.id(), MOST_TAKEN);
        RuleCandidate spared = subjects.subject(person.id(), spare)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "This message is gone."));
        List<Message> others = subjects.some(person.id(), taken, Set.of()).stream()
                .filter(one -> one.row().id() != spare)
                .map(RuleCandidate::message)
                .toList();
        model.addAttribute("spared", spared.row());
        Optional<Narrowing> narrowing = Narrowing.sparing(spared.message(), others);
        narrowing.ifPresent(one -> model.addAttribute("narrowing", one));
        return narrowing.map(one -> rule.unless(one.exception())).orElse(rule);
    }

    /** The list anew, as it is while others change it. */
    @GetMapping("/rules/list")
    String list(
            @AuthenticationPrincipal CurrentUser person, @RequestParam(defaultValue = "0") long chosen, Model model) {
        page.addList(person, chosen, model);
        return "rules/list :: list";
    }

    /** The editor anew, with a line more or less. */
    @PostMapping("/rules/form")
    String form(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam MultiValueMap<String, String> fields,
            @RequestParam(required = false) @Nullable String add,
            @RequestParam(required = false) @Nullable String remove,
            Model model) {
        RuleFormData sent = new RuleFormData(fields);
        RuleForm form = sent.form();
        if (add != null) {
            String[] where = add.split("-", 2);
            FormPart part = Choice.of(FormPart.class, where[0]);
            form = where.length == 1 ? form.plus(part) : form.plus(part, Choice.number(where[1]));
        }
        if (remove != null) {
            String[] which = remove.split("-", 2);
            form = form.minus(Choice.of(FormPart.class, which[0]), Choice.number(which[which.length - 1]));
        }
        return page.editor(person, sent, form, model);
    }
}
