package app.schublade.core.filing;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** The mailing list's identifier (RFC 2919). */
public record FromList(List<String> values) implements Condition {
    public FromList {
        values = Condition.lower(values);
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        String list = matter.message().listId();
        return list != null && values.contains(list) ? "mailing list " + list : null;
    }

    @Override
    public Trigger trigger() {
        return Trigger.of(Trigger.TriggerKind.LIST, values);
    }

    @Override
    public String sentence() {
        return "mailing list " + Condition.either(values);
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.fromList(this);
    }
}
