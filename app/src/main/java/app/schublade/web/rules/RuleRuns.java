package app.schublade.web.rules;

import app.schublade.core.filing.BookRun;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.Verdict;
import app.schublade.core.message.Amount;
import app.schublade.core.query.Query;
import app.schublade.store.act.Cause;
import app.schublade.store.filing.MessageCopier;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.rule.RuleStore;
import app.schublade.store.work.UnfinishedActStore;
import app.schublade.work.LongActs;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.IntFunction;
import org.springframework.stereotype.Component;

/** Carries rules out on mail that is there, as trial runs say; in the background. */
@Component
class RuleRuns {
    private final RuleInputStore subjects;
    private final RuleStore rules;
    private final ChosenMails mails;
    private final MessageCopier copier;
    private final LongActs longActs;
    private final UnfinishedActStore unfinished;

    RuleRuns(
            RuleInputStore subjects,
            RuleStore rules,
            ChosenMails mails,
            MessageCopier copier,
            LongActs longActs,
            UnfinishedActStore unfinished) {
        this.subjects = subjects;
        this.rules = rules;
        this.mails = mails;
        this.copier = copier;
        this.longActs = longActs;
        this.unfinished = unfinished;
    }

    /**
     * Carries rules out on all that trial runs say they would change; a batch for each, so that one undo takes it back.
     *
     * @param told says at the end how many messages were changed
     */
    LongActs.LongAct carryOut(
            long userId, List<Rule> chosen, ChosenMail over, Set<Long> unticked, IntFunction<LongActs.ActEnding> told) {
        Query mail = mails.query(userId, over);
        int total = subjects.count(userId, mail) * chosen.size();
        String title = chosen.size() == 1
                ? "Run of “%s”".formatted(chosen.get(0).name())
                : "Run of %d rules".formatted(chosen.size());
        return longActs.begin(userId, title, total, watch -> {
            int changed = 0;
            int[] seen = {0};
            for (Rule rule : chosen) {
                changed += file(
                        userId,
                        "Run of “%s”".formatted(rule.name()),
                        hits(userId, rule, mail, unticked, () -> watch.at(++seen[0], total)),
                        watch);
            }
            return told.apply(changed);
        });
    }

    private Map<Long, List<Verdict.Hit>> hits(long userId, Rule rule, Query mail, Set<Long> unticked, Runnable seen) {
        RuleBook book = Trials.with(rules.book(userId), rule);
        Map<Long, List<Verdict.Hit>> hits = new LinkedHashMap<>();
        subjects.forEach(userId, mail, book.needs(), subject -> {
            seen.run();
            if (!unticked.contains(subject.row().id())) {
                book.file(subject.message(), subject.state())
                        .of(rule.id())
                        .filter(hit -> hit.changes(subject.state()))
                        .ifPresent(hit -> hits.put(subject.row().id(), List.of(hit)));
            }
        });
        return hits;
    }

    /** Returns how many messages were changed. */
    private int file(long userId, String run, Map<Long, List<Verdict.Hit>> hits, LongActs.ProgressWatch watch) {
        String title = "%s: %s".formatted(run, Amount.messages(hits.size()));
        List<Long> all = List.copyOf(hits.keySet());
        if (all.size() <= LongActs.CHUNK) {
            return copier.run(userId, title, hits, 0).changed().size();
        }
        long batch = unfinished.begin(userId, Cause.RUN, title, null, all);
        return longActs.inParts(batch, all, 0, watch, ids -> {
            Map<Long, List<Verdict.Hit>> part = new LinkedHashMap<>();
            ids.forEach(id -> part.put(id, hits.getOrDefault(id, List.of())));
            return copier.run(userId, title, part, batch);
        });
    }

    /** Carries all rules out; one batch, one undo. */
    LongActs.LongAct carryOutAll(long userId, ChosenMail over, IntFunction<LongActs.ActEnding> told) {
        Query mail = mails.query(userId, over);
        int total = subjects.count(userId, mail);
        return longActs.begin(userId, "Run of all rules", total, watch -> {
            RuleBook book = rules.book(userId);
            BookRun run = new BookRun(book);
            Map<Long, List<Verdict.Hit>> hits = new LinkedHashMap<>();
            int[] seen = {0};
            subjects.forEach(userId, mail, book.needs(), subject -> {
                watch.at(++seen[0], total);
                long id = subject.row().id();
                List<Verdict.Hit> changing = run.look(id, subject.message(), subject.state());
                if (!changing.isEmpty()) {
                    hits.put(id, changing);
                }
            });
            return told.apply(file(userId, "Run of all rules", hits, watch));
        });
    }
}
