package app.schublade.core.filing;

import app.schublade.core.message.Message;
import app.schublade.core.message.Trait;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * What one rule of a book would do to the mail that is there. Messages are shown to it one by one; it keeps figures
 * only, so that its memory does not grow with the mail.
 */
public final class TrialRun {
    private final RuleBook book;
    private final Rule rule;
    private final long inbox;
    private final @Nullable Long target;
    private final LocalDateTime yearAgo;
    private int seen;
    private int matching;
    private int changed;
    private int leaveInbox;
    private int unreadLeaveInbox;
    private int flaggedLeaveInbox;
    private int keyLeaveInbox;
    private int byHand;
    private int asByHand;
    private int inYear;
    private final SortedMap<Integer, Integer> takenFirst = new TreeMap<>();

    /**
     * @param book with the rule in it, switched on
     * @param inbox the id of the Inbox
     */
    public TrialRun(RuleBook book, Rule rule, long inbox, LocalDate today) {
        yearAgo = today.minusYears(1).atStartOfDay();
        this.book = book;
        this.rule = rule;
        this.inbox = inbox;
        target = rule.then().stream()
                .filter(Effect.FileInto.class::isInstance)
                .map(effect -> ((Effect.FileInto) effect).folder().id())
                .findFirst()
                .orElse(null);
    }

    /** What became of a message that the rule's conditions take. */
    public enum TrialOutcome {
        /** The rule would change it. */
        CHANGES,
        /** It is already as the rule wants it. */
        AS_WANTED,
        /** An earlier rule files it or stops. */
        TAKEN_FIRST
    }

    /**
     * One line of the trial run.
     *
     * @param takenBy the number of the rule that was first, 0 if none
     */
    public record TrialLine(TrialOutcome outcome, State before, State after, int takenBy) {
        public boolean moves() {
            return before.folder() != after.folder();
        }
    }

    /**
     * @param seen how many messages were looked at
     * @param matching how many the conditions take
     * @param changed how many would be changed
     * @param leaveInbox how many of those would leave the Inbox
     * @param unreadLeaveInbox how many of those are unread
     * @param flaggedLeaveInbox how many of those are flagged
     * @param keyLeaveInbox how many of those are from key persons
     * @param byHand how many that the conditions take lie where the user filed them by hand
     * @param asByHand how many of those the rule would file there, too
     * @param inYear how many that the conditions take came in the last 365 days
     * @param takenFirst by the number of an earlier rule: how many it takes first
     */
    public record TrialFigures(
            int seen,
            int matching,
            int changed,
            int leaveInbox,
            int unreadLeaveInbox,
            int flaggedLeaveInbox,
            int keyLeaveInbox,
            int byHand,
            int asByHand,
            int inYear,
            SortedMap<Integer, Integer> takenFirst) {}

    /**
     * Looks at one message; empty if the rule would not take it.
     *
     * @param filedByHand whether the user put it where it lies
     */
    public Optional<TrialLine> look(Message message, State state, boolean filedByHand) {
        seen++;
        if (rule.reasons(new RuleInput(message, state)) == null) {
            return Optional.empty();
        }
        matching++;
        inYear += message.received().isAfter(yearAgo) ? 1 : 0;
        compare(state, filedByHand);
        return Optional.of(count(decide(book.file(message, state), state), message));
    }

    private void compare(State state, boolean filedByHand) {
        if (filedByHand && target != null) {
            byHand++;
            asByHand += target == state.folder() ? 1 : 0;
        }
    }

    private TrialLine decide(Verdict verdict, State state) {
        Verdict.Hit hit = verdict.of(rule.id()).orElse(null);
        int earlier = takenBy(verdict, hit);
        if (hit == null) {
            return new TrialLine(TrialOutcome.TAKEN_FIRST, state, state, earlier);
        }
        State after = hit.on(state);
        if (hit.changes(state)) {
            return new TrialLine(TrialOutcome.CHANGES, state, after, earlier);
        }
        return new TrialLine(
                hit.outranked().isEmpty() ? TrialOutcome.AS_WANTED : TrialOutcome.TAKEN_FIRST, state, state, earlier);
    }

    /** The earlier rule that files the message or ends the rules; 0 if none stands in the way. */
    private static int takenBy(Verdict verdict, Verdict.@Nullable Hit own) {
        if (own != null && own.outranked().isEmpty()) {
            return 0;
        }
        for (Verdict.Hit hit : verdict.hits()) {
            boolean files = hit.effects().stream().anyMatch(Effect::moves);
            if (own == null ? hit.rule().last() : files) {
                return hit.number();
            }
        }
        return 0;
    }

    private TrialLine count(TrialLine line, Message message) {
        if (line.takenBy() > 0) {
            takenFirst.merge(line.takenBy(), 1, Integer::sum);
        }
        if (line.outcome() == TrialOutcome.CHANGES) {
            changed++;
            if (line.before().folder() == inbox && line.moves()) {
                leaveInbox++;
                unreadLeaveInbox += line.before().unread() ? 1 : 0;
                flaggedLeaveInbox += line.before().flagged() ? 1 : 0;
                keyLeaveInbox += message.is(Trait.KEY_PERSON) ? 1 : 0;
            }
        }
        return line;
    }

    public TrialFigures figures() {
        return new TrialFigures(
                seen,
                matching,
                changed,
                leaveInbox,
                unreadLeaveInbox,
                flaggedLeaveInbox,
                keyLeaveInbox,
                byHand,
                asByHand,
                inYear,
                new TreeMap<>(takenFirst));
    }
}
