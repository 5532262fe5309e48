package app.schublade.web.rules;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.store.Account;
import app.schublade.store.AccountStore;
import app.schublade.store.PlaceStore;
import app.schublade.store.Places;
import app.schublade.web.rules.RuleForm.Line;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Makes a rule of what stands in the form: for a trial run nothing is made, for keeping it the places are. */
@Component
class RuleMaker {
    private static final int MAX_NAME = 100;

    private final PlaceStore places;
    private final AccountStore accounts;

    RuleMaker(PlaceStore places, AccountStore accounts) {
        this.places = places;
        this.accounts = accounts;
    }

    /** Finds the places that effects name. */
    private interface Finder {
        FolderRef folder(FolderPath path);

        LabelRef label(FolderPath path);

        CategoryRef category(String name);
    }

    /** For a trial run: lines that are not complete yet are left out, places that are not there yet are not made. */
    Rule forTrial(long userId, RuleForm form) {
        Places known = places.of(userId, null);
        return make(userId, complete(form), new Finder() {
            @Override
            public FolderRef folder(FolderPath path) {
                return known.folders().stream()
                        .filter(folder -> folder.path().toString().equalsIgnoreCase(path.toString()))
                        .findFirst()
                        .map(folder -> new FolderRef(folder.id(), folder.path()))
                        .orElse(new FolderRef(FolderRef.NEW, path));
            }

            @Override
            public LabelRef label(FolderPath path) {
                return known.labels().stream()
                        .filter(label -> label.path().toString().equalsIgnoreCase(path.toString()))
                        .findFirst()
                        .map(label -> new LabelRef(label.id(), label.path()))
                        .orElse(new LabelRef(FolderRef.NEW, path));
            }

            @Override
            public CategoryRef category(String name) {
                return known.categories().stream()
                        .filter(category -> category.name().equalsIgnoreCase(name))
                        .findFirst()
                        .map(category -> new CategoryRef(category.id(), category.name()))
                        .orElse(new CategoryRef(FolderRef.NEW, name));
            }
        });
    }

    private static RuleForm complete(RuleForm form) {
        return new RuleForm(
                form.id(),
                form.name(),
                form.on(),
                form.when().stream().filter(line -> !line.isBlank()).toList(),
                form.unless().stream().filter(line -> !line.isBlank()).toList(),
                form.then().stream().filter(line -> !line.isBlank()).toList(),
                form.last());
    }

    /**
     * For keeping: folders, labels and categories that are not there yet are made.
     *
     * @throws IllegalArgumentException with all that is missing
     */
    @Transactional
    public Rule forKeeping(long userId, RuleForm form) {
        List<String> missing = missing(complete(form));
        if (!missing.isEmpty()) {
            throw new IllegalArgumentException("The rule is not complete: " + String.join("; ", missing) + ".");
        }
        return make(userId, complete(form), new Finder() {
            @Override
            public FolderRef folder(FolderPath path) {
                return places.folder(userId, path);
            }

            @Override
            public LabelRef label(FolderPath path) {
                return places.label(userId, path);
            }

            @Override
            public CategoryRef category(String name) {
                return places.category(userId, name);
            }
        });
    }

    /** What a rule lacks before it can be kept. */
    static List<String> missing(RuleForm form) {
        List<String> missing = new ArrayList<>();
        if (form.when().stream().allMatch(Line::isBlank)) {
            missing.add("say under When which mail it is for");
        }
        if (form.then().stream().allMatch(Line::isBlank) && !form.last()) {
            missing.add("say under Then what to do with it");
        }
        return missing;
    }

    private Rule make(long userId, RuleForm form, Finder finder) {
        Rule unnamed = new Rule(
                form.id(),
                "",
                form.on(),
                form.when().stream().map(line -> condition(userId, line)).toList(),
                form.unless().stream().map(line -> condition(userId, line)).toList(),
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

    /** A name for a rule that was given none: its first condition. */
    private static String name(Rule rule) {
        if (rule.when().isEmpty()) {
            return "New rule";
        }
        String sentence = rule.when().get(0).sentence();
        return sentence.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + sentence.substring(1);
    }

    private Condition condition(long userId, Line line) {
        List<String> values = Arrays.stream(line.text().split(",", -1))
                .map(String::strip)
                .filter(value -> !value.isEmpty())
                .toList();
        return switch (line.kind()) {
            case SENDER -> new Condition.Sender(values);
            case SENT_TO -> new Condition.SentTo(values);
            case SUBJECT -> new Condition.SubjectHas(values);
            case LIST -> new Condition.MailingList(values);
            case ACCOUNT -> new Condition.InAccount(accounts(userId, values));
            case FILE, LABEL, CATEGORY, READ ->
                throw new IllegalArgumentException(
                        "“%s” cannot be a condition.".formatted(line.kind().words()));
        };
    }

    private List<Condition.AccountRef> accounts(long userId, List<String> names) {
        List<Account> all = accounts.of(userId);
        return names.stream()
                .map(name -> all.stream()
                        .filter(one -> one.name().equalsIgnoreCase(name)
                                || one.code().equalsIgnoreCase(name)
                                || one.address().equalsIgnoreCase(name))
                        .findFirst()
                        .map(one -> new Condition.AccountRef(one.id(), one.name()))
                        .orElseThrow(() -> unknown(name, all)))
                .toList();
    }

    private static IllegalArgumentException unknown(String name, List<Account> all) {
        String known = all.isEmpty()
                ? "none has been added yet"
                : "there are: " + all.stream().map(Account::name).collect(Collectors.joining(", "));
        return new IllegalArgumentException("There is no account “%s”; %s.".formatted(name, known));
    }

    private static Effect effect(Line line, Finder finder) {
        return switch (line.kind()) {
            case FILE -> new Effect.FileInto(finder.folder(FolderPath.parse(line.text())));
            case LABEL -> new Effect.Label(finder.label(FolderPath.parse(line.text())), true);
            case CATEGORY -> new Effect.Categorise(finder.category(line.text().strip()));
            case READ -> new Effect.MarkRead(true);
            case SENDER, SENT_TO, SUBJECT, LIST, ACCOUNT ->
                throw new IllegalArgumentException(
                        "“%s” cannot be done.".formatted(line.kind().words()));
        };
    }
}
