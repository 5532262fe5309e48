package app.schublade.core.filing;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Several conditions in one.
 *
 * @param all whether all of them must hold, or any; one without parts never holds
 */
public record Group(boolean all, List<Condition> parts) implements Condition {
    public Group {
        parts = List.copyOf(parts);
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        List<String> reasons = new ArrayList<>();
        for (Condition part : parts) {
            String held = part.heldBy(matter);
            if (held != null && !all) {
                return held;
            }
            if (held == null && all) {
                return null;
            }
            if (held != null) {
                reasons.add(held);
            }
        }
        return reasons.isEmpty() ? null : String.join(" and ", reasons);
    }

    @Override
    public @Nullable Trigger trigger() {
        return all ? Trigger.ofAll(parts) : Trigger.ofAny(parts);
    }

    @Override
    public Set<Need> needs() {
        return Condition.needs(parts);
    }

    @Override
    public String sentence() {
        return parts.stream().map(Condition::sentence).collect(Collectors.joining(all ? " and " : " or ", "(", ")"));
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.group(this);
    }
}
