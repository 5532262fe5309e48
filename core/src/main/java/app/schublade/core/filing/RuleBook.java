package app.schublade.core.filing;

import app.schublade.core.message.Message;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * All rules of a user in their order, compiled. All that take a message act on it, until one says "no later rules"; the
 * first folder wins, the others are outranked; everything else adds up. Rules that are off are passed over but keep their
 * number.
 */
public final class RuleBook {
    private final List<Rule> rules;
    private final RuleIndex index;

    public RuleBook(List<Rule> rules) {
        this.rules = List.copyOf(rules);
        index = new RuleIndex(this.rules);
    }

    public List<Rule> rules() {
        return rules;
    }

    /**
     * Decides what happens to a message.
     *
     * @param state how it lies and is marked now
     */
    public Verdict file(Message message, State state) {
        RuleInput matter = new RuleInput(message, state);
        return decide(matter, index.candidates(matter));
    }

    /** As {@link #file}, trying every rule: what the compiled book is measured against. */
    public Verdict fileOneByOne(Message message, State state) {
        long[] all = new long[(rules.size() + 63) / 64];
        for (int i = 0; i < rules.size(); i++) {
            all[i >> 6] |= rules.get(i).on() ? 1L << i : 0;
        }
        return decide(new RuleInput(message, state), all);
    }

    /** Tells for every rule, in order, why it acts on a message or does not. */
    public List<Explanation> explain(Message message, State state) {
        RuleInput matter = new RuleInput(message, state);
        Verdict verdict = decide(matter, index.candidates(matter));
        int stoppedBy = verdict.hits().stream()
                .filter(hit -> hit.rule().last())
                .mapToInt(Verdict.Hit::number)
                .findFirst()
                .orElse(0);
        List<Explanation> explanations = new ArrayList<>();
        for (int i = 0; i < rules.size(); i++) {
            int number = i + 1;
            Verdict.Hit hit = verdict.hits().stream()
                    .filter(one -> one.number() == number)
                    .findFirst()
                    .orElse(null);
            explanations.add(Explanation.of(rules.get(i), number, matter, hit, stoppedBy));
        }
        return explanations;
    }

    private Verdict decide(RuleInput matter, long[] candidates) {
        List<Verdict.Hit> hits = new ArrayList<>();
        boolean filed = false;
        for (int word = 0; word < candidates.length; word++) {
            for (long bits = candidates[word]; bits != 0; bits &= bits - 1) {
                int place = (word << 6) + Long.numberOfTrailingZeros(bits);
                Rule rule = rules.get(place);
                List<String> reasons = rule.reasons(matter);
                if (reasons == null) {
                    continue;
                }
                Verdict.Hit hit = hit(rule, place + 1, reasons, filed)
                        .arriving(matter.message().received().toLocalDate());
                hits.add(hit);
                filed |= hit.moves();
                if (rule.last()) {
                    return new Verdict(hits);
                }
            }
        }
        return new Verdict(hits);
    }

    private static Verdict.Hit hit(Rule rule, int number, List<String> reasons, boolean filedBefore) {
        boolean files = rule.then().stream().anyMatch(Effect::moves);
        if (!files) {
            return new Verdict.Hit(rule, number, reasons, rule.then(), List.of());
        }
        List<Effect> effects = new ArrayList<>();
        List<Effect> outranked = new ArrayList<>();
        boolean filed = filedBefore;
        for (Effect effect : rule.then()) {
            boolean moves = effect.moves();
            (moves && filed ? outranked : effects).add(effect);
            filed |= moves;
        }
        return new Verdict.Hit(rule, number, reasons, List.copyOf(effects), List.copyOf(outranked));
    }

    /** What of a message must be at hand for the rules that are on. */
    public Set<Condition.Need> needs() {
        return rules.stream()
                .filter(Rule::on)
                .flatMap(rule -> rule.needs().stream())
                .collect(Collectors.toSet());
    }
}
