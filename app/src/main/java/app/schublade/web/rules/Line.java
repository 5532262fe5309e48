package app.schublade.web.rules;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Term;
import app.schublade.core.filing.Term.Kind;
import app.schublade.core.filing.Text.Match;
import app.schublade.core.problem.InputProblem;
import app.schublade.web.frame.Choice;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;

/**
 * One line of a rule's conditions as it is being edited, complete or not.
 *
 * @param match how text is compared; of no meaning where there is none
 * @param text several values stand with commas between them
 * @param depth how many groups the line is in; the lines of a group follow it
 */
public record Line(Kind kind, Match match, boolean negated, String text, int depth) {
    /** How many groups may lie in each other. */
    private static final int MAX_DEPTH = 3;

    Line(Kind kind, String text) {
        this(kind, Match.WORDS, false, text, 0);
    }

    boolean isBlank() {
        return kind.needsValues() && text.isBlank();
    }

    static List<Line> of(List<Condition> conditions, Term.Names names) {
        List<Line> lines = new ArrayList<>();
        conditions.forEach(condition -> add(Term.of(condition, names), 0, lines));
        return lines;
    }

    private static void add(Term term, int depth, List<Line> lines) {
        Match match = term.match() == null ? Match.WORDS : term.match();
        lines.add(new Line(term.kind(), match, term.negated(), text(term), depth));
        term.parts().forEach(part -> add(part, depth + 1, lines));
    }

    private static String text(Term term) {
        List<String> values = term.values();
        return term.kind() == Kind.HEADER && !values.isEmpty()
                ? values.get(0) + ": " + String.join(", ", values.subList(1, values.size()))
                : String.join(", ", values);
    }

    /** What the lines mean. */
    static List<Term> terms(List<Line> lines) {
        return terms(lines, 0, lines.size(), 0);
    }

    private static List<Term> terms(List<Line> lines, int from, int to, int depth) {
        List<Term> terms = new ArrayList<>();
        for (int i = from; i < to; ) {
            Line line = lines.get(i);
            int end = line.end(lines, i, to, depth);
            List<Term> parts = line.kind.isGroup() ? terms(lines, i + 1, end, depth + 1) : List.of();
            if (!line.kind.isGroup() || !parts.isEmpty()) {
                terms.add(new Term(line.kind, line.match, line.negated, line.values(), parts));
            }
            i = end;
        }
        return terms;
    }

    /** Where what belongs to the line at a place ends. */
    private int end(List<Line> lines, int at, int to, int depth) {
        int end = at + 1;
        while (kind.isGroup() && end < to && lines.get(end).depth > depth) {
            end++;
        }
        return end;
    }

    private List<String> values() {
        if (kind == Kind.HEADER) {
            int colon = text.indexOf(':');
            if (colon < 1) {
                throw new InputProblem(
                        "“%s” names no header field; write it like X-Project: lanterns.".formatted(text));
            }
            return Stream.concat(Stream.of(text.substring(0, colon).strip()), split(text.substring(colon + 1)).stream())
                    .toList();
        }
        return split(text);
    }

    private List<String> split(String values) {
        // A regular expression may have commas of its own.
        Stream<String> all =
                kind.isText() && match == Match.REGEX ? Stream.of(values) : Arrays.stream(values.split(",", -1));
        return all.map(String::strip).filter(value -> !value.isEmpty()).toList();
    }

    /** Lines as they come from the page, a list for each field. */
    static List<Line> lines(
            List<String> kinds, List<String> matches, List<String> nots, List<String> texts, List<String> depths) {
        List<Line> lines = new ArrayList<>();
        for (int i = 0; i < Math.min(kinds.size(), texts.size()); i++) {
            RuleForm.checkLines(i);
            int before = lines.isEmpty() ? -1 : lines.get(i - 1).depth;
            boolean inGroup = !lines.isEmpty() && lines.get(i - 1).kind.isGroup();
            int depth = i < depths.size() ? Choice.number(depths.get(i)) : 0;
            lines.add(new Line(
                    Choice.of(Kind.class, kinds.get(i)),
                    i < matches.size() ? Choice.of(Match.class, matches.get(i)) : Match.WORDS,
                    i < nots.size() && nots.get(i).equals("not"),
                    RuleForm.limited(texts.get(i)),
                    Math.max(0, Math.min(depth, inGroup ? before + 1 : before))));
        }
        return lines;
    }

    static List<Line> plus(List<Line> lines) {
        List<Line> longer = new ArrayList<>(lines);
        longer.add(new Line(Kind.SENDER, ""));
        return longer;
    }

    static List<Line> plus(List<Line> lines, int group) {
        if (group < 0 || group >= lines.size() || lines.get(group).depth >= MAX_DEPTH) {
            return lines;
        }
        int depth = lines.get(group).depth;
        List<Line> longer = new ArrayList<>(lines);
        longer.add(
                lines.get(group).end(lines, group, lines.size(), depth),
                new Line(Kind.SENDER, Match.WORDS, false, "", depth + 1));
        return longer;
    }

    static List<Line> minus(List<Line> lines, int index) {
        List<Line> shorter = new ArrayList<>(lines);
        if (index >= 0 && index < lines.size()) {
            Line line = lines.get(index);
            shorter.subList(index, line.end(lines, index, lines.size(), line.depth))
                    .clear();
        }
        return shorter;
    }
}
