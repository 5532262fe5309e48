package app.schublade.web.triage;

import app.schublade.core.filing.BuiltIn;
import app.schublade.core.query.Query;
import app.schublade.store.cabinet.TicklerStore;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.ListStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RulePauses;
import app.schublade.store.rule.RulePauses.PausedRule;
import app.schublade.store.triage.AwaitingStore;
import app.schublade.store.triage.AwaitingStore.Awaited;
import app.schublade.store.triage.DayStore;
import app.schublade.web.frame.Dates;
import app.schublade.web.triage.Proposals.DayProposal;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Puts the day sheet together: what happened by itself, and what is open. */
@Component
class DaySheets {
    /** So many messages are named of each kind; the rest is a figure. */
    private static final int MOST = 20;
    /** Whoever has never said that all was seen is told of so much. */
    private static final Duration AT_FIRST = Duration.ofDays(1);

    private final DayStore day;
    private final AwaitingStore awaiting;
    private final TicklerStore tickler;
    private final ListStore lists;
    private final RulePauses pauses;
    private final Proposals proposals;
    private final PlaceStore places;

    DaySheets(
            DayStore day,
            AwaitingStore awaiting,
            TicklerStore tickler,
            ListStore lists,
            RulePauses pauses,
            Proposals proposals,
            PlaceStore places) {
        this.day = day;
        this.awaiting = awaiting;
        this.tickler = tickler;
        this.lists = lists;
        this.pauses = pauses;
        this.proposals = proposals;
        this.places = places;
    }

    /**
     * A day sheet.
     *
     * @param since from when on it tells
     * @param paused rules that could not do what they say
     * @param due the first of what is due, or overdue
     * @param moreDue whether that is not all
     * @param back how many messages came back from the tickler and lie in the Inbox
     * @param open what nobody answered
     */
    public record DaySheet(
            Instant since,
            List<PausedRule> paused,
            List<ListRow> due,
            boolean moreDue,
            int back,
            List<Awaited> open,
            List<DayProposal> proposals,
            List<RuleLine> filed,
            List<FolderLine> arrived) {
        /** Whether there is nothing to tell. */
        boolean isEmpty() {
            return paused.isEmpty()
                    && due.isEmpty()
                    && back == 0
                    && open.isEmpty()
                    && proposals.isEmpty()
                    && filed.isEmpty()
                    && arrived.isEmpty();
        }
    }

    /** A folder and its name, as a line names it. */
    public record FolderLine(String name, long folder, int messages, int unread) {}

    /**
     * What a rule did, as a line tells it.
     *
     * @param folder into which it filed the messages, or null
     */
    public record RuleLine(
            String rule,
            @Nullable Long id,
            String did,
            @Nullable Long folder,
            int messages) {
        /** Whether no rule of the user's did it. */
        public boolean isBuiltIn() {
            return id == null && BuiltIn.isName(rule);
        }
    }

    /** What there is to tell; its days are those of the reader of {@link Dates}. */
    DaySheet of(long user, Dates dates) {
        Instant now = dates.now();
        Instant since = day.seen(user).orElseGet(() -> now.minus(AT_FIRST));
        Places known = places.of(user, null);
        List<ListRow> due = lists
                .page(
                        user,
                        ListStore.Ranks.NONE,
                        ListQuery.newest(new Query.OnDay(Query.MessageDay.DUE, null, dates.today()), MOST + 1))
                .stream()
                .map(ListStore.ListLine::row)
                .toList();
        List<Awaited> open =
                awaiting.of(user).stream().filter(one -> one.isOverdue(now)).toList();
        return new DaySheet(
                since,
                pauses.paused(user),
                due.stream().limit(MOST).toList(),
                due.size() > MOST,
                tickler.back(user, null),
                open.stream().limit(MOST).toList(),
                proposals.of(user, known),
                day.filed(user, since).stream()
                        .map(one -> new RuleLine(
                                one.name(), one.rule(), filed(known, one.folder()), one.folder(), one.messages()))
                        .toList(),
                day.arrived(user, since).stream()
                        .map(one -> new FolderLine(
                                known.folderOf(one.folder()).path().shown(),
                                one.folder(),
                                one.messages(),
                                one.unread()))
                        .toList());
    }

    private static String filed(Places known, @Nullable Long folder) {
        return folder == null
                ? "marked"
                : known.folder(folder)
                        .map(one -> "filed into " + one.path().shown())
                        .orElse("filed into a folder that is gone");
    }
}
