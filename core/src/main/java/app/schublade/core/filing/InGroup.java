package app.schublade.core.filing;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** The sender is in one of the user's groups of people. */
public record InGroup(List<String> groups) implements Condition {
    public InGroup {
        groups = List.copyOf(groups);
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        for (String group : groups) {
            if (matter.message().groups().contains(group)) {
                return "from the group " + group;
            }
        }
        return null;
    }

    @Override
    public Trigger trigger() {
        return Trigger.of(Trigger.TriggerKind.GROUP, groups);
    }

    @Override
    public String sentence() {
        return "from the group " + Condition.either(groups);
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.inGroup(this);
    }
}
