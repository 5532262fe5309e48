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
    private final List<Line> lines = new ArrayList<>();
    private int seen;
    private int changed;

    public BookRun(RuleBook book) {
        this.book = book;
        for (Rule rule : book.rules()) {
            lines.add(new Line(rule, lines.size() + 1));
        }
    }

    /** What became of one rule. */
    public static final class Line {
        private final Rule rule;
        private final int number;
        private int takes;
        private int changes;
        private final SortedMap<Integer, Conflict> conflicts = new TreeMap<>();

        private Line(Rule rule, int number) {
            this.rule = rule;
            this.number = number;
        }

        public Rule rule() {
            return rule;
        }

        /** The rule's place in the book, from 1. */
        public int number() {
            return number;
        }

        /** How many messages it takes that no earlier rule ended the rules for. */
        public int takes() {
            return takes;
        }

        /** How many of them it would change. */
        public int changes() {
            return changes;
        }

        /** Messages that it would file elsewhere than an earlier rule does, by that rule's number. */
        public SortedMap<Integer, Conflict> conflicts() {
            return new TreeMap<>(conflicts);
        }

        /** @param now the message as the earlier rules leave it */
        private void count(Verdict.Hit hit, State now, long message, int filedBy) {
            takes++;
            changes += hit.on(now).equals(now) ? 0 : 1;
            boolean elsewhere =
                    hit.outranked().stream().anyMatch(effect -> effect.on(now).folder() != now.folder());
            if (filedBy > 0 && elsewhere) {
                conflicts
                        .computeIfAbsent(filedBy, by -> new Conflict(new ArrayList<>()))
                        .add(message);
            }
        }
    }

    /** Two rules want different folders for some messages. */
    public static final class Conflict {
        private int messages;
        private final List<Long> examples;

        private Conflict(List<Long> examples) {
            this.examples = examples;
        }

        private void add(long message) {
            messages++;
            if (examples.size() < MAX_EXAMPLES) {
                examples.add(message);
            }
        }

        public int messages() {
            return messages;
        }

        /** The ids of some of them. */
        public List<Long> examples() {
            return List.copyOf(examples);
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
            lines.get(hit.number() - 1).count(hit, now, id, filedBy);
            State after = hit.on(now);
            if (hit.changes(now)) {
                changing.add(hit);
            }
            boolean files = hit.effects().stream().anyMatch(Effect::moves);
            filedBy = filedBy == 0 && files ? hit.number() : filedBy;
            now = after;
        }
        changed += changing.isEmpty() ? 0 : 1;
        return changing;
    }

    /** How many messages were looked at. */
    public int seen() {
        return seen;
    }

    /** How many of them would be changed. */
    public int changed() {
        return changed;
    }

    /** One line a rule, in the order of the book. */
    public List<Line> lines() {
        return List.copyOf(lines);
    }
}
