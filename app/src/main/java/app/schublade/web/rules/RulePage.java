package app.schublade.web.rules;

import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.Term;
import app.schublade.core.filing.Text;
import app.schublade.core.message.Trait;
import app.schublade.store.rule.RuleStore;
import app.schublade.store.rule.RuleVersionStore;
import app.schublade.store.user.PeopleStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;
import org.springframework.web.server.ResponseStatusException;

/** The page of rules: their list, and beside it the one that is being edited. */
@Component
class RulePage {
    private static final int MOST_VERSIONS = 20;

    private final Frame frame;
    private final RuleStore rules;
    private final RuleList list;
    private final PeopleStore people;
    private final TrialPart trial;
    private final RuleVersionStore versions;

    RulePage(
            Frame frame,
            RuleStore rules,
            RuleList list,
            PeopleStore people,
            TrialPart trial,
            RuleVersionStore versions) {
        this.frame = frame;
        this.rules = rules;
        this.list = list;
        this.people = people;
        this.trial = trial;
        this.versions = versions;
    }

    Rule rule(CurrentUser person, long id) {
        return rules.byId(person.id(), id)
                .orElseThrow(() -> new ResponseStatusException(
                        HttpStatus.NOT_FOUND, "There is no such rule; it may have been deleted."));
    }

    String show(CurrentUser person, @Nullable RuleForm form, Model model) {
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

    Map<Long, RuleStore.History> addList(CurrentUser person, long chosen, Model model) {
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

    private void addForm(CurrentUser person, RuleForm form, Model model) {
        model.addAttribute("groups", people.groups(person.id()).keySet());
        model.addAttribute("form", form);
        model.addAttribute("kinds", Term.TermKind.values());
        model.addAttribute("matches", Text.Match.values());
        model.addAttribute("deeds", RuleForm.OF_RULES);
        model.addAttribute("traits", Trait.values());
    }

    /** The editor anew, with another form. */
    String editor(CurrentUser person, RuleFormData sent, RuleForm form, Model model) {
        addForm(person, form, model);
        model.addAttribute("view", frame.view(person, "/rules", null));
        trial.add(person, sent, form, model);
        return "rules/editor :: editor";
    }
}
