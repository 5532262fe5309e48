package app.schublade.web.rules;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.InAccount;
import app.schublade.core.filing.InGroup;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Term;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.LabelRef;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.noise.ListsStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RuleStore;
import app.schublade.store.user.PeopleStore;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Makes a rule of what stands in the form: for a trial run nothing is made, for keeping it the places are. */
@Component
class RuleMaker {
    private static final int MAX_NAME = 100;
    private static final int MAX_NAMED = 12;

    private final PlaceStore places;
    private final AccountStore accounts;
    private final RuleStore rules;
    private final PeopleStore people;
    private final ListsStore lists;
    private final ActionMaker actions;

    RuleMaker(
            PlaceStore places,
            AccountStore accounts,
            RuleStore rules,
            PeopleStore people,
            ListsStore lists,
            ActionMaker actions) {
        this.lists = lists;
        this.actions = actions;
        this.people = people;
        this.rules = rules;
        this.places = places;
        this.accounts = accounts;
    }

    /** What is the user's own, by the names that are shown. */
    private record Names(Places places, List<Account> accounts, Set<String> groups, KnownNames known)
            implements Term.Names {
        @Override
        public InAccount.Ref account(String name) {
            return accounts.stream()
                    .filter(one -> one.name().equalsIgnoreCase(name)
                            || one.code().equalsIgnoreCase(name)
                            || one.address().equalsIgnoreCase(name))
                    .findFirst()
                    .map(Account::ref)
                    .orElseThrow(
                            () -> unknown("account", name, accounts.stream().map(Account::name)));
        }

        @Override
        public LabelRef label(String name) {
            return places.label(FolderPath.parse(name))
                    .map(Places.Label::ref)
                    .orElseThrow(() -> unknown(
                            "label",
                            name,
                            places.labels().stream().map(one -> one.path().shown())));
        }

        @Override
        public CategoryRef category(String name) {
            return places.category(name)
                    .map(Places.Category::ref)
                    .orElseThrow(() -> unknown(
                            "category", name, places.categories().stream().map(Places.Category::name)));
        }

        @Override
        public String group(String name) {
            return groups.stream()
                    .filter(one -> one.equalsIgnoreCase(name.strip()))
                    .findFirst()
                    .orElseThrow(() -> unknown("group", name, groups.stream()));
        }

        @Override
        public Condition called(Correspondent.Role role, String name) {
            return role == Correspondent.Role.SENDER
                            && groups.stream().anyMatch(one -> one.equalsIgnoreCase(name.strip()))
                    ? new InGroup(List.of(group(name)))
                    : new Correspondent(role, known.people(name));
        }

        @Override
        public List<String> lists(String name) {
            return known.lists(name);
        }

        private static InputProblem unknown(String what, String name, Stream<String> all) {
            List<String> known = all.limit(MAX_NAMED).toList();
            return new InputProblem("There is no %s “%s”; %s."
                    .formatted(
                            what,
                            name,
                            known.isEmpty() ? "there is none yet" : "there are: " + String.join(", ", known)));
        }

        @Override
        public String of(InAccount.Ref account) {
            return account.name();
        }

        @Override
        public String of(LabelRef label) {
            return label.path().shown();
        }

        @Override
        public String of(CategoryRef category) {
            return category.name();
        }
    }

    private Names names(long userId) {
        return new Names(
                places.of(userId, null),
                accounts.of(userId),
                people.groups(userId).keySet(),
                new KnownNames(people, lists, userId));
    }

    /** A rule that is there, to be changed. */
    RuleForm form(long userId, Rule rule) {
        return RuleForm.of(rule, names(userId));
    }

    /** For a trial run: lines that are not complete yet are left out, places that are not there yet are not made. */
    Rule forTrial(long userId, RuleForm form) {
        return make(userId, form.complete(), actions.known(userId));
    }

    /**
     * For keeping: folders, labels and categories that are not there yet are made.
     *
     * @throws InputProblem with all that is missing
     */
    @Transactional
    public Rule forKeeping(long userId, RuleForm form) {
        List<String> missing = missing(form.complete());
        if (!missing.isEmpty()) {
            throw new InputProblem("The rule is not complete: " + String.join("; ", missing) + ".");
        }
        Rule made = make(userId, form.complete(), actions.making(userId));
        return made.called(unlikeOthers(userId, made));
    }

    /** Its name, with a number if another rule has it. */
    private String unlikeOthers(long userId, Rule rule) {
        Set<String> others = rules.all(userId).stream()
                .filter(other -> other.id() != rule.id())
                .map(other -> other.name().toLowerCase(Locale.ROOT))
                .collect(Collectors.toSet());
        String name = rule.name();
        for (int i = 2; others.contains(name.toLowerCase(Locale.ROOT)); i++) {
            name = rule.name() + " " + i;
        }
        return name;
    }

    /** Keeps rules that came from elsewhere, behind all others and switched off; their folders are made. */
    @Transactional
    public void keepAll(long userId, List<Rule> found) {
        for (Rule rule : found) {
            Rule off = new Rule(0, rule.name(), false, rule.when(), rule.unless(), rule.then(), rule.last());
            rules.save(userId, forKeeping(userId, RuleForm.of(off, names(userId))));
        }
    }

    /** What a rule lacks before it can be kept. */
    static List<String> missing(RuleForm form) {
        List<String> missing = new ArrayList<>();
        if (form.when().stream().allMatch(line -> line.isBlank() || line.kind().isGroup())) {
            missing.add("say under When which mail it is for");
        }
        if (form.then().stream().allMatch(RuleForm.ActionLine::isBlank) && !form.last()) {
            missing.add("say under Then what to do with it");
        }
        return missing;
    }

    private Rule make(long userId, RuleForm form, ActionMaker.Finder finder) {
        Names names = names(userId);
        Rule unnamed = new Rule(
                form.id(),
                "",
                form.on(),
                conditions(form.when(), names),
                conditions(form.unless(), names),
                form.then().stream().map(line -> effect(line, finder)).toList(),
                form.last());
        String name = form.name().isBlank() ? name(unnamed) : form.name().strip();
        return new Rule(
                form.id(),
                name.substring(0, Math.min(name.length(), MAX_NAME)),
                form.on(),
                unnamed.when(),
                unnamed.unless(),
                unnamed.then(),
                form.last());
    }

    /** A rule acts while nobody is there who could be asked. */
    private static Effect effect(RuleForm.ActionLine line, ActionMaker.Finder finder) {
        Effect effect = ActionMaker.effect(line, finder);
        if (effect.asksForDay() || !RuleForm.OF_RULES.contains(line.deed())) {
            throw new InputProblem("A rule cannot %s; a routine can.".formatted(effect.sentence()));
        }
        return effect;
    }

    /** A name for a rule that was given none: its first condition. */
    private static String name(Rule rule) {
        if (rule.when().isEmpty()) {
            return "New rule";
        }
        String sentence = rule.when().get(0).sentence().replaceAll("[“”]", "");
        return sentence.substring(0, 1).toUpperCase(Locale.ROOT) + sentence.substring(1);
    }

    private static List<Condition> conditions(List<ConditionLine> lines, Names names) {
        return ConditionLine.terms(lines).stream()
                .map(term -> term.condition(names))
                .toList();
    }
}
