package app.schublade.core.filing;

import app.schublade.core.message.Trait;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** The message is one of several things. */
public record Traits(List<Trait> values) implements Condition {
    public Traits {
        values = List.copyOf(values);
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        for (Trait trait : values) {
            if (matter.message().is(trait)) {
                return trait.words();
            }
        }
        return null;
    }

    @Override
    public Trigger trigger() {
        return Trigger.of(
                Trigger.TriggerKind.TRAIT, values.stream().map(Trait::name).toList());
    }

    @Override
    public Set<Need> needs() {
        boolean others = values.stream()
                .anyMatch(trait -> trait == Trait.KNOWN_SENDER || trait == Trait.NEW_SENDER || trait == Trait.ANSWER);
        return others ? Set.of(Need.ACQUAINTANCE) : Set.of();
    }

    @Override
    public String sentence() {
        return Condition.either(values.stream().map(Trait::words).toList());
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.traits(this);
    }
}
