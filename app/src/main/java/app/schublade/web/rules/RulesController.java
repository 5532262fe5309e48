package app.schublade.web.rules;

import app.schublade.core.filing.Narrowing;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.Term;
import app.schublade.core.filing.Text;
import app.schublade.core.message.Message;
import app.schublade.core.message.Trait;
import app.schublade.store.act.Acts;
import app.schublade.store.filing.RecordStore;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.message.RuleInputStore.RuleCandidate;
import app.schublade.store.rule.RuleStore;
import app.schublade.store.rule.RuleVersionStore;
import app.schublade.store.user.PeopleStore;
import app.schublade.web.frame.Choice;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.RunNotice;
import app.schublade.web.rules.RuleForm.FormPart;
import app.schublade.work.LongActs;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
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
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The rules: seen in their order, edited with a trial run beside, kept and run. */
@Controller
class RulesController {
    /** Of so many messages that a rule took it is looked at which ones an exception would spare. */
    private static final int MOST_TAKEN = 1000;

    private static final int MOST_VERSIONS = 20;

    private final Acts acts;
    private final Frame frame;
    private final RuleStore rules;
    private final RuleMaker maker;
    private final Trials trials;
    private final TrialPart trial;
    private final RuleInputStore subjects;
    private final RecordStore records;
    private final PeopleStore people;
    private final RuleList list;
    private final RuleVersionStore versions;

    RulesController(
            Acts acts,
            Frame frame,
            RuleStore rules,
            RuleMaker maker,
            Trials trials,
            TrialPart trial,
            RuleInputStore subjects,
            RecordStore records,
            PeopleStore people,
            RuleList list,
            RuleVersionStore versions) {
        this.acts = acts;
        this.versions = versions;
        this.list = list;
        this.people = people;
        this.records = records;
        this.frame = frame;
        this.rules = rules;
        this.maker = maker;
        this.trials = trials;
        this.trial = trial;
        this.subjects = subjects;
    }

    @GetMapping("/rules")
    String page(@AuthenticationPrincipal CurrentUser person, Model model) {
        return show(person, null, model);
    }

    @GetMapping("/rules/new")
    String fresh(
            @AuthenticationPrincipal CurrentUser person, @RequestParam(required = false) Long message, Model model) {
        RuleForm form = Optional.ofNullable(message)
                .flatMap(id -> subjects.subject(person.id(), id))
                .map(RuleFromMessage::from)
                .orElse(RuleForm.EMPTY);
        return show(person, form, model);
    }

    @GetMapping("/rules/{id}")
    String one(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam(required = false) @Nullable Long spare,
            Model model) {
        Rule rule = rule(person, id);
        Rule narrower = spare == null ? rule : narrower(person, rule, spare, model);
        return show(person, maker.form(person.id(), narrower), model);
    }

    /** The rule with an exception that would have spared a message, as far as there is one. */
    private Rule narrower(CurrentUser person, Rule rule, long spare, Model model) {
        List<Long> taken = records.taken(person.id(), rule.id(), MOST_TAKEN);
        RuleCandidate spared = subjects.subject(person.id(), spare)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "This message is gone."));
        List<Message> others = subjects.some(person.id(), taken).stream()
                .filter(one -> one.row().id() != spare)
                .map(RuleCandidate::message)
                .toList();
        model.addAttribute("spared", spared.row());
        Optional<Narrowing> narrowing = Narrowing.sparing(spared.message(), others);
        narrowing.ifPresent(one -> model.addAttribute("narrowing", one));
        return narrowing.map(one -> rule.unless(one.exception())).orElse(rule);
    }

    private Rule rule(CurrentUser person, long id) {
        return rules.byId(person.id(), id)
                .orElseThrow(() -> new ResponseStatusException(
                        HttpStatus.NOT_FOUND, "There is no such rule; it may have been deleted."));
    }

    /** The list anew, as it is while others change it. */
    @GetMapping("/rules/list")
    String list(
            @AuthenticationPrincipal CurrentUser person, @RequestParam(defaultValue = "0") long chosen, Model model) {
        addList(person, chosen, model);
        return "rules/list :: list";
    }

    private Map<Long, RuleStore.History> addList(CurrentUser person, long chosen, Model model) {
        RuleBook book = rules.book(person.id());
        model.addAttribute("book", book);
        model.addAttribute("chosen", chosen);
        model.addAttribute("on", book.rules().stream().filter(Rule::on).count());
        Map<Long, RuleStore.History> histories = rules.histories(person.id());
        List<RuleCard> cards = list.cards(person.id(), book, histories);
        model.addAttribute("cards", cards);
        model.addAttribute(
                "heading",
                cards.stream()
                        .filter(card -> card.rule().id() == chosen)
                        .flatMap(card -> Stream.ofNullable(card.heading()))
                        .findFirst()
                        .orElse(null));
        return histories;
    }

    private String show(CurrentUser person, @Nullable RuleForm form, Model model) {
        Map<Long, RuleStore.History> histories = addList(person, form == null ? 0 : form.id(), model);
        model.addAttribute("view", frame.view(person, "/rules", null));
        RuleStore.History own = form == null ? null : histories.get(form.id());
        model.addAttribute("acted", own == null ? 0 : own.acted());
        model.addAttribute("form", form);
        if (form != null) {
            addForm(person, form, model);
            trial.add(person, form, model);
            model.addAttribute("versions", versions.of(person.id(), form.id(), MOST_VERSIONS));
        }
        return "rules/page";
    }

    private void addForm(CurrentUser person, RuleForm form, Model model) {
        model.addAttribute("groups", people.groups(person.id()).keySet());
        model.addAttribute("form", form);
        model.addAttribute("kinds", Term.TermKind.values());
        model.addAttribute("matches", Text.Match.values());
        model.addAttribute("deeds", RuleForm.RuleAction.values());
        model.addAttribute("traits", Trait.values());
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
        addForm(person, form, model);
        model.addAttribute("view", frame.view(person, "/rules", null));
        trial.add(person, sent, form, model);
        return "rules/editor :: editor";
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
            act.called((rule.id() == 0 ? "Made the rule “%s”" : "Changed the rule “%s”").formatted(rule.name()));
            long id = rules.save(person.id(), rule);
            if (expected != null) {
                rules.expect(person.id(), id, expected);
            }
            return rule(person, id);
        });
        if (run) {
            RunNotice.of(
                    redirect,
                    trials.carryOut(
                            person.id(),
                            List.of(kept),
                            sent.over(),
                            sent.unticked(),
                            count -> count == 0
                                    ? LongActs.ActEnding.done("Saved; there was nothing to file")
                                    : LongActs.ActEnding.done("Saved, and %,d %s filed by “%s”"
                                            .formatted(count, count == 1 ? "message" : "messages", kept.name()))));
        } else {
            redirect.addFlashAttribute("notice", Notice.done("Saved “%s” for new mail".formatted(kept.name())));
        }
        return "redirect:/rules/" + kept.id();
    }
}
