package app.schublade.core.filing;

import app.schublade.core.message.Message;
import java.util.ArrayList;
import java.util.List;

/**
 * All rules of a user in their order. All that take a message act on it, until one says "no later rules"; the first
 * folder wins, the others are outranked; everything else adds up. Rules that are off are passed over but keep their
 * number.
 */
public record RuleBook(List<Rule> rules) {
    public RuleBook {
        rules = List.copyOf(rules);
    }

    /** Decides what happens to a message that has just arrived. Cost: one look at each rule. */
    public Verdict file(Message message) {
        Matter matter = new Matter(message);
        List<Verdict.Hit> hits = new ArrayList<>();
        boolean filed = false;
        for (int i = 0; i < rules.size(); i++) {
            Rule rule = rules.get(i);
            List<String> reasons = rule.on() ? rule.reasons(matter) : null;
            if (reasons == null) {
                continue;
            }
            Verdict.Hit hit = hit(rule, i + 1, reasons, filed);
            hits.add(hit);
            filed |= hit.effects().stream().anyMatch(Effect.FileInto.class::isInstance);
            if (rule.last()) {
                break;
            }
        }
        return new Verdict(hits);
    }

    private static Verdict.Hit hit(Rule rule, int number, List<String> reasons, boolean filedBefore) {
        List<Effect> effects = new ArrayList<>();
        List<Effect> outranked = new ArrayList<>();
        boolean filed = filedBefore;
        for (Effect effect : rule.then()) {
            boolean files = effect instanceof Effect.FileInto;
            (files && filed ? outranked : effects).add(effect);
            filed |= files;
        }
        return new Verdict.Hit(rule, number, reasons, List.copyOf(effects), List.copyOf(outranked));
    }
}
