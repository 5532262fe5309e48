package app.schublade.web.rules;

import app.schublade.core.filing.BookRun;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.TrialRun;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.query.Query;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.filing.RecordStore;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RuleStore;
import app.schublade.web.frame.Dates;
import app.schublade.work.Scan;
import app.schublade.work.Scans;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Runs a rule over the mail that is there: to show what it would do, or to do it. Both decide with the same code. */
@Component
class Trials {
    private static final Set<SpecialUse> NEVER_RUN_OVER = Set.of(SpecialUse.TRASH, SpecialUse.JUNK, SpecialUse.DRAFTS);

    private final RuleInputStore subjects;
    private final RuleStore rules;
    private final ChosenMails mails;
    private final AccountStore accounts;
    private final RecordStore records;
    private final Dates dates;
    private final Scans scans;

    Trials(
            RuleInputStore subjects,
            RuleStore rules,
            ChosenMails mails,
            AccountStore accounts,
            RecordStore records,
            Dates dates,
            Scans scans) {
        this.subjects = subjects;
        this.rules = rules;
        this.mails = mails;
        this.accounts = accounts;
        this.records = records;
        this.dates = dates;
        this.scans = scans;
    }

    /**
     * What a rule would do.
     *
     * @param toFile how many messages would be changed, those unticked left out
     * @param more how many lines are not shown
     */
    public record Trial(TrialRun.TrialFigures figures, int toFile, List<TrialRow> rows, int more) {}

    /**
     * One line of a trial run.
     *
     * @param fate what becomes of it: {@code "Inbox → Schools"}, {@code "stays: rule 2 filed it first"}
     * @param ticked whether it would be filed
     */
    public record TrialRow(
            ListRow row, Account account, String date, String exact, String fate, boolean changes, boolean ticked) {}

    /**
     * Looks what a rule would do.
     *
     * @param unticked messages that the user has left out
     * @param most so many lines are shown
     */
    Scan<Trial> look(long userId, Rule rule, ChosenMail over, Set<Long> unticked, int most, @Nullable String instead) {
        Query mail = mails.query(userId, over);
        return scans.begin(
                userId, subjects.count(userId, mail), instead, scan -> look(userId, rule, mail, unticked, most, scan));
    }

    private Trial look(long userId, Rule rule, Query mail, Set<Long> unticked, int most, Scan<Trial> scan) {
        RuleBook book = with(rules.book(userId), rule);
        TrialRun run = new TrialRun(
                book,
                switchedOn(rule),
                mails.places(userId).special(SpecialUse.INBOX).id(),
                dates.today());
        Map<Long, Account> known =
                accounts.of(userId).stream().collect(Collectors.toMap(Account::id, Function.identity()));
        Predicate<RuleInputStore.RuleCandidate> byHand = filedByHand(userId);
        Fates fates = new Fates(mails.places(userId), rule);
        List<TrialRow> rows = new ArrayList<>();
        int[] counted = new int[2];
        Supplier<Trial> soFar = () -> new Trial(run.figures(), counted[0], List.copyOf(rows), counted[1] - rows.size());
        subjects.forEach(userId, mail, book.needs(), subject -> {
            run.look(subject.message(), subject.state(), byHand.test(subject)).ifPresent(line -> {
                boolean changes = line.outcome() == TrialRun.TrialOutcome.CHANGES;
                boolean ticked = changes && !unticked.contains(subject.row().id());
                counted[0] += ticked ? 1 : 0;
                counted[1]++;
                Account account = known.get(subject.row().accountId());
                if (rows.size() < most && account != null) {
                    rows.add(row(subject.row(), account, fates.of(line), changes, ticked));
                }
            });
            scan.step(soFar);
        });
        return soFar.get();
    }

    /** The folders that a run can go over: those that every account has, then the user's own as they stand in the cabinet. */
    List<Places.Folder> folders(long userId) {
        Places all = mails.places(userId);
        Stream<Places.Folder> shared = all.folders().stream()
                .filter(folder -> folder.use() != null && !NEVER_RUN_OVER.contains(folder.use()))
                .sorted(Comparator.comparing(Places.Folder::use));
        return Stream.concat(shared, all.folderTree().inOrder()).toList();
    }

    /** Mail in a folder of the user's own was put there by the user, unless a rule did it. */
    private Predicate<RuleInputStore.RuleCandidate> filedByHand(long userId) {
        Set<Long> byRules = records.filedByRules(userId);
        Set<Long> own = mails.places(userId).folders().stream()
                .filter(folder -> folder.use() == null)
                .map(Places.Folder::id)
                .collect(Collectors.toSet());
        return subject -> own.contains(subject.state().folder())
                && !byRules.contains(subject.row().id());
    }

    private TrialRow row(ListRow row, Account account, String fate, boolean changes, boolean ticked) {
        return new TrialRow(
                row, account, dates.brief(row.received()), dates.exact(row.received()), fate, changes, ticked);
    }

    /** Looks what all rules would do. */
    Scan<BookRun.Findings> check(long userId, ChosenMail over, @Nullable String instead) {
        Query mail = mails.query(userId, over);
        return scans.begin(userId, subjects.count(userId, mail), instead, scan -> {
            RuleBook book = rules.book(userId);
            BookRun run = new BookRun(book);
            subjects.forEach(userId, mail, book.needs(), subject -> {
                run.look(subject.row().id(), subject.message(), subject.state());
                scan.step(run::findings);
            });
            return run.findings();
        });
    }

    /** The book with this rule in its place, or at the end if it is new, and switched on. */
    static RuleBook with(RuleBook book, Rule rule) {
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

        String of(TrialRun.TrialLine line) {
            return switch (line.outcome()) {
                case AS_WANTED -> "no change needed";
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
                    .filter(effect -> !(effect instanceof Effect.FileInto) && !(effect instanceof Effect.Besides))
                    .map(Effect::sentence)
                    .collect(Collectors.joining(", "));
        }
    }
}
