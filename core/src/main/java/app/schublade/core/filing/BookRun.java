package app.schublade.core.filing;

import app.schublade.core.message.Message;
import java.util.ArrayList;
import java.util.List;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * What all rules together would do to the mail that is there, and where they want different things. Messages are shown to
 * it one by one; it keeps figures and a few examples, so that its memory does not grow with the mail.
 */
public final class BookRun {
    private static final int MAX_EXAMPLES = 3;

    private final RuleBook book;
    private final List<Tally> tallies;
    private int seen;
    private int changed;

    public BookRun(RuleBook book) {
        this.book = book;
        tallies = book.rules().stream().map(rule -> new Tally()).toList();
    }

    /**
     * What is known after some messages; it does not change when more are looked at.
     *
     * @param seen how many messages were looked at
     * @param changed how many of them would be changed
     * @param lines one a rule, in the order of the book
     */
    public record Findings(int seen, int changed, List<BookLine> lines) {
        public Findings {
            lines = List.copyOf(lines);
        }
    }

    /**
     * What became of one rule.
     *
     * @param number the rule's place in the book, from 1
     * @param takes how many messages it takes that no earlier rule ended the rules for
     * @param changes how many of them it would change
     * @param conflicts messages that it would file elsewhere than an earlier rule does, by that rule's number
     */
    public record BookLine(Rule rule, int number, int takes, int changes, SortedMap<Integer, Conflict> conflicts) {}

    /**
     * Two rules want different folders for some messages.
     *
     * @param examples the ids of some of them
     */
    public record Conflict(int messages, List<Long> examples) {
        public Conflict {
            examples = List.copyOf(examples);
        }

        private Conflict plus(long message) {
            List<Long> more = new ArrayList<>(examples);
            if (more.size() < MAX_EXAMPLES) {
                more.add(message);
            }
            return new Conflict(messages + 1, more);
        }
    }

    /** What is counted for one rule. */
    private static final class Tally {
        private int takes;
        private int changes;
        private final SortedMap<Integer, Conflict> conflicts = new TreeMap<>();

        /** @param now the message as the earlier rules leave it */
        private void count(Verdict.Hit hit, State now, long message, int filedBy) {
            takes++;
            changes += hit.on(now).equals(now) ? 0 : 1;
            boolean elsewhere =
                    hit.outranked().stream().anyMatch(effect -> effect.on(now).folder() != now.folder());
            if (filedBy > 0 && elsewhere) {
                conflicts.put(
                        filedBy,
                        conflicts
                                .getOrDefault(filedBy, new Conflict(0, List.of()))
                                .plus(message));
            }
        }
    }

    /**
     * Looks at one message.
     *
     * @return what the rules would do to it; without hits that change nothing
     */
    public List<Verdict.Hit> look(long id, Message message, State state) {
        seen++;
        List<Verdict.Hit> changing = new ArrayList<>();
        int filedBy = 0;
        State now = state;
        for (Verdict.Hit hit : book.file(message, state).hits()) {
            tallies.get(hit.number() - 1).count(hit, now, id, filedBy);
            State after = hit.on(now);
            if (hit.changes(now)) {
                changing.add(hit);
            }
            boolean files = hit.moves();
            filedBy = filedBy == 0 && files ? hit.number() : filedBy;
            now = after;
        }
        changed += changing.isEmpty() ? 0 : 1;
        return changing;
    }

    public Findings findings() {
        List<BookLine> lines = new ArrayList<>();
        for (int i = 0; i < tallies.size(); i++) {
            Tally tally = tallies.get(i);
            lines.add(new BookLine(
                    book.rules().get(i), i + 1, tally.takes, tally.changes, new TreeMap<>(tally.conflicts)));
        }
        return new Findings(seen, changed, lines);
    }
}
