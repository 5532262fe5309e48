package app.schublade.core.filing;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A rule: when all of its conditions hold and none of its exceptions, its effects are carried out in order.
 *
 * @param when all must hold; a rule without any never acts
 * @param unless none may hold
 * @param last no later rules act on a message that this one took
 */
public record Rule(
        long id,
        String name,
        boolean on,
        List<Condition> when,
        List<Condition> unless,
        List<Effect> then,
        boolean last) {
    public Rule {
        when = List.copyOf(when);
        unless = List.copyOf(unless);
        then = List.copyOf(then);
    }

    /** The rule with one more exception. */
    public Rule unless(Condition exception) {
        List<Condition> more = new ArrayList<>(unless);
        more.add(exception);
        return new Rule(id, name, on, when, more, then, last);
    }

    /** The same rule under another name. */
    public Rule called(String other) {
        return new Rule(id, other, on, when, unless, then, last);
    }

    /** Whether it asks for a group of people. */
    public boolean names(String group) {
        return Stream.concat(when.stream(), unless.stream()).anyMatch(condition -> names(condition, group));
    }

    private static boolean names(Condition condition, String group) {
        if (condition instanceof Not not) {
            return names(not.condition(), group);
        }
        return condition instanceof Group several
                ? several.parts().stream().anyMatch(part -> names(part, group))
                : condition instanceof InGroup in && in.groups().contains(group);
    }

    /** Why the rule takes the message, one phrase a condition; null if it does not take it. */
    @Nullable
    List<String> reasons(RuleInput matter) {
        if (when.isEmpty()) {
            return null;
        }
        List<String> reasons = new ArrayList<>();
        for (Condition condition : when) {
            String held = condition.heldBy(matter);
            if (held == null) {
                return null;
            }
            reasons.add(held);
        }
        return unless.stream().anyMatch(condition -> condition.heldBy(matter) != null) ? null : reasons;
    }

    /** The rule in plain English: {@code "sent to schools@… → file into Schools, category Next"}. */
    public String sentence() {
        String conditions = when.isEmpty() ? "nothing yet" : sentence(when, ", ");
        String exceptions = unless.isEmpty() ? "" : "; unless " + sentence(unless, " or ");
        String effects = then.stream().map(Effect::sentence).collect(Collectors.joining(", "));
        String stop = last ? (effects.isEmpty() ? "no later rules" : ", no later rules") : "";
        return conditions + exceptions + " → " + effects + stop;
    }

    Set<Condition.Need> needs() {
        return Stream.of(when, unless)
                .flatMap(conditions -> Condition.needs(conditions).stream())
                .collect(Collectors.toSet());
    }

    private static String sentence(List<Condition> conditions, String between) {
        return conditions.stream().map(Condition::sentence).collect(Collectors.joining(between));
    }
}
