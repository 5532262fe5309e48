package app.schublade.web.triage;

import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.Verdict;
import app.schublade.store.filing.RecordStore;
import app.schublade.store.filing.RecordStore.FiledByHand;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.noise.ListsStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RuleStore;
import app.schublade.store.triage.TidyStore;
import app.schublade.store.triage.TidyStore.TidyHabit;
import app.schublade.web.frame.Dates;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** What the day sheet proposes to do. */
@Component
class Proposals {
    /** What was filed by hand so often, always into the same folder, may be done by a rule. */
    private static final int OFTEN = 4;

    private static final Duration LATELY = Duration.ofDays(60);
    private static final int MOST_LOOKED_AT = 12;
    private static final int MOST_RULES = 3;

    private final TidyStore tidy;
    private final ListsStore lists;
    private final RecordStore record;
    private final RuleStore rules;
    private final RuleInputStore subjects;
    private final Dates dates;

    Proposals(
            TidyStore tidy,
            ListsStore lists,
            RecordStore record,
            RuleStore rules,
            RuleInputStore subjects,
            Dates dates) {
        this.record = record;
        this.rules = rules;
        this.subjects = subjects;
        this.tidy = tidy;
        this.lists = lists;
        this.dates = dates;
    }

    /** @param address of the page where it is done */
    public record DayProposal(String text, String address) {}

    List<DayProposal> of(long userId, Places places) {
        List<DayProposal> all = new ArrayList<>();
        TidyHabit habit = tidy.habit(userId);
        int done = habit.day() == dates.today().getDayOfWeek() ? tidy.count(userId, habit.before(dates.now())) : 0;
        if (done > 0) {
            String many = done == 1 ? "One message in the Inbox is" : "%,d messages in the Inbox are".formatted(done);
            all.add(new DayProposal(many + " read and dealt with: tidy up", "/tidy"));
        }
        int persistent = lists.persistent(userId);
        if (persistent > 0) {
            String many = persistent == 1
                    ? "A mailing list that you left still writes"
                    : "%,d mailing lists that you left still write".formatted(persistent);
            all.add(new DayProposal(many + ": block it", "/noise"));
        }
        filedByHand(userId)
                .forEach(one -> all.add(new DayProposal(
                        "You have filed %,d messages from %s into %s by hand: always so"
                                .formatted(
                                        one.messages(),
                                        one.sender().shown(),
                                        places.folderOf(one.folder()).path().shown()),
                        "/rules/new?message=" + one.message())));
        return all;
    }

    /** What is filed by hand again and again, though no rule that would do it was made meanwhile. */
    private List<FiledByHand> filedByHand(long userId) {
        List<FiledByHand> often = record.filedByHand(userId, dates.now().minus(LATELY), OFTEN, MOST_LOOKED_AT);
        if (often.isEmpty()) {
            return often;
        }
        RuleBook book = rules.book(userId);
        return often.stream()
                .filter(one -> subjects.subject(userId, one.message())
                        .filter(subject -> book.file(subject.message(), subject.state()).hits().stream()
                                .noneMatch(Verdict.Hit::moves))
                        .isPresent())
                .limit(MOST_RULES)
                .toList();
    }
}
