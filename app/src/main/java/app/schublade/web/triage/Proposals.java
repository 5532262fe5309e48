package app.schublade.web.triage;

import app.schublade.store.noise.ListsStore;
import app.schublade.store.triage.TidyStore;
import app.schublade.store.triage.TidyStore.TidyHabit;
import app.schublade.web.frame.Dates;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** What the day sheet proposes to do. */
@Component
class Proposals {
    private final TidyStore tidy;
    private final ListsStore lists;
    private final Dates dates;

    Proposals(TidyStore tidy, ListsStore lists, Dates dates) {
        this.tidy = tidy;
        this.lists = lists;
        this.dates = dates;
    }

    /** @param address of the page where it is done */
    public record DayProposal(String text, String address) {}

    List<DayProposal> of(long userId) {
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
        return all;
    }
}
