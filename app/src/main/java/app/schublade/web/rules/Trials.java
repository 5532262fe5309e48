package app.schublade.web.rules;

import app.schublade.core.filing.BookRun;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.TrialRun;
import app.schublade.core.filing.Verdict;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.Account;
import app.schublade.store.AccountStore;
import app.schublade.store.Copier;
import app.schublade.store.FilingStore;
import app.schublade.store.ListRow;
import app.schublade.store.PlaceStore;
import app.schublade.store.Places;
import app.schublade.store.RecordStore;
import app.schublade.store.RuleStore;
import app.schublade.store.SubjectStore;
import app.schublade.web.frame.Dates;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Runs a rule over the mail that is there: to show what it would do, or to do it. Both decide with the same code. */
@Component
class Trials {
    /** A run over all that came from others. */
    static final String RECEIVED = "received";

    /** A run over what the user wrote, too. */
    static final String EVERYTHING = "everything";

    private final SubjectStore subjects;
    private final RuleStore rules;
    private final PlaceStore places;
    private final AccountStore accounts;
    private final Copier copier;
    private final Dates dates;
    private final RecordStore records;

    Trials(
            SubjectStore subjects,
            RuleStore rules,
            PlaceStore places,
            AccountStore accounts,
            Copier copier,
            Dates dates,
            RecordStore records) {
        this.records = records;
        this.subjects = subjects;
        this.rules = rules;
        this.places = places;
        this.accounts = accounts;
        this.copier = copier;
        this.dates = dates;
    }

    /**
     * What a rule would do.
     *
     * @param toFile how many messages would be changed, those unticked left out
     * @param more how many lines are not shown
     */
    record Trial(TrialRun.Figures figures, int toFile, List<Row> rows, int more) {}

    /**
     * One line of a trial run.
     *
     * @param fate what becomes of it: {@code "Inbox → Schools"}, {@code "stays: rule 2 filed it first"}
     * @param ticked whether it would be filed
     */
    record Row(ListRow row, Account account, String date, String exact, String fate, boolean changes, boolean ticked) {}

    /**
     * @param over see {@link #scope}
     * @param unticked messages that the user has left out
     */
    Trial look(long userId, Rule rule, String over, Set<Long> unticked, int most) {
        RuleBook book = with(rules.book(userId), rule);
        TrialRun run = new TrialRun(book, switchedOn(rule), places.inbox(userId));
        Map<Long, Account> known =
                accounts.of(userId).stream().collect(Collectors.toMap(Account::id, Function.identity()));
        Predicate<SubjectStore.Subject> byHand = filedByHand(userId);
        Fates fates = new Fates(places.of(userId, null), rule);
        List<Row> rows = new ArrayList<>();
        int[] counted = new int[2];
        subjects.forEach(
                userId,
                scope(userId, over),
                book.needs(),
                subject -> run.look(subject.message(), subject.state(), byHand.test(subject))
                        .ifPresent(line -> {
                            boolean changes = line.outcome() == TrialRun.Outcome.CHANGES;
                            boolean ticked =
                                    changes && !unticked.contains(subject.row().id());
                            counted[0] += ticked ? 1 : 0;
                            counted[1]++;
                            Account account = known.get(subject.row().accountId());
                            if (rows.size() < most && account != null) {
                                rows.add(row(subject.row(), account, fates.of(line), changes, ticked));
                            }
                        }));
        return new Trial(run.figures(), counted[0], rows, counted[1] - rows.size());
    }

    /** The folders that a run can go over. */
    List<Places.Folder> folders(long userId) {
        return places.of(userId, null).folders();
    }

    /**
     * The mail that a run goes over.
     *
     * @param over {@link #RECEIVED}, {@link #EVERYTHING}, or the id of a folder
     */
    private SubjectStore.Scope scope(long userId, String over) {
        if (over.equals(EVERYTHING)) {
            return SubjectStore.Scope.EVERYTHING;
        }
        if (over.matches("\\d{1,18}")) {
            return new SubjectStore.Scope(Set.of(Long.valueOf(over)), true);
        }
        return new SubjectStore.Scope(
                Set.of(places.special(userId, SpecialUse.SENT), places.special(userId, SpecialUse.DRAFTS)), false);
    }

