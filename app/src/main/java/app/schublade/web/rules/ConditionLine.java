package app.schublade.web.rules;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Term;
import app.schublade.core.filing.Term.TermKind;
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
public record ConditionLine(TermKind kind, Match match, boolean negated, String text, int depth) {
    /** How many groups may lie in each other. */
    private static final int MAX_DEPTH = 3;

    ConditionLine(TermKind kind, String text) {
        this(kind, Match.WORDS, false, text, 0);
    }

    boolean isBlank() {
        return kind.needsValues() && text.isBlank();
    }

    static List<ConditionLine> of(List<Condition> conditions, Term.Names names) {
        List<ConditionLine> lines = new ArrayList<>();
        conditions.forEach(condition -> add(Term.of(condition, names), 0, lines));
        return lines;
    }

    private static void add(Term term, int depth, List<ConditionLine> lines) {
        Match match = term.match() == null ? Match.WORDS : term.match();
        lines.add(new ConditionLine(term.kind(), match, term.negated(), text(term), depth));
        term.parts().forEach(part -> add(part, depth + 1, lines));
    }

    private static String text(Term term) {
        List<String> values = term.values();
        return term.kind() == TermKind.HEADER && !values.isEmpty()
                ? values.get(0) + ": " + String.join(", ", values.subList(1, values.size()))
                : String.join(", ", values);
    }

    /** What the lines mean. */
    static List<Term> terms(List<ConditionLine> lines) {
        return terms(lines, 0, lines.size(), 0);
    }

    private static List<Term> terms(List<ConditionLine> lines, int from, int to, int depth) {
        List<Term> terms = new ArrayList<>();
        for (int i = from; i < to; ) {
            ConditionLine line = lines.get(i);
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
    private int end(List<ConditionLine> lines, int at, int to, int depth) {
        int end = at + 1;
        while (kind.isGroup() && end < to && lines.get(end).depth > depth) {
            end++;
        }
        return end;
    }

    private List<String> values() {
        if (kind == TermKind.HEADER) {
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
    static List<ConditionLine> lines(
            List<String> kinds, List<String> matches, List<String> nots, List<String> texts, List<String> depths) {
        List<ConditionLine> lines = new ArrayList<>();
        for (int i = 0; i < Math.min(kinds.size(), texts.size()); i++) {
            RuleForm.checkLines(i);
            int before = lines.isEmpty() ? -1 : lines.get(i - 1).depth;
            boolean inGroup = !lines.isEmpty() && lines.get(i - 1).kind.isGroup();
            int depth = i < depths.size() ? Choice.number(depths.get(i)) : 0;
            lines.add(new ConditionLine(
                    Choice.of(TermKind.class, kinds.get(i)),
                    i < matches.size() ? Choice.of(Match.class, matches.get(i)) : Match.WORDS,
                    i < nots.size() && nots.get(i).equals("not"),
                    RuleForm.limited(texts.get(i)),
                    Math.max(0, Math.min(depth, inGroup ? before + 1 : before))));
        }
        return lines;
    }

    static List<ConditionLine> plus(List<ConditionLine> lines) {
        List<ConditionLine> longer = new ArrayList<>(lines);
        longer.add(new ConditionLine(TermKind.SENDER, ""));
        return longer;
    }

    static List<ConditionLine> plus(List<ConditionLine> lines, int group) {
        if (group < 0 || group >= lines.size() || lines.get(group).depth >= MAX_DEPTH) {
            return lines;
        }
        int depth = lines.get(group).depth;
        List<ConditionLine> longer = new ArrayList<>(lines);
        longer.add(
                lines.get(group).end(lines, group, lines.size(), depth),
                new ConditionLine(TermKind.SENDER, Match.WORDS, false, "", depth + 1));
        return longer;
    }

    static List<ConditionLine> minus(List<ConditionLine> lines, int index) {
        List<ConditionLine> shorter = new ArrayList<>(lines);
        if (index >= 0 && index < lines.size()) {
            ConditionLine line = lines.get(index);
            shorter.subList(index, line.end(lines, index, lines.size(), line.depth))
                    .clear();
        }
        return shorter;
    }
}
