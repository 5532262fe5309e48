package app.schublade.core.filing;

import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Holds if another condition does not. */
public record Not(Condition condition) implements Condition {
    @Override
    public @Nullable String heldBy(RuleInput matter) {
        return condition.heldBy(matter) == null ? sentence() : null;
    }

    @Override
    public Set<Need> needs() {
        return condition.needs();
    }

    @Override
    public String sentence() {
        return "not " + condition.sentence();
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.not(this);
    }
}