    /** Mail in a folder of the user's own was put there by the user, unless a rule did it. */
    private Predicate<SubjectStore.Subject> filedByHand(long userId) {
        Set<Long> byRules = records.filedByRules(userId);
        Set<Long> own = places.of(userId, null).folders().stream()
                .filter(folder -> folder.use() == null)
                .map(Places.Folder::id)
                .collect(Collectors.toSet());
        return subject -> own.contains(subject.state().folder())
                && !byRules.contains(subject.row().id());
    }

    private Row row(ListRow row, Account account, String fate, boolean changes, boolean ticked) {
        return new Row(row, account, dates.brief(row.received()), dates.exact(row.received()), fate, changes, ticked);
    }

    /** Carries the rule out on all that a trial run says it would change; one batch, one undo. */
    FilingStore.Outcome carryOut(long userId, Rule rule, String over, Set<Long> unticked) {
        RuleBook book = with(rules.book(userId), rule);
        Rule on = switchedOn(rule);
        Map<Long, List<Verdict.Hit>> hits = new LinkedHashMap<>();
        subjects.forEach(userId, scope(userId, over), book.needs(), subject -> {
            if (!unticked.contains(subject.row().id())) {
                book.file(subject.message(), subject.state())
                        .of(on.id())
                        .filter(hit -> hit.changes(subject.state()))
                        .ifPresent(hit -> hits.put(subject.row().id(), List.of(hit)));
            }
        });
        return copier.run(userId, "Run of “%s”: %,d messages".formatted(rule.name(), hits.size()), hits);
    }

    /** What all rules would do to the mail that came from others. */
    BookRun check(long userId) {
        return check(userId, new LinkedHashMap<>());
    }

    private BookRun check(long userId, Map<Long, List<Verdict.Hit>> hits) {
        RuleBook book = rules.book(userId);
        BookRun run = new BookRun(book);
        subjects.forEach(userId, scope(userId, RECEIVED), book.needs(), subject -> {
            long id = subject.row().id();
            List<Verdict.Hit> changing = run.look(id, subject.message(), subject.state());
            if (!changing.isEmpty()) {
                hits.put(id, changing);
            }
        });
        return run;
    }

    /** Carries all rules out on the mail that came from others; one batch, one undo. */
    FilingStore.Outcome carryOutAll(long userId) {
        Map<Long, List<Verdict.Hit>> hits = new LinkedHashMap<>();
        check(userId, hits);
        return copier.run(userId, "Run of all rules: %,d messages".formatted(hits.size()), hits);
    }

    /** The book with this rule in its place, or at the end if it is new, and switched on. */
    private static RuleBook with(RuleBook book, Rule rule) {
        List<Rule> all = new ArrayList<>(book.rules());
        int at = all.stream().map(Rule::id).toList().indexOf(rule.id());
        if (at < 0) {
            all.add(switchedOn(rule));
        } else {
            all.set(at, switchedOn(rule));
        }
        return new RuleBook(all);
    }

    private static Rule switchedOn(Rule rule) {
        return new Rule(rule.id(), rule.name(), true, rule.when(), rule.unless(), rule.then(), rule.last());
    }

    /** Says what becomes of messages; the folder that is still to be made is known from the rule. */
    private record Fates(Map<Long, FolderPath> paths, Rule rule) {
        Fates(Places places, Rule rule) {
            this(paths(places, rule), rule);
        }

        private static Map<Long, FolderPath> paths(Places places, Rule rule) {
            Map<Long, FolderPath> paths = new HashMap<>();
            places.folders().forEach(folder -> paths.put(folder.id(), folder.path()));
            rule.then().stream()
                    .filter(Effect.FileInto.class::isInstance)
                    .map(Effect.FileInto.class::cast)
                    .forEach(file -> paths.put(file.folder().id(), file.folder().path()));
            return paths;
        }

        String of(TrialRun.Line line) {
            return switch (line.outcome()) {
                case AS_WANTED -> "is so already";
                case TAKEN_FIRST -> "stays: rule %d takes it first".formatted(line.takenBy());
                case CHANGES ->
                    line.moves()
                            ? name(line.before().folder()) + " → "
                                    + name(line.after().folder())
                            : others();
            };
        }

        private String name(long folder) {
            FolderPath path = paths.get(folder);
            return path == null ? "?" : path.name();
        }

        private String others() {
            return rule.then().stream()
                    .filter(effect -> !(effect instanceof Effect.FileInto) && !effect.forNewMailOnly())
                    .map(Effect::sentence)
                    .collect(Collectors.joining(", "));
        }
    }
}
